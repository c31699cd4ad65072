import { Injectable } from '@angular/core';
import type { SplitToTry, Vec3 } from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import type { ChooseBy } from '../drawing/face-selection';

export const LOOKS_FROM = ['free', 'front', 'side', 'top'] as const;
export type LooksFrom = (typeof LOOKS_FROM)[number];

export const MAKE_BY = ['ladder', 'wrap', 'make', 'draw'] as const;
export type MakeBy = (typeof MAKE_BY)[number];

export const PARTS_SHOWS = ['tree', 'place', 'module', 'surface', 'materials', 'uvs'] as const;
export type PartsShow = (typeof PARTS_SHOWS)[number];

/** What of a UV set is painted on the art. */
export type UvPaint = 'density' | 'stretch';

export interface Cut {
  axis: 0 | 1 | 2;
  /** 0 to 1 through the bounds */
  at: number;
  flipped: boolean;
}

/** Something of a typed size to judge a piece by. Metres; a stack is of unit cubes. */
export type TypedReference = { id: string; name: string } & (
  | { kind: 'figure'; height: number }
  | { kind: 'stack'; cubes: number }
  | { kind: 'tape'; metres: number }
  | { kind: 'picture'; url: string; height: number; ratio: number }
);

export interface ViewSettings {
  from: LooksFrom;
  wire: boolean;
  facing: boolean;
  checker: boolean;
  /** the UV set that the checker lies on */
  checkerSet: number;
  /** what a proposal changes is shown as it is, too, beside it */
  asItIs: boolean;
  /** the art painted by how far the proxies lie from it */
  deviation: boolean;
  cut: Cut | null;
  /** ids of parts shown whole while the rest is faint; null shows all */
  alone: ReadonlySet<string> | null;
  hidden: ReadonlySet<string>;
  /** ids of shapes that are not drawn, and of those that a click or drag in the view passes by */
  shapesHidden: ReadonlySet<string>;
  shapesLocked: ReadonlySet<string>;
  /** the next box in the view chooses shapes */
  boxingShapes: boolean;
  /** the step that a drag of shapes is caught by, metres; null for the yard's grid */
  snapMetres: number | null;
  /** by what new shapes are made */
  makeBy: MakeBy;
  /** what the parts step is at */
  partsShow: PartsShow;
  /** edges that the normals show as hard are lit */
  hardEdges: boolean;
  /** the view walks round the piece */
  turning: boolean;
  /** a UV set painted on the art; null for none */
  uvPaint: { set: number; what: UvPaint } | null;
  /** a split is looked at before it is made: its pieces are told apart on the art */
  apart: SplitToTry | null;
  /** chosen parts are dragged in the view */
  draggingParts: boolean;
  /** parts are placed without what hangs below */
  partsAlone: boolean;
  choosing: boolean;
  chooseBy: ChooseBy;
  /** box and lasso take what is behind, too */
  through: boolean;
  flatDegrees: number;
  /** pivots of all parts, not only of the piece */
  pivots: boolean;
  /** the piece's own sides written on it */
  dimensions: boolean;
  /** where the target's front is, marked on the ground */
  forward: boolean;
  /** references that stand beside: agent ids, "door", "cube" */
  references: readonly string[];
  /** further ones, of a typed size */
  typedReferences: readonly TypedReference[];
  /** where references were put by hand, by id; the others stand in a row */
  referencePlaces: ReadonlyMap<string, Vec3>;
  /** 0 shows the art alone, 1 the proxies alone */
  veil: number;
}

export type Switch =
  | 'wire'
  | 'facing'
  | 'checker'
  | 'asItIs'
  | 'deviation'
  | 'pivots'
  | 'dimensions'
  | 'through'
  | 'choosing'
  | 'hardEdges'
  | 'turning'
  | 'draggingParts';

