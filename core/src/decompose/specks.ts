import type { Mesh } from '../mesh/index.js';
import { closedSolid, type ClosedSolid } from '../solid/index.js';
import { shellBounds } from './separate-parts.js';

/** A loose surface smaller than this share of the largest one is a crumb of an export. */
const SPECK_SHARE = 2e-3;

/** Art without its specks. */
export interface Speckless {
  /** faces that are no specks, ascending; all of them where all are specks */
  kept: Uint32Array;
  /** loose surfaces that are left out */
  specks: number;
  /** all of the art, specks and all */
  solid: ClosedSolid;
}

/** The faces of a mesh but for loose surfaces that are crumbs of an export: nothing collides with those. */
export function speckless(mesh: Pick<Mesh, 'positions' | 'indices'>): Speckless {
  const solid = closedSolid(mesh);
  const boxes = shellBounds(solid);
  const sizes = Array.from({ length: solid.shells }, (_, s) =>
    Math.hypot(...[0, 1, 2].map((k) => boxes[s * 6 + 3 + k]! - boxes[s * 6 + k]!)),
  );
  // Measured against the largest, so that crumbs far away do not make the art look large.
  const least = sizes.reduce((a, b) => Math.max(a, b), 0) * SPECK_SHARE;
  const kept: number[] = [];
  for (let f = 0; f < solid.faces; f++) if (sizes[solid.shellOf[f]!]! >= least) kept.push(solid.source[f]!);
  return { kept: Uint32Array.from(kept).sort(), specks: sizes.filter((size) => size < least).length, solid };
}

/** [3 * faces]: corners of some faces of a mesh. */
export const cornersOfFaces = (
  { indices }: Pick<Mesh, 'indices'>,
  faces: Uint32Array,
): Uint32Array<ArrayBuffer> => {
  const corners = new Uint32Array(faces.length * 3);
  for (let i = 0; i < corners.length; i++) corners[i] = indices[faces[(i / 3) | 0]! * 3 + (i % 3)]!;
  return corners;
};
