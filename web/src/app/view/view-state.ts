import { Injectable } from '@angular/core';
import {
  connectedFaces,
  flatRegion,
  grow,
  invert,
  type Mesh,
  type PieceDocument,
  shrink,
  type Vec3,
  withMaterial,
} from '@yard-brace/core';
import { BehaviorSubject } from 'rxjs';
import type { ArtToDraw, FaultLines } from '../compute/messages';
import type { Snap } from './snap';

export const LOOKS_FROM = ['free', 'front', 'side', 'top'] as const;
export type LooksFrom = (typeof LOOKS_FROM)[number];
export const CHOOSE_BY = ['face', 'shell', 'flat', 'border', 'material', 'box', 'lasso'] as const;
export type ChooseBy = (typeof CHOOSE_BY)[number];

export interface Cut {
  axis: 0 | 1 | 2;
  /** 0 to 1 through the bounds */
  at: number;
  flipped: boolean;
}

export interface ViewSettings {
  from: LooksFrom;
  wire: boolean;
  facing: boolean;
  checker: boolean;
  /** the art painted by how far the proxies lie from it */
  deviation: boolean;
  cut: Cut | null;
  /** parts shown whole while the rest is faint; null shows all */
  alone: ReadonlySet<string> | null;
  hidden: ReadonlySet<string>;
  choosing: boolean;
  chooseBy: ChooseBy;
  /** box and lasso take what is behind, too */
  through: boolean;
  flatDegrees: number;
  /** pivots of all parts, not only of the piece */
  pivots: boolean;
  /** the piece's own sides written on it */
  dimensions: boolean;
  /** references that stand beside: agent ids, "door", "cube" */
  references: readonly string[];
}

const AT_FIRST: ViewSettings = {
  from: 'free',
  wire: false,
  facing: false,
  checker: false,
  deviation: false,
  cut: null,
  alone: null,
  hidden: new Set(),
  choosing: false,
  chooseBy: 'face',
  through: false,
  flatDegrees: 10,
  pivots: false,
  dimensions: false,
  references: [],
};

/** Chosen faces and what they come to. */
export interface Chosen {
  /** [t] of the art that is drawn */
  faces: Uint8Array;
  count: number;
  /** square metres */
  area: number;
  min: Vec3;
  max: Vec3;
}

/** A point that was picked in the view. */
export interface Picked extends Snap {
  /** id of the part */
  part: string;
}

/** How the piece on the bench is looked at, and what is chosen in it. Nothing of this is part of the piece. */
@Injectable()
export class ViewState {
  readonly settings$ = new BehaviorSubject<ViewSettings>(AT_FIRST);
  readonly chosen$ = new BehaviorSubject<Chosen | null>(null);
  /** faults that are pointed at */
  readonly places$ = new BehaviorSubject<{ faces: Uint8Array | null; edges: Float32Array | null } | null>(
    null,
  );
  /** what the person is asked to point at; null when nothing is */
  readonly asked$ = new BehaviorSubject<string | null>(null);
  readonly tapes$ = new BehaviorSubject<readonly (readonly [Vec3, Vec3])[]>([]);
  readonly points$ = new BehaviorSubject<readonly Vec3[]>([]);
  /** a part swung on its hinge for a look: degrees */
  readonly swing$ = new BehaviorSubject<{ part: string; degrees: number } | null>(null);
  art: { art: ArtToDraw; document: PieceDocument } | null = null;
  private answer: ((picked: Picked | null) => void) | null = null;

  get settings(): ViewSettings {
    return this.settings$.value;
  }

  set(change: Partial<ViewSettings>): void {
    this.settings$.next({ ...this.settings, ...change });
  }

  toggle(name: 'wire' | 'facing' | 'checker' | 'deviation' | 'pivots' | 'dimensions' | 'through'): void {
    this.set({ [name]: !this.settings[name] });
  }

  /** Another piece or other art: what was chosen in the last one means nothing in it. */
  newArt(art: { art: ArtToDraw; document: PieceDocument } | null): void {
    this.art = art;
    this.chosen$.next(null);
    this.places$.next(null);
  }

  newPiece(): void {
    this.refuse();
    this.tapes$.next([]);
    this.points$.next([]);
    this.swing$.next(null);
    this.set({ alone: null, hidden: new Set(), cut: null, choosing: false, from: 'free' });
  }

