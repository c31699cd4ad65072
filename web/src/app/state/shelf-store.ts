import { inject, Injectable } from '@angular/core';
import { type Added, FIRST_SHELF_PIECES, type PieceSummary, type YardWithPieces } from '@yard-brace/contract';
import {
  listText,
  type PieceDocument,
  type ShelfFacts,
  startHistory,
  talliesBeside,
  type Tally,
  targetsOf,
} from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import { Api } from '../api/api';
import { sentenceOf } from '../api/told';
import { Compute } from '../workers/compute';
import { Notices } from './notices';
import { showYardIn } from './shown-unit';

/** The pieces of one yard: shown on the shelf and as the strip beside the bench. */
@Injectable({ providedIn: 'root' })
export class ShelfStore {
  private readonly api = inject(Api);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly open$ = new BehaviorSubject<YardWithPieces | null>(null);
  readonly yard$ = this.open$.asObservable();
  /** a load that began later counts; what comes of an earlier one is let go */
  private asked = 0;
  /** the pieces after the first ones */
  private rest: Promise<void> = Promise.resolve();

  get yard(): YardWithPieces | null {
    return this.open$.value;
  }

  /** The first pieces of a yard; the others follow. A long shelf that is there already is told only what has changed. */
  async load(yardId: number): Promise<void> {
    const asked = ++this.asked;
    const { yard: known } = this;
    if (known?.id !== yardId) this.open$.next(null);
    else if (known.more === 0 && known.shelf.length > FIRST_SHELF_PIECES) return this.catchUp(known, asked);
    const yard = await this.api.yard(yardId);
    if (asked !== this.asked) return;
    showYardIn(yard.rules.unit);
    this.open$.next(withTallies(yard));
    this.rest = this.loadRest(asked);
    // What did not come is asked for again with the shelf; what needs all of it waits, and is told.
    this.rest.catch(() => undefined);
  }

  /** Once the whole shelf is there, not only what is seen first. */
  async whole(): Promise<void> {
    await this.rest;
  }

  private async loadRest(asked: number): Promise<void> {
    for (let yard = this.yard; yard && yard.more > 0 && asked === this.asked; yard = this.yard) {
      const pieces = await this.api.shelfAfter(yard.id, yard.shelf.at(-1)!);
      const now = this.yard;
      if (asked !== this.asked || now?.id !== yard.id) return;
      const known = new Set(now.shelf.map(({ id }) => id));
      const shelf = [...now.shelf, ...pieces.filter(({ id }) => !known.has(id))];
      this.open$.next(
        withTallies({ ...now, shelf, more: pieces.length ? Math.max(0, now.pieces - shelf.length) : 0 }),
      );
    }
  }

  private async catchUp(known: YardWithPieces, asked: number): Promise<void> {
    for (let since = known.changed, more = true; more;) {
      const changes = await this.api.shelfSince(known.id, since);
      const now = this.yard;
      if (asked !== this.asked || now?.id !== known.id) return;
      ({ changed: since, more } = changes);
      showYardIn(changes.yard.rules.unit);
      const gone = new Set(changes.gone);
      const changed = new Map(changes.pieces.map((piece) => [piece.id, piece]));
      const kept = now.shelf.flatMap((piece) => (gone.has(piece.id) ? [] : [changed.get(piece.id) ?? piece]));
      const there = new Set(kept.map(({ id }) => id));
      const shelf = [...kept, ...changes.pieces.filter(({ id }) => !there.has(id))];
      this.open$.next(withTallies({ ...now, ...changes.yard, shelf, changed: since }));
    }
  }

  /** A piece that was just added stands on the shelf at once. */
  appear(yardId: number, { id, name, version, savedAt, facts }: Added): void {
    const { yard } = this;
    if (yard?.id !== yardId) return;
    const piece: PieceSummary = {
      ...facts,
      ownTally: facts.tally,
      id,
      name,
      version,
      savedAt,
      picture: null,
      broken: null,
    };
    this.open$.next({ ...yard, pieces: yard.pieces + 1, shelf: [...yard.shelf, piece] });
    this.put({ id, facts });
  }

  /** What is known of a piece now, from the answer to a save: the shelf is not asked for all of it again. */
  put(change: Partial<PieceSummary> & { id: number; facts: ShelfFacts }): void {
    const { yard } = this;
    if (!yard?.shelf.some(({ id }) => id === change.id)) return;
    const { facts, ...rest } = change;
    const changed = yard.shelf.map((piece) =>
      piece.id === change.id ? { ...piece, ...facts, ...rest, ownTally: facts.tally } : piece,
    );
    this.open$.next(withTallies({ ...yard, shelf: changed }));
  }

  setPicture(id: number, picture: string): void {
    const { yard } = this;
    if (!yard) return;
    const shelf = yard.shelf.map((piece) => (piece.id === id ? { ...piece, picture } : piece));
    this.open$.next({ ...yard, shelf });
  }

