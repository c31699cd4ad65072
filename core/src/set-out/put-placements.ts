import * as z from 'zod';
import { counted } from '../math/figures.js';
import { MAX_NAME_CHARACTERS } from '../piece/index.js';
import { type Placement, placementSchema, type SetOut } from './set-out.js';

/** What was done, for the list of what can be undone; words are made of it in one place. */
export const PUT_ACTS = [
  'place',
  'move',
  'turn',
  'mirror',
  'repeat',
  'swap',
  'group',
  'ungroup',
  'lock',
  'unlock',
  'delete',
  'materials',
] as const;
export type PutAct = (typeof PUT_ACTS)[number];

/** A change to a set-out: only the placements that change, and those that go. */
export const setOutEditSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('put-placements'),
    act: z.enum(PUT_ACTS),
    changed: z.array(placementSchema),
    removed: z.array(z.string().max(40)),
  }),
  z.object({ kind: z.literal('rename'), name: z.string().trim().min(1).max(MAX_NAME_CHARACTERS) }),
]);
export type SetOutEdit = z.infer<typeof setOutEditSchema>;

/** The set-out with a change made: changed placements stay in their order, new ones come last. */
export function applyToSetOut(setOut: SetOut, edit: SetOutEdit): SetOut {
  if (edit.kind === 'rename') return { ...setOut, name: edit.name };
  const changed = new Map(edit.changed.map((each) => [each.id, each]));
  const removed = new Set(edit.removed);
  const kept = setOut.placements.flatMap((each) => {
    if (removed.has(each.id)) return [];
    const now = changed.get(each.id) ?? each;
    changed.delete(each.id);
    return [now];
  });
  return { ...setOut, placements: [...kept, ...changed.values()] };
}

/** What takes a set-out from one state to another; null when they are the same. */
export function placementsBetween(
  before: readonly Placement[],
  after: readonly Placement[],
  act: PutAct,
): Extract<SetOutEdit, { kind: 'put-placements' }> | null {
  const was = new Map(before.map((each) => [each.id, each]));
  const is = new Set(after.map(({ id }) => id));
  const changed = after.filter((each) => was.get(each.id) !== each);
  const removed = before.flatMap(({ id }) => (is.has(id) ? [] : [id]));
  return changed.length || removed.length ? { kind: 'put-placements', act, changed, removed } : null;
}

const ACT_WORDS: Record<PutAct, string> = {
  place: 'place',
  move: 'move',
  turn: 'turn',
  mirror: 'mirror',
  repeat: 'repeat',
  swap: 'swap',
  group: 'group',
  ungroup: 'ungroup',
  lock: 'lock',
  unlock: 'unlock',
  delete: 'delete',
  materials: 'materials of',
};

export const describeSetOutEdit = (edit: SetOutEdit): string =>
  edit.kind === 'rename'
    ? `rename to “${edit.name}”`
    : `${ACT_WORDS[edit.act]} ${counted(Math.max(edit.changed.length, edit.removed.length), 'piece')}`;
