import type { Shape } from '@yard-brace/core';

/** More shapes than any set has, and those of a long drag beside them. */
const MAX_SHAPES = 4096;

/**
 * Shapes by what they are. Each message brings copies; what was measured of a shape is kept for the shape itself, and
 * so a copy of one that is known is taken for it.
 */
export class KnownShapes {
  private readonly shapes = new Map<string, Shape>();

  same(shape: Shape): Shape {
    const text = JSON.stringify(shape);
    const known = this.shapes.get(text) ?? shape;
    // The one asked for last stands last; those asked for longest ago go.
    this.shapes.delete(text);
    this.shapes.set(text, known);
    if (this.shapes.size > MAX_SHAPES) this.shapes.delete(this.shapes.keys().next().value!);
    return known;
  }
}
