import type { Vec3 } from '../math/index.js';
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

type Clearances = Pick<PieceDocument, 'clearances'>;

const setTo = (clearances: Clearance[]): EditOf<'set-clearances'> => ({
  kind: 'set-clearances',
  clearances,
});

/** The edit that adds a clearance under the next number that none has: the same work gives the same document. */
export function addClearance(
  { clearances }: Clearances,
  clearance: Omit<Clearance, 'id' | 'name'>,
): EditOf<'set-clearances'> {
  const taken = clearances.map(({ id }) => Number(/^c(\d+)$/.exec(id)?.[1] ?? 0));
  const id = `c${Math.max(0, ...taken) + 1}`;
  return setTo([...clearances, { id, name: `opening ${clearances.length + 1}`, ...clearance }]);
}

export const changeClearance = (
  { clearances }: Clearances,
  id: string,
  change: Partial<Omit<Clearance, 'id'>>,
): EditOf<'set-clearances'> =>
  setTo(clearances.map((each) => (each.id === id ? { ...each, ...change } : each)));

/** Height grows upwards from the sill, the other sides both ways. */
export function resizeClearance(
  document: Clearances,
  id: string,
  axis: 0 | 1 | 2,
  metres: number,
): EditOf<'set-clearances'> {
  const { center, halfExtents } = document.clearances.find((each) => each.id === id)!;
  const half: Vec3 = [...halfExtents];
  half[axis] = metres / 2;
  const moved: Vec3 = [...center];
  if (axis === 1) moved[1] += half[1] - halfExtents[1];
  return changeClearance(document, id, { halfExtents: half, center: moved });
}

export const removeClearance = ({ clearances }: Clearances, id: string): EditOf<'set-clearances'> =>
  setTo(clearances.filter((each) => each.id !== id));
