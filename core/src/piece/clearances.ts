import { add, rotate, scaled, type Vec3 } from '../math/index.js';
import type { BoxShape } from '../shape/index.js';
import type { Clearance, PieceDocument } from './document.js';
import type { EditOf } from './edits/index.js';

/** The volume that must stay open, as a box. */
export const clearanceShape = ({ center, halfExtents, rotation }: Clearance): BoxShape => ({
  kind: 'box',
  center,
  halfExtents,
  rotation,
});

/** A way through that was found, as a clearance that no document holds yet: its own z is the way through. */
export const clearanceFound = (
  { center, halfExtents, rotation }: Pick<Clearance, 'center' | 'halfExtents' | 'rotation'>,
  name = '',
): Clearance => ({ id: '', name, center, halfExtents, rotation, through: 'z' });

type Clearances = Pick<PieceDocument, 'clearances'>;

const setTo = (clearances: Clearance[]): EditOf<'set-clearances'> => ({
  kind: 'set-clearances',
  clearances,
});

/** The edit that adds clearances under the next numbers that none has: the same work gives the same document. */
export function addClearances(
  { clearances }: Clearances,
  added: readonly Omit<Clearance, 'id' | 'name'>[],
): EditOf<'set-clearances'> {
  const taken = clearances.map(({ id }) => Number(/^c(\d+)$/.exec(id)?.[1] ?? 0));
  const first = Math.max(0, ...taken) + 1;
  return setTo([
    ...clearances,
    ...added.map((clearance, i) => ({
      id: `c${first + i}`,
      name: `opening ${clearances.length + 1 + i}`,
      ...clearance,
    })),
  ]);
}

export const addClearance = (
  document: Clearances,
  clearance: Omit<Clearance, 'id' | 'name'>,
): EditOf<'set-clearances'> => addClearances(document, [clearance]);

export const changeClearance = (
  { clearances }: Clearances,
  id: string,
  change: Partial<Omit<Clearance, 'id'>>,
): EditOf<'set-clearances'> =>
  setTo(clearances.map((each) => (each.id === id ? { ...each, ...change } : each)));

/** Which of its own axes are a clearance's width and height, and along which one passes. */
export interface ClearanceAxes {
  width: 0 | 1 | 2;
  height: 0 | 1 | 2;
  through: 0 | 1 | 2;
}

/** Of the two axes across the way through, the more upright one is the height, however the piece was turned. */
export function clearanceAxes({ rotation, through }: Pick<Clearance, 'rotation' | 'through'>): ClearanceAxes {
  const way = through === 'x' ? 0 : 2;
  const other = through === 'x' ? 2 : 0;
  const up = (axis: number) => Math.abs(rotate(rotation, UNIT[axis]!)[1]);
  return up(other) > up(1) + 1e-9
    ? { width: 1, height: other, through: way }
    : { width: other, height: 1, through: way };
}

/** Whether one goes through from above: a hatch in a floor. */
export const isHatch = ({ rotation, through }: Pick<Clearance, 'rotation' | 'through'>): boolean =>
  Math.abs(rotate(rotation, UNIT[through === 'x' ? 0 : 2]!)[1]) > Math.SQRT1_2;

const UNIT: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** Height grows upwards from the sill, the other sides both ways. */
export function resizeClearance(
  document: Clearances,
  id: string,
  axis: 0 | 1 | 2,
  metres: number,
): EditOf<'set-clearances'> {
  const clearance = document.clearances.find((each) => each.id === id)!;
  const { center, halfExtents, rotation } = clearance;
  const half: Vec3 = [...halfExtents];
  half[axis] = metres / 2;
  if (clearanceAxes(clearance).height !== axis) return changeClearance(document, id, { halfExtents: half });
  const up = rotate(rotation, UNIT[axis]!);
  const rise = scaled(up, (half[axis] - halfExtents[axis]) * (Math.sign(up[1]) || 1));
  return changeClearance(document, id, { halfExtents: half, center: add(center, rise) });
}

export const removeClearance = ({ clearances }: Clearances, id: string): EditOf<'set-clearances'> =>
  setTo(clearances.filter((each) => each.id !== id));