  /** The pieces that a file of this name came for before: several where it was split into them. */
  knownAs(yardId: number, fileName: string): PieceSummary[] {
    if (this.yard?.id !== yardId) return [];
    return this.yard.shelf.filter(({ cameFrom }) => cameFrom.toLowerCase() === fileName.toLowerCase());
  }

  /** A piece that is several: each comes onto the shelf where it stood; the one that held them goes, or stays. */
  async splitIntoPieces({ yardId, id, version, document, remove }: SplitPiece): Promise<number> {
    const documents = await this.compute.run((jobs, progress) => jobs.extractPieces(document, progress), {
      first: 'Splitting into pieces',
    });
    const added = await this.api.takeApart(id, version, documents.map(startHistory), remove);
    await this.load(yardId);
    return added.length;
  }

  /** Take pieces off the shelf for good. */
  async remove(pieces: readonly PieceSummary[]): Promise<void> {
    await this.each(pieces, ({ id }) => this.api.removePiece(id));
  }

  /** Deliver pieces one after the other for every target of the yard; each says how it went. */
  async deliver(pieces: readonly PieceSummary[]): Promise<void> {
    const delivered: { name: string; agreed: boolean }[] = [];
    const targets = targetsOf(this.yard!.rules);
    await this.each(pieces, async ({ id, name, version }) => {
      const verdicts: boolean[] = [];
      for (const target of targets)
        try {
          verdicts.push((await this.api.deliver(id, { version, target: target.id })).agreed);
        } catch (error) {
          // What one target refuses keeps no other from getting it.
          const whose = targets.length > 1 ? ` for ${target.name}` : '';
          this.notices.say(`${name}${whose}: ${sentenceOf(error)}`, true);
        }
      if (verdicts.length) delivered.push({ name, agreed: verdicts.every(Boolean) });
    });
    if (delivered.length)
      this.notices.say(deliveredText(delivered), !delivered.every(({ agreed }) => agreed));
  }

  /**
   * All of them in one file for each target of the yard, each where it stood.
   *
   * @param answered copies that are placed were seen to
   */
  async deliverTogether(pieces: readonly PieceSummary[], together: string, answered = false): Promise<void> {
    const { id, rules } = this.yard!;
    const sent = pieces.map(({ id, version }) => ({ id, version }));
    for (const profile of targetsOf(rules)) {
      try {
        const [first] = await this.api.deliverTogether(id, {
          pieces: sent,
          target: profile.id,
          choices: { together },
          answered,
        });
        this.notices.say(jointText(together, pieces.length, profile.name, first!.agreed), !first!.agreed);
      } catch (error) {
        this.notices.say(`${profile.name}: ${sentenceOf(error)}`, true);
      }
    }
    await this.load(id).catch((error) => this.notices.error(error));
  }

  /** One that fails is said and does not stop the others. */
  private async each(
    pieces: readonly PieceSummary[],
    act: (piece: PieceSummary) => Promise<void>,
  ): Promise<void> {
    for (const piece of pieces) {
      await act(piece).catch((error) => this.notices.say(`${piece.name}: ${sentenceOf(error)}`, true));
    }
    await this.load(this.yard!.id).catch((error) => this.notices.error(error));
  }
}

/** A shelf with what other pieces have to do with the tally of each; a piece whose tally stays is the very same. */
function withTallies(yard: YardWithPieces): YardWithPieces {
  const tallies = talliesBeside(
    yard.shelf
      .filter(({ broken }) => broken === null)
      .map(({ id, ownTally, meshName, family, bounds, pivot, feature, joinedBy }) => ({
        id,
        facts: { tally: ownTally, meshName, family, bounds, pivot, feature, joinedBy },
      })),
  );
  const shelf = yard.shelf.map((piece) => {
    const tally = tallies.get(piece.id) ?? piece.ownTally;
    return sameTally(tally, piece.tally) ? piece : { ...piece, tally };
  });
  return { ...yard, shelf };
}

const sameTally = (a: Tally, b: Tally): boolean =>
  a === b || (Object.keys(a) as (keyof Tally)[]).every((step) => a[step] === b[step]);

/** What deliveries came to, in a sentence or two. */
export function deliveredText(delivered: readonly { name: string; agreed: boolean }[]): string {
  const off = delivered.filter(({ agreed }) => !agreed).map(({ name }) => name);
  const [first] = delivered;
  const what = delivered.length === 1 ? `${first!.name} was` : `${delivered.length} pieces were`;
  if (off.length === 0) return `${what} delivered and read back as drawn.`;
  if (delivered.length === 1)
    return `${what} delivered and read back differently: its delivery step says where.`;
  return `${what} delivered; ${off.length} read back differently, as their delivery steps say: ${listText(off)}.`;
}

const jointText = (file: string, pieces: number, target: string, agreed: boolean): string =>
  `${pieces} pieces were delivered for ${target} as ${file} and read back ${agreed ? 'as drawn' : 'differently'}; the Deliveries page has the files.`;

export interface SplitPiece {
  yardId: number;
  id: number;
  version: number;
  document: PieceDocument;
  /** whether the piece that held them goes */
  remove: boolean;
}
