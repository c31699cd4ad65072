import { type Bounds, centreOf, diagonalOf, isEmpty } from '@yard-brace/core';
import { Group, type LineSegments } from 'three';
import { groundGrid } from './ground-grid';

/** Least radius of the drawn ground, in metres. */
const MIN_RADIUS_METRES = 5;

/** The drawn ground: at zero, or under what stands somewhere else; its lines stay on whole metres. */
export class Ground {
  readonly object = new Group();
  private grid: LineSegments | undefined;

  constructor(private readonly gridMetres: number) {}

  lay(bounds: Bounds): void {
    this.dispose();
    if (isEmpty(bounds)) return;
    const size = diagonalOf(bounds);
    const centre = centreOf(bounds);
    const onZero = bounds.min[1] > -size && bounds.min[1] < size / 2;
    const step = Math.max(1, Math.round(this.gridMetres));
    this.grid = groundGrid(Math.max(MIN_RADIUS_METRES, size * 2.2), this.gridMetres);
    this.grid.position.set(
      Math.round(centre[0] / step) * step,
      onZero ? 0 : bounds.min[1],
      Math.round(centre[2] / step) * step,
    );
    this.object.add(this.grid);
  }

  dispose(): void {
    if (!this.grid) return;
    this.object.remove(this.grid);
    this.grid.geometry.dispose();
    this.grid = undefined;
  }
}
