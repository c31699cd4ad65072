import {
  type Bounds,
  boundsOf,
  type CollisionShape,
  emptyBounds,
  shapePolygons,
  unionOf,
} from '@yard-brace/core';

/** Bounds of shapes all together; of none, empty. */
export const boundsOfShapes = (shapes: readonly CollisionShape[]): Bounds =>
  shapes.reduce((all, shape) => unionOf(all, boundsOf(shapePolygons(shape).points)), emptyBounds());
