import { inject, Injectable } from '@angular/core';
import {
  add,
  centreOf,
  freshIds,
  mirroredAcross,
  placedAsMade,
  placedAt,
  placedPieces,
  type Placement,
  type PutAct,
  repeatedAlong,
  type SetFault,
  shiftedBy,
  shiftFor,
  subtract,
  placementsTurned,
  type Vec3,
} from '@yard-brace/core';
import { Notices } from './notices';
import { SetOutSelection } from './set-out-selection';
import { SetOutStore } from './set-out-store';

/** What of another placement is taken over. */
export const COPIED_OF = ['place', 'turn', 'height'] as const;
export type CopiedOf = (typeof COPIED_OF)[number];

/** What is done to pieces of a set-out: each is one step to undo. */
@Injectable()
export class SetOutActs {
  private readonly store = inject(SetOutStore);
  private readonly selection = inject(SetOutSelection);
  private readonly notices = inject(Notices);

  /** A piece put by its pivot; it is chosen from then on. */
  place(source: Pick<Placement, 'piece' | 'version'>, position: Vec3, like?: Placement): void {
    const [id] = freshIds(this.store.setOut, 1);
    const one: Placement = {
      ...source,
      ...placedAt(position),
      ...(like ? { rotation: like.rotation, mirrored: like.mirrored } : {}),
      id: id!,
      group: null,
      locked: false,
      materials: {},
    };
    if (this.put('place', [one])) this.selection.set([one.id]);
  }

  shift(by: Vec3): void {
    this.put('move', shiftedBy(this.selection.moving, by));
  }

  /** Turned together about an axis of the set-out through the pivot of the first. */
  turn(degrees: number, axis: 0 | 1 | 2 = 1): void {
    const { moving } = this.selection;
    const [first] = moving;
    if (first) this.put('turn', placementsTurned(moving, first.position, degrees, axis));
  }

  /** Across the plane through the middle of what is chosen, square to x: as instances of scale −1. */
  mirror(): void {
    const { moving } = this.selection;
    if (moving.length) this.put('mirror', mirroredAcross(moving, this.middleOf(moving)));
  }

  /** Copies along a run, each a step from the one before, metres; they are chosen with the first from then on. */
  repeat(step: Vec3, count: number): void {
    const { chosen } = this.selection;
    const copies = repeatedAlong(this.store.setOut, chosen, step, count);
    if (this.put('repeat', copies)) this.selection.set([...chosen, ...copies].map(({ id }) => id));
  }

  group(): void {
    const { chosen } = this.selection;
    const taken = new Set(this.store.setOut.placements.map(({ group }) => group));
    let n = 1;
    while (taken.has(`g${n}`)) n++;
    this.put(
      'group',
      chosen.map((each) => ({ ...each, group: `g${n}` })),
    );
  }

  ungroup(): void {
    this.put(
      'ungroup',
      this.selection.chosen.filter(({ group }) => group !== null).map((each) => ({ ...each, group: null })),
    );
  }

  lock(locked: boolean): void {
    this.put(
      locked ? 'lock' : 'unlock',
      this.selection.chosen.filter((each) => each.locked !== locked).map((each) => ({ ...each, locked })),
    );
  }

  /** What is locked stays. */
  delete(): void {
    const gone = this.selection.chosen.filter(({ locked }) => !locked).map(({ id }) => id);
    if (gone.length) this.put('delete', [], gone);
    else if (this.selection.ids.size) this.notices.say('What is chosen is locked; unlock it first.');
  }

  /**
   * Place and turn, turn or height of another placement. Of several that are chosen the first takes a place, and the
   * rest goes along with it.
   */
  copyFrom({ position, rotation, mirrored }: Placement, what: CopiedOf): void {
    const { moving } = this.selection;
    const [first] = moving;
    if (!first) return;
    if (what === 'height')
      this.put(
        'move',
        moving.map((each) => ({ ...each, position: [each.position[0], position[1], each.position[2]] })),
      );
    else if (what === 'turn')
      this.put(
        'turn',
        moving.map((each) => ({ ...each, rotation, mirrored })),
      );
    else if (moving.length > 1) this.shift(subtract(position, first.position));
    else this.put('move', [{ ...first, position, rotation, mirrored }]);
  }

  setMaterial(slot: string, name: string): void {
    this.put(
      'materials',
      this.selection.chosen.map((each) => {
        const { [slot]: _before, ...rest } = each.materials;
        return { ...each, materials: name.trim() ? { ...rest, [slot]: name.trim() } : rest };
      }),
    );
  }

  /** Everything chosen, or all there is, where it was made: parts that left apart come together again. */
  dropAtOrigin(): void {
    const { chosen } = this.selection;
    const all = chosen.length ? chosen : this.store.setOut.placements;
    this.put(
      'move',
      all
        .filter(({ locked }) => !locked)
        .flatMap((each) => {
          const document = this.store.sourceOf(each)?.document;
          return document ? [{ ...each, ...placedAsMade(document.pivot) }] : [];
        }),
    );
  }

  /** Moves what a fault is about until it is gone. */
  mend(fault: SetFault): void {
    const shift = shiftFor(fault);
    if (!shift) return;
    const before = [...this.selection.ids];
    this.selection.choose(shift.placement);
    if (this.selection.moving.length) this.shift(shift.by);
    else this.notices.say('What would have to move is locked; unlock it first.');
    this.selection.set(before.length ? before : [shift.placement]);
  }

  private middleOf(placements: readonly Placement[]): Vec3 {
    const placed = placedPieces({ placements: [...placements] }, this.store.documents());
    const middles = placed.map(({ bounds }) => centreOf(bounds));
    if (!middles.length) return placements[0]!.position;
    const far = middles.reduce((sum, at) => add(sum, at), [0, 0, 0] as Vec3);
    return far.map((v) => v / middles.length) as Vec3;
  }

  /** True when it was put. */
  put(act: PutAct, changed: readonly Placement[], removed: readonly string[] = []): boolean {
    try {
      this.store.put(act, changed, removed);
      return true;
    } catch (error) {
      this.notices.error(error);
      return false;
    }
  }
}
