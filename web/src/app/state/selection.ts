import { Injectable } from '@angular/core';
import type { PieceDocument } from '@yard-brace/core';
import { BehaviorSubject, distinctUntilChanged, map } from 'rxjs';
import type { ArtOfPiece } from '../drawing/art-to-draw';
import {
  changedSelection,
  type ChooseHow,
  type ChosenFaces,
  combined,
  facesByPart,
  type FacesOfPart,
  measured,
  onlyWhere,
} from '../drawing/face-selection';

/** What is chosen on the bench, for all steps alike. */
export interface Selected {
  /** of the art that is drawn */
  faces: ChosenFaces | null;
  /** ids of parts */
  parts: ReadonlySet<string>;
  /** ids of proxies */
  proxies: ReadonlySet<string>;
  /** id of the clearance in the hand: there is one, or there are shapes */
  clearance: string | null;
}

const NOTHING: Selected = { faces: null, parts: new Set(), proxies: new Set(), clearance: null };

/** The one selection. It belongs to one piece: another piece, or other art, and what it names is gone. */
@Injectable()
export class Selection {
  private readonly now$ = new BehaviorSubject<Selected>(NOTHING);
  private readonly at$ = new BehaviorSubject<string | null>(null);
  readonly selected$ = this.now$.asObservable();
  readonly faces$ = this.now$.pipe(
    map(({ faces }) => faces),
    distinctUntilChanged(),
  );
  readonly parts$ = this.now$.pipe(
    map(({ parts }) => parts),
    distinctUntilChanged(),
  );
  /** the proxy that is pointed at, in a list or in the view */
  readonly pointed$ = this.at$.asObservable();
  private art: ArtOfPiece | null = null;
  private piece: number | null = null;
  /** runs of edges that were followed, for making them hard or smooth */
  private run: { on: ArtOfPiece | null; sides: readonly SidesOfPart[] } | null = null;

  get selected(): Selected {
    return this.now$.value;
  }

  /** Other art is drawn: its faces have other numbers. */
  setArt(art: ArtOfPiece | null): void {
    this.art = art;
    if (this.selected.faces) this.change({ faces: null });
  }

  /** Another piece is on the bench, or this one has changed: what it no longer has is not chosen any more. */
  setPiece(
    piece: number,
    { nodes, proxies, clearances }: Pick<PieceDocument, 'nodes' | 'proxies' | 'clearances'>,
  ): void {
    if (this.piece !== piece) {
      this.piece = piece;
      this.now$.next(NOTHING);
      this.point(null);
      return;
    }
    const left = {
      parts: among(this.selected.parts, nodes),
      proxies: among(this.selected.proxies, proxies),
      clearance: clearances.some(({ id }) => id === this.selected.clearance) ? this.selected.clearance : null,
    };
    if (
      left.parts !== this.selected.parts ||
      left.proxies !== this.selected.proxies ||
      left.clearance !== this.selected.clearance
    )
      this.change(left);
  }

  point(proxy: string | null): void {
    if (this.at$.value !== proxy) this.at$.next(proxy);
  }

  chooseFaces(faces: Uint8Array, how: ChooseHow): void {
    if (how === 'only') this.run = null;
    this.setFaces(combined(this.selected.faces?.faces ?? null, faces, how));
  }

  /** @param mask [t] of the faces that can be chosen; null for all */
  changeFaces(how: 'grow' | 'shrink' | 'invert', mask: Uint8Array | null = null): void {
    if (!this.art) return;
    const faces = changedSelection(this.art.art, this.selected.faces?.faces ?? null, how);
    this.setFaces(onlyWhere(faces, mask));
  }

  /** A run of edges with the faces on both its sides. */
  chooseRun(faces: Uint8Array, sides: readonly SidesOfPart[], how: ChooseHow): void {
    const before = how === 'only' ? [] : this.lastRun;
    this.chooseFaces(faces, how);
    this.run = { on: this.art, sides: how === 'take' ? without(before, sides) : together(before, sides) };
  }

  get lastRun(): readonly SidesOfPart[] {
    return this.run?.on === this.art ? (this.run?.sides ?? []) : [];
  }

  /** Chosen faces by the part they are on, as operations take them. */
  facesByPart(): FacesOfPart[] {
    const { faces } = this.selected;
    return faces && this.art ? facesByPart(this.art.art, this.art.document, faces.faces) : [];
  }

  chooseParts(parts: ReadonlySet<string>): void {
    this.change({ parts });
  }

  chooseProxies(proxies: ReadonlySet<string>): void {
    this.change({ proxies, clearance: null });
  }

  chooseClearance(clearance: string | null): void {
    this.change({ clearance, proxies: new Set() });
  }

  clearFaces(): void {
    this.run = null;
    if (this.selected.faces) this.change({ faces: null });
  }

  /** Nothing is chosen any more. True when something was. */
  clear(): boolean {
    const { faces, parts, proxies, clearance } = this.selected;
    const something = faces !== null || parts.size > 0 || proxies.size > 0 || clearance !== null;
    if (something) this.now$.next(NOTHING);
    return something;
  }

  private setFaces(faces: Uint8Array): void {
    if (this.art) this.change({ faces: measured(this.art.art, faces) });
  }

  private change(change: Partial<Selected>): void {
    this.now$.next({ ...this.selected, ...change });
  }
}

export interface SidesOfPart {
  part: string;
  /** 3 * face + corner, in the part's own mesh */
  sides: Uint32Array<ArrayBuffer>;
}

/** Sides of either list, each once, by part. */
function together(a: readonly SidesOfPart[], b: readonly SidesOfPart[]): SidesOfPart[] {
  const parts = [...new Set([...a, ...b].map(({ part }) => part))];
  return parts.map((part) => {
    const all = [...a, ...b].filter((each) => each.part === part).flatMap(({ sides }) => [...sides]);
    return { part, sides: Uint32Array.from(new Set(all)) };
  });
}

function without(a: readonly SidesOfPart[], b: readonly SidesOfPart[]): SidesOfPart[] {
  const gone = new Set(b.flatMap(({ part, sides }) => [...sides].map((side) => `${part} ${side}`)));
  return a
    .map(({ part, sides }) => ({ part, sides: sides.filter((side) => !gone.has(`${part} ${side}`)) }))
    .filter(({ sides }) => sides.length > 0);
}

/** Those of the ids that there still are; the same set when that is all of them. */
function among(ids: ReadonlySet<string>, things: readonly { id: string }[]): ReadonlySet<string> {
  if (ids.size === 0) return ids;
  const known = new Set(things.map(({ id }) => id));
  const left = [...ids].filter((id) => known.has(id));
  return left.length === ids.size ? ids : new Set(left);
}
