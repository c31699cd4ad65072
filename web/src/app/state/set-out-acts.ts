import { inject, Injectable } from '@angular/core';
import {
  add,
  addProxies,
  applyEdit,
  centreOf,
  counted,
  familyFeature,
  freshIds,
  jumpBetween,
  lengthText,
  listText,
  meshNameFrom,
  mirroredAcross,
  mirroredShapes,
  type PieceDocument,
  placedAsMade,
  placedAt,
  placedByManifests,
  placedPieces,
  type Placement,
  pushEdit,
  type PutAct,
  type PutTogetherPiece,
  readManifest,
  repeatedAlong,
  rotate,
  type SetFault,
  shiftedBy,
  shiftFor,
  sourceKey,
  startHistory,
  subtract,
  swapped,
  placementsTurned,
  type Vec3,
} from '@yard-brace/core';
import { Api } from '../api/api';
import { Compute, Stopped } from '../workers/compute';
import { Notices } from './notices';
import { SetOutSelection } from './set-out-selection';
import { SetOutStore } from './set-out-store';

/** A swap moves what a family has in common by more than this, metres: that is said. */
const JUMP_METRES = 1e-4;

/** Parts that left apart are together again when they are off by no more than this, metres. */
const TOGETHER_METRES = 1e-6;

/** What is done to pieces of a set-out: each is one step to undo. */
@Injectable()
export class SetOutActs {
  private readonly store = inject(SetOutStore);
  private readonly selection = inject(SetOutSelection);
  private readonly notices = inject(Notices);
  private readonly compute = inject(Compute);
  private readonly api = inject(Api);

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

