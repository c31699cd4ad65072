import * as z from 'zod';
import { type Quat, quatSchema, vec3Schema } from '../../math/index.js';
import { editKind } from './edit-kind.js';
import { grownAndTurned } from './grown-and-turned.js';

/** The piece is turned about a point: the piece, never a node. */
export const turn = editKind({
  schema: z.object({ kind: z.literal('turn'), turn: quatSchema, about: vec3Schema }),
  apply: (document, edit) => grownAndTurned(document, { factor: 1, turn: edit.turn, about: edit.about }),
  describe: (edit) => `turn ${turnText(edit.turn)}`,
});

/** "90° about Y"; "120°" about no axis of the piece */
function turnText([x, y, z, w]: Quat): string {
  const length = Math.hypot(x, y, z);
  const degrees = (2 * Math.atan2(length, Math.abs(w)) * 180) / Math.PI;
  const axis = [x, y, z].findIndex((v) => Math.abs(v) > length * 0.999999);
  const said = `${Number(degrees.toFixed(1))}°`;
  return axis < 0 || length === 0 ? said : `${said} about ${'XYZ'[axis]}`;
}