  /** Ask the person to point at something; null when they turned away from it. */
  ask(what: string): Promise<Picked | null> {
    this.refuse();
    this.asked$.next(what);
    return new Promise((resolve) => (this.answer = resolve));
  }

  pick(picked: Picked): void {
    const { answer } = this;
    this.answer = null;
    this.asked$.next(null);
    answer?.(picked);
  }

  refuse(): void {
    const { answer } = this;
    this.answer = null;
    this.asked$.next(null);
    if (this.points$.value.length) this.points$.next([]);
    answer?.(null);
  }

  /** The faces that one click means, by the way of choosing; a border is found by the worker. */
  facesFrom(face: number): Uint8Array | null {
    const { art } = this;
    if (!art) return null;
    const { neighbours } = art.art;
    switch (this.settings.chooseBy) {
      case 'shell':
        return connectedFaces(neighbours, face);
      case 'flat':
        return flatRegion(meshOf(art.art), neighbours, face, (this.settings.flatDegrees * Math.PI) / 180);
      case 'material': {
        const group = art.art.groups.find(({ start, count }) => face >= start && face < start + count);
        return withMaterial(meshOf(art.art), group?.material ?? -1);
      }
      default: {
        const one = new Uint8Array(art.art.indices.length / 3);
        one[face] = 1;
        return one;
      }
    }
  }

  /** Put faces to the selection, take them from it, or choose them instead. */
  choose(faces: Uint8Array, how: 'add' | 'take' | 'only'): void {
    const before = this.chosen$.value?.faces;
    const next =
      how === 'only' || !before
        ? how === 'take'
          ? new Uint8Array(faces.length)
          : faces
        : faces.map((f, i) => (how === 'add' ? f | before[i]! : before[i]! & (1 - f)));
    this.setChosen(next);
  }

  change(how: 'grow' | 'shrink' | 'invert'): void {
    const { art } = this;
    if (!art) return;
    const before = this.chosen$.value?.faces ?? new Uint8Array(art.art.indices.length / 3);
    const { neighbours } = art.art;
    this.setChosen(
      how === 'grow'
        ? grow(neighbours, before)
        : how === 'shrink'
          ? shrink(neighbours, before)
          : invert(before),
    );
  }

  clearChosen(): void {
    this.chosen$.next(null);
  }

  /** Chosen faces by the part they are on, as operations take them. */
  chosenByPart(): { part: string; faces: Uint32Array<ArrayBuffer> }[] {
    const chosen = this.chosen$.value;
    if (!chosen || !this.art) return [];
    const { art, document } = this.art;
    const lists = new Map<number, number[]>();
    chosen.faces.forEach((c, face) => {
      if (!c) return;
      const list = lists.get(art.part[face]!);
      if (list) list.push(art.face[face]!);
      else lists.set(art.part[face]!, [art.face[face]!]);
    });
    return [...lists].map(([node, faces]) => ({
      part: document.nodes[node]!.id,
      faces: Uint32Array.from(faces),
    }));
  }

  showPlaces(places: FaultLines | null): void {
    if (!places || !this.art) {
      this.places$.next(null);
      return;
    }
    const faces = new Uint8Array(this.art.art.indices.length / 3);
    for (const face of places.faces) faces[face] = 1;
    this.places$.next({ faces, edges: places.edges });
  }

  private setChosen(faces: Uint8Array): void {
    const { positions: p, indices, origin } = this.art!.art;
    let count = 0;
    let area = 0;
    const min: Vec3 = [Infinity, Infinity, Infinity];
    const max: Vec3 = [-Infinity, -Infinity, -Infinity];
    for (let f = 0; f < faces.length; f++) {
      if (!faces[f]) continue;
      count++;
      const [a, b, c] = [indices[f * 3]! * 3, indices[f * 3 + 1]! * 3, indices[f * 3 + 2]! * 3];
      for (let k = 0; k < 3; k++) {
        const low = Math.min(p[a + k]!, p[b + k]!, p[c + k]!) + origin[k]!;
        const high = Math.max(p[a + k]!, p[b + k]!, p[c + k]!) + origin[k]!;
        if (low < min[k]!) min[k] = low;
        if (high > max[k]!) max[k] = high;
      }
      const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
      const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
      area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
    }
    this.chosen$.next(count ? { faces, count, area, min, max } : null);
  }
}

/** The drawn art as far as choosing faces needs a mesh. */
const meshOf = ({ positions, indices, groups }: ArtToDraw): Mesh =>
  ({ positions, indices, groups, uvs: [] }) as unknown as Mesh;
