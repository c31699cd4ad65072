import { inject, Injectable } from '@angular/core';
import {
  addProxies,
  applyEdit,
  counted,
  familyFeature,
  freshIds,
  jumpBetween,
  lengthText,
  listText,
  meshNameFrom,
  mirroredShapes,
  type PieceDocument,
  placedByManifests,
  type Placement,
  pushEdit,
  type PutTogetherPiece,
  readManifest,
  rotate,
  type SetFault,
  sourceKey,
  startHistory,
  swapped,
} from '@yard-brace/core';
import { Api } from '../api/api';
import { Compute, Stopped } from '../workers/compute';
import { Notices } from './notices';
import { SetOutActs } from './set-out-acts';
import { SetOutSelection } from './set-out-selection';
import { SetOutStore } from './set-out-store';

/** A swap moves what a family has in common by more than this, metres: that is said. */
const JUMP_METRES = 1e-4;
/** Parts that left apart are together again when they are off by no more than this, metres. */
const TOGETHER_METRES = 1e-6;

/** Other pieces in the place of what stands there, and pieces that a set-out changes. */
@Injectable()
export class SetOutPieces {
  private readonly store = inject(SetOutStore);
  private readonly selection = inject(SetOutSelection);
  private readonly acts = inject(SetOutActs);
  private readonly notices = inject(Notices);
  private readonly compute = inject(Compute);
  private readonly api = inject(Api);

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
    if (!this.acts.put('swap', swapped(of, source))) return;
    const most = Math.max(0, ...jumps);
    const count = jumps.filter((jump) => jump > JUMP_METRES).length;
    if (!count) return;
    this.selection.set(of.filter((_, i) => jumps[i]! > JUMP_METRES).map(({ id }) => id));
    this.notices.say(
      `${count} of ${of.length} jump by up to ${lengthText(most)}: the pivots of both pieces lie apart from what they have in common. They are chosen; give both one pivot in step 4.`,
      true,
    );
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
        this.acts.put(
          'swap',
          swapped(same, { piece }).map((each) => ({ ...each, mirrored: false })),
        );
      }
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
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
    if (changed.length && this.acts.put('place', changed)) this.selection.set(changed.map(({ id }) => id));
    this.notices.say(
      togetherText(stands, unknown),
      unknown.length > 0 || stands.some(({ off }) => off > TOGETHER_METRES),
    );
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

  /** The mirrored piece that the yard has of one, or a new one. */
  private async mirroredPiece(like: Placement): Promise<number | null> {
    const source = this.store.sourceOf(like);
    if (!source) return null;
    const { document } = source;
    const { id: yard } = this.store.current.yard;
    const name = `${document.name.slice(0, 100)} (mirrored)`;
    const { shelf } = await this.api.yard(yard);
    for (const { id } of shelf.filter((each) => each.name === name)) {
      await this.store.fetch({ piece: id, version: null });
      const twin = this.store.sourceOf({ piece: id, version: null })?.document;
      if (twin && (await this.compute.run((jobs) => jobs.isMirrored(document, twin), { first: 'Comparing' })))
        return id;
    }
    const { position, rotation } = document.pivot;
    const plane = { point: position, normal: rotate(rotation, [1, 0, 0]) };
    const { edit } = await this.compute.run(
      (jobs, progress) => jobs.operate(document, { op: 'mirror', parts: [], plane, copy: false }, progress),
      { first: 'Mirroring' },
    );
    const seen = applyEdit(document, edit);
    const added = await this.api.addPiece(
      yard,
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