const AT_FIRST: ViewSettings = {
  from: 'free',
  wire: false,
  facing: false,
  checker: false,
  checkerSet: 0,
  asItIs: false,
  deviation: false,
  cut: null,
  alone: null,
  hidden: new Set(),
  shapesHidden: new Set(),
  shapesLocked: new Set(),
  boxingShapes: false,
  snapMetres: null,
  makeBy: 'ladder',
  partsShow: 'tree',
  hardEdges: false,
  turning: false,
  uvPaint: null,
  apart: null,
  draggingParts: false,
  partsAlone: false,
  choosing: false,
  chooseBy: 'face',
  through: false,
  flatDegrees: 10,
  pivots: false,
  dimensions: false,
  forward: false,
  references: [],
  typedReferences: [],
  referencePlaces: new Map(),
  veil: 0.5,
};

/** How the piece on the bench is looked at. Nothing of this is part of the piece. */
@Injectable()
export class ViewSettingsStore {
  private readonly now$ = new BehaviorSubject<ViewSettings>(AT_FIRST);
  readonly settings$ = this.now$.asObservable();

  get settings(): ViewSettings {
    return this.now$.value;
  }

  set(change: Partial<ViewSettings>): void {
    this.now$.next({ ...this.settings, ...change });
  }

  toggle(name: Switch): void {
    this.set({ [name]: !this.settings[name] });
  }

  toggleCut(): void {
    this.set({ cut: this.settings.cut ? null : { axis: 2, at: 0.5, flipped: false } });
  }

  setCut(change: Partial<Cut>): void {
    const { cut } = this.settings;
    if (cut) this.set({ cut: { ...cut, ...change, at: Math.min(1, Math.max(0, change.at ?? cut.at)) } });
  }

  /** Click on a way of choosing: it is taken, or choosing ends where it was taken already. */
  chooseBy(way: ChooseBy): void {
    const { choosing, chooseBy } = this.settings;
    this.set(choosing && chooseBy === way ? { choosing: false } : { choosing: true, chooseBy: way });
  }

  toggleReference(id: string): void {
    const { references } = this.settings;
    this.set({
      references: references.includes(id) ? references.filter((each) => each !== id) : [...references, id],
    });
  }

  addReference(reference: TypedReference): void {
    this.set({ typedReferences: [...this.settings.typedReferences, reference] });
  }

  removeReference(id: string): void {
    this.set({ typedReferences: this.settings.typedReferences.filter((each) => each.id !== id) });
  }

  /** A reference stands there from now on. */
  placeReference(id: string, at: Vec3): void {
    this.set({ referencePlaces: new Map([...this.settings.referencePlaces, [id, at]]) });
  }

  /** These parts alone are drawn whole, or all again where they were alone already. */
  toggleAlone(ids: readonly string[]): void {
    const { alone } = this.settings;
    this.set({ alone: ids.length && alone && ids.every((id) => alone.has(id)) ? null : new Set(ids) });
  }

  /** These parts are hidden, or shown where they were hidden already. */
  toggleHidden(ids: readonly string[]): void {
    const hidden = new Set(this.settings.hidden);
    const hide = !ids.every((id) => hidden.has(id));
    for (const id of ids) {
      if (hide) hidden.add(id);
      else hidden.delete(id);
    }
    this.set({ hidden });
  }

  /** These shapes are hidden, or shown where all of them were hidden already; likewise for locked ones. */
  toggleShapes(which: 'shapesHidden' | 'shapesLocked', ids: readonly string[]): void {
    const marked = new Set(this.settings[which]);
    const mark = !ids.every((id) => marked.has(id));
    for (const id of ids) {
      if (mark) marked.add(id);
      else marked.delete(id);
    }
    this.set({ [which]: marked });
  }

  /** Another piece: what was hidden, cut or looked at from a side in the last one means nothing in it. */
  newPiece(): void {
    this.set({
      alone: null,
      hidden: new Set(),
      shapesHidden: new Set(),
      shapesLocked: new Set(),
      boxingShapes: false,
      cut: null,
      choosing: false,
      draggingParts: false,
      partsAlone: false,
      turning: false,
      uvPaint: null,
      apart: null,
      checkerSet: 0,
      referencePlaces: new Map(),
      from: 'free',
    });
  }
}