  /** The first of what is chosen by its pivot to a place; the rest goes along. */
  moveTo(position: Vec3): void {
    const [first] = this.selection.chosen;
    if (first) this.shift(subtract(position, first.position));
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

  /**
   * Pieces of their own in the place of instances of scale −1: mirrored art, mirrored shapes, mirrored names. A piece
   * that the yard has already is not made twice.
   */
  async makeTrueMirrors(): Promise<void> {
    const mirrored = this.selection.moving.filter((each) => each.mirrored);
    try {
      for (const key of new Set(mirrored.map(sourceKey))) {
        const same = mirrored.filter((each) => sourceKey(each) === key);
        const piece = await this.mirroredPiece(same[0]!);
        if (piece === null) return;
        await this.store.fetch({ piece, version: null });
        this.put(
          'swap',
          swapped(same, { piece }).map((each) => ({ ...each, mirrored: false })),
        );
      }
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
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

  /** Place, height or turn of another placement, for all that is chosen. */
  copyFrom(other: Placement, what: 'all' | 'turn' | 'height'): void {
    const { moving } = this.selection;
    if (what === 'turn')
      this.put(
        'turn',
        moving.map((each) => ({ ...each, rotation: other.rotation, mirrored: other.mirrored })),
      );
    else if (what === 'height')
      this.put(
        'move',
        moving.map((each) => ({
          ...each,
          position: [each.position[0], other.position[1], each.position[2]],
        })),
      );
    else {
      const { position, rotation, mirrored } = other;
      this.put(
        'move',
        moving.map((each) => ({ ...each, position, rotation, mirrored })),
      );
    }
  }

  /** Another piece, or another version, where what is chosen stands, or where all of its piece stand. What jumps is said. */
  async swap(source: { piece: number; version: number | null }, all: boolean): Promise<void> {
    const [first] = this.selection.chosen;
    if (!first) return;
    const of = all
      ? this.store.setOut.placements.filter((each) => sourceKey(each) === sourceKey(first))
      : this.selection.chosen;
    await this.store.fetch(source);
    const now = this.store.sourceOf(source)?.document;
    if (!now) {
      this.notices.say('That piece is no longer in the yard; choose another one.', true);
      return;
    }
    const jumps = of.map((each) => this.jumpOf(each, now));
    if (!this.put('swap', swapped(of, source))) return;
    const most = Math.max(0, ...jumps);
    const count = jumps.filter((jump) => jump > JUMP_METRES).length;
    if (!count) return;
    this.selection.set(of.filter((_, i) => jumps[i]! > JUMP_METRES).map(({ id }) => id));
    this.notices.say(
      `${count} of ${of.length} jump by up to ${lengthText(most)}: the pivots of both pieces lie apart from what they have in common. They are chosen; give both one pivot in step 4.`,
      true,
    );
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

  /**
   * Pieces that were delivered apart where their manifests say that they sat: those that stand here already are moved
   * there, the others are put.
   *
   * @throws ManifestError
   */
  async putTogether(
    files: readonly { name: string; text: string }[],
    pieces: readonly { id: number; meshName: string }[],
  ): Promise<void> {
    const manifests = files.map(({ name, text }) => readManifest(name, text));
    const wanted = new Set(manifests.map(({ mesh }) => mesh));
    const documents = new Map<number, PieceDocument>();
    for (const { id, meshName } of pieces) {
      if (!wanted.has(meshName)) continue;
      await this.store.fetch({ piece: id, version: null });
      const source = this.store.sourceOf({ piece: id, version: null });
      if (source) documents.set(id, source.document);
    }
    const { stands, unknown } = placedByManifests(manifests, documents);
    const { placements } = this.store.setOut;
    const ids = freshIds(this.store.setOut, stands.length);
    const changed = stands.map(({ piece, at }, i): Placement => {
      const there = placements.find((each) => each.piece === piece && !each.locked);
      return there
        ? { ...there, ...at }
        : { id: ids[i]!, piece, version: null, ...at, group: null, locked: false, materials: {} };
    });
    if (changed.length && this.put('place', changed)) this.selection.set(changed.map(({ id }) => id));
    this.notices.say(
      togetherText(stands, unknown),
      unknown.length > 0 || stands.some(({ off }) => off > TOGETHER_METRES),
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

  /** The shapes of a piece onto its mirrored twin, which has none: saved with that piece. */
  async mirrorShapes(fault: Extract<SetFault, { kind: 'mirror-forgotten' }>): Promise<void> {
    const from = this.store.sourceOf({ piece: fault.of, version: null });
    const to = this.store.sourceOf({ piece: fault.piece, version: null });
    if (!from || !to) return;
    try {
      const { piece } = to;
      const shapes = mirroredShapes(from.document, to.document);
      const edit = addProxies(to.document, shapes);
      await this.api.savePiece(piece.id, piece.version, { history: pushEdit(piece.history, edit) });
      await this.store.refresh(piece.id);
      this.notices.say(`${to.document.name} has ${shapes.length} shapes now; open it to look at them.`);
    } catch (error) {
      this.notices.error(error);
    }
  }

  private async mirroredPiece(like: Placement): Promise<number | null> {
    const source = this.store.sourceOf(like);
    if (!source) return null;
    const { document } = source;
    const { position, rotation } = document.pivot;
    const plane = { point: position, normal: rotate(rotation, [1, 0, 0]) };
    const { edit } = await this.compute.run(
      (jobs, progress) => jobs.operate(document, { op: 'mirror', parts: [], plane, copy: false }, progress),
      { first: 'Mirroring' },
    );
    const seen = applyEdit(document, edit);
    const name = `${document.name.slice(0, 100)} (mirrored)`;
    const added = await this.api.addPiece(
      this.store.current.yard.id,
      startHistory({ ...seen, name, meshName: meshNameFrom(name) }),
    );
    return added.id;
  }

  private jumpOf(placement: Placement, after: PieceDocument): number {
    const before = this.store.sourceOf(placement)?.document;
    if (!before) return 0;
    return jumpBetween(
      placement,
      { pivot: before.pivot, place: familyFeature(before) },
      { pivot: after.pivot, place: familyFeature(after) },
    );
  }

  private middleOf(placements: readonly Placement[]): Vec3 {
    const placed = placedPieces({ placements: [...placements] }, this.store.documents());
    const middles = placed.map(({ bounds }) => centreOf(bounds));
    if (!middles.length) return placements[0]!.position;
    const far = middles.reduce((sum, at) => add(sum, at), [0, 0, 0] as Vec3);
    return far.map((v) => v / middles.length) as Vec3;
  }

  /** True when it was put. */
  private put(act: PutAct, changed: readonly Placement[], removed: readonly string[] = []): boolean {
    try {
      this.store.put(act, changed, removed);
      return true;
    } catch (error) {
      this.notices.error(error);
      return false;
    }
  }
}

function togetherText(stands: readonly PutTogetherPiece[], unknown: readonly string[]): string {
  const off = stands.filter((each) => each.off > TOGETHER_METRES);
  const most = Math.max(0, ...off.map((each) => each.off));
  const said = [
    `${counted(stands.length, 'piece')} ${stands.length === 1 ? 'stands' : 'stand'} where the manifests have ${stands.length === 1 ? 'it' : 'them'}`,
    ...(off.length
      ? [
          `${off.length} of them off by up to ${lengthText(most)}: their pivots have moved since they were delivered`,
        ]
      : stands.length
        ? ['exactly as they were made']
        : []),
    ...(unknown.length ? [`no piece of the yard is named ${listText(unknown)}`] : []),
  ];
  return `${said.join('; ')}.`;
}
