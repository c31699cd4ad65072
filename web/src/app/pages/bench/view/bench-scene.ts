import { type Bounds, diagonalOf, isEmpty, type Sight, type Vec3 } from '@yard-brace/core';
import { onPlane } from '../../../drawing/along-line';
import type { ArtOfPiece } from '../../../drawing/art-to-draw';
import { facesInArea, isInside } from '../../../drawing/screen-area';
import { snapOnFace } from '../../../drawing/snap';
import type { DragPlace } from '../../../state/part-drag';
import type { Deviations } from '../../../state/deviation-store';
import type { Cut } from '../../../state/view-settings';
import { Vector3 } from 'three';
import { ArtLayer, type FaceHit } from '../../../viewport/layers/art-layer';
import { CutLayer } from '../../../viewport/layers/cut-layer';
import { HandlesLayer } from '../../../viewport/layers/handles-layer';
import { LensesLayer } from '../../../viewport/layers/lenses-layer';
import { MarksLayer, type MarksToDraw } from '../../../viewport/layers/marks-layer';
import { NeighboursLayer } from '../../../viewport/layers/neighbours-layer';
import { OverlayLayer } from '../../../viewport/layers/overlay-layer';
import { PaintedLayer } from '../../../viewport/layers/painted-layer';
import { PivotLayer } from '../../../viewport/layers/pivot-layer';
import { ProxiesLayer, type ProxyLook } from '../../../viewport/layers/proxies-layer';
import { TintedFacesLayer } from '../../../viewport/layers/tinted-faces-layer';
import { type Reference, ReferencesLayer } from '../../../viewport/layers/references-layer';
import { PlayedLayer } from '../../../viewport/layers/played-layer';
import { TrialLayer } from '../../../viewport/layers/trial-layer';
import type { ScreenPoint } from '../../../viewport/tool';
import { CutTool } from '../../../viewport/tools/cut-tool';
import type { CaughtPoint } from '../../../viewport/tools/pick-point-tool';
import { Viewport } from '../../../viewport/viewport';
import type { DragView } from './shape-drags';

/** Room between what is fitted and what lies over the view, in CSS pixels. */
export const CLEAR_PIXELS = 12;
/** Marks are drawn this large, in diagonals of the piece. */
const MARK_SIZE = 0.02;
/** What is seen round a place that is gone to: this share of the piece to all sides. */
const NEARBY_SHARE = 0.15;
/** Steps of the ground that a point is caught on, metres … */
const GROUND_STEP_METRES = 0.1;
/** … when it comes as near as this, CSS pixels. */
const GROUND_CATCH_PIXELS = 8;
/** The ground is on no part. */
const NO_PART = -1;
/** Faces that a probe looks at, at most. */
const MAX_PROBED_FACES = 200;

/** What lies under the pointer: a shape before the art that it covers. */
export type Hit = { shape: string } | { art: FaceHit } | null;

/** How the shapes are looked at. */
export interface ShapesLook extends Pick<ProxyLook, 'lit' | 'chosen' | 'changed' | 'hidden' | 'locked'> {
  /** 0 shows the art alone, 1 the proxies alone */
  veil: number;
}

/** The viewport of the bench with its layers: what is drawn of a piece, and what can be asked of it. */
export class BenchScene {
  readonly viewport: Viewport;
  readonly art: ArtLayer;
  readonly proxies: ProxiesLayer;
  readonly pivot: PivotLayer;
  readonly marks: MarksLayer;
  readonly cut: CutLayer;
  readonly handles: HandlesLayer;
  readonly trial: TrialLayer;
  readonly played: PlayedLayer;
  private readonly faces: PaintedLayer;
  private readonly neighbours: NeighboursLayer;
  private readonly references: ReferencesLayer;
  private readonly chosen: OverlayLayer;
  private readonly faults: OverlayLayer;
  private readonly bare: OverlayLayer;
  private readonly lenses: LensesLayer;
  private readonly hardEdges: OverlayLayer;
  private readonly tinted: TintedFacesLayer;
  private drawn: { art: ArtOfPiece; piece: number } | null = null;
  private painted = false;
  private look: ShapesLook = {
    veil: 0.5,
    lit: null,
    chosen: new Set(),
    hidden: new Set(),
    locked: new Set(),
  };

  constructor(canvas: HTMLCanvasElement, gridMetres: number) {
    this.viewport = new Viewport(canvas, { gridMetres });
    const changed = () => this.viewport.redraw();
    this.art = new ArtLayer(changed);
    this.proxies = new ProxiesLayer(changed);
    this.faces = new PaintedLayer(changed);
    this.pivot = new PivotLayer(changed);
    this.marks = new MarksLayer(changed);
    this.cut = new CutLayer(changed);
    this.handles = new HandlesLayer(changed);
    const moving = () => this.viewport.moving();
    this.trial = new TrialLayer(moving);
    this.played = new PlayedLayer(moving);
    this.neighbours = new NeighboursLayer(changed);
    this.references = new ReferencesLayer(changed);
    this.chosen = new OverlayLayer('#17616E', 0.5, changed);
    this.faults = new OverlayLayer('#C8412B', 0.6, changed);
    this.bare = new OverlayLayer('#C8412B', 0.9, changed, { hatched: true });
    this.lenses = new LensesLayer(changed);
    this.hardEdges = new OverlayLayer('#C8412B', 1, changed);
    this.tinted = new TintedFacesLayer(changed);
    this.viewport.add(
      this.art,
      this.neighbours,
      this.references,
      this.proxies,
      this.faces,
      this.chosen,
      this.faults,
      this.bare,
      this.lenses,
      this.tinted,
      this.hardEdges,
      this.cut,
      this.marks,
      this.pivot,
      this.handles,
      this.trial,
      this.played,
    );
  }

  /** Show the art of a piece. Another piece is looked at whole; the same one goes on being looked at as it was. */
  setArt(art: ArtOfPiece | null, piece: number): void {
    const before = this.art.bounds();
    const same = this.drawn?.piece === piece;
    this.chosen.show(null, null);
    this.faults.show(null, null);
    this.bare.show(null, null);
    this.art.set(art);
    if (!art) return;
    this.drawn = { art, piece };
    const now = this.art.bounds()!;
    this.viewport.ground.lay(now);
    if (!same || !before) this.viewport.fit();
    else if (!isEmpty(before) && !isEmpty(now) && !alike(before, now)) this.viewport.rig.follow(before, now);
  }

  /** Bring the piece into view, with all shapes that are drawn: one that strayed is found so. */
  fit(): void {
    this.viewport.fit(this.proxies.extent());
  }

  /** Look at a place from near by, from where it is looked at now. */
  goTo(at: Vec3): void {
    const bounds = this.art.bounds();
    const near = (bounds && !isEmpty(bounds) ? diagonalOf(bounds) : 1) * NEARBY_SHARE;
    this.viewport.rig.fit({
      min: at.map((v) => v - near) as Vec3,
      max: at.map((v) => v + near) as Vec3,
    });
    this.viewport.redraw();
  }

  setNeighbours(pieces: readonly ArtOfPiece[]): void {
    this.neighbours.set(pieces);
  }

  /** @param growth what they would grow by along with the piece; null as they are */
  growNeighbours(growth: { factor: number; about: Vec3 } | null): void {
    this.neighbours.grow(growth?.factor ?? 1, growth?.about ?? [0, 0, 0]);
  }

  /** Known things beside the piece; whoever puts one there wants to see it. */
  setReferences(references: readonly Reference[], { fit }: { fit: boolean }): void {
    this.references.set(references, this.art.bounds());
    if (fit && references.length) this.viewport.fit();
  }

  setMarks(marks: MarksToDraw): void {
    const bounds = this.art.bounds();
    this.marks.set(marks, (bounds && !isEmpty(bounds) ? diagonalOf(bounds) : 1) * MARK_SIZE);
  }

  setChosen(faces: Iterable<number> | null): void {
    this.chosen.show(this.drawn?.art.art ?? null, faces);
  }

  /** @param edges pairs of points from the art's origin; null for none */
  setHardEdges(edges: Float32Array | null): void {
    this.hardEdges.show(edges ? (this.drawn?.art.art ?? null) : null, null, edges);
  }

  /** @param colors of each corner of each face of the art; null for its own */
  setTints(colors: Float32Array | null): void {
    this.tinted.set(this.drawn?.art.art ?? null, colors);
  }

  /** What a drag of parts has hold of at a point: a place of the piece, or null beside it. */
  grabAt(at: ScreenPoint): CaughtPoint | null {
    const caught = this.snap(at);
    return caught && !caught.beside ? caught : null;
  }

  /** Where a drag from one place leads: to what is caught, or over the ground or the plane that is looked at. */
  dragTo(at: ScreenPoint, from: Vec3): DragPlace | null {
    const caught = this.snap(at);
    if (caught) {
      const word = caught.beside ? `${caught.beside}, ${caught.kind}` : caught.kind;
      return { at: caught.at, caught: word };
    }
    const { origin, direction } = this.viewport.rayAt(at).ray;
    const ray = { origin: origin.toArray() as Vec3, direction: direction.toArray() as Vec3 };
    const straight = this.viewport.rig.sight.direction;
    const place = onPlane(ray, from, straight ?? [0, 1, 0]);
    return place && { at: place, caught: null };
  }

  setFaults(faces: Iterable<number> | null, edges: Float32Array | null): void {
    this.faults.show(this.drawn?.art.art ?? null, faces, edges);
  }

  /** @param bare the faces that no shape covers */
  setSetPlaces(bare: Iterable<number> | null, lenses: Parameters<LensesLayer['set']>[0]): void {
    this.bare.show(bare ? (this.drawn?.art.art ?? null) : null, bare);
    this.lenses.set(lenses);
  }

  setCut(cut: Cut | null): void {
    this.art.cut(this.cut.set(cut, this.art.bounds()));
  }

  /** @param deviation what art and shapes are painted by; null shows them as they are */
  setDeviation(deviation: Deviations | null): void {
    this.painted = this.art.paint(deviation);
    this.faces.set(this.painted ? deviation : null);
    this.applyLook();
  }

  setLook(look: ShapesLook): void {
    this.look = look;
    this.applyLook();
  }

  pick(at: ScreenPoint): Hit {
    const ray = this.viewport.rayAt(at);
    const shape = this.proxies.pick(ray);
    if (shape !== null) return { shape };
    const art = this.art.pick(ray);
    return art && { art };
  }

  /** The face of the art at a point, proxies looked through. */
  face = (at: ScreenPoint): FaceHit | null => this.art.pickFace(this.viewport.rayAt(at));

  /** What the pointer catches at a point: of the piece, or of one that stands beside where that is nearer. */
  snap(at: ScreenPoint): CaughtPoint | null {
    const ray = this.viewport.rayAt(at);
    const hit = this.art.pickFace(ray);
    const beside = this.neighbours.pick(ray);
    const art = this.drawn?.art.art;
    const onScreen = (p: Vec3) => this.viewport.onScreen(p);
    const metres = (p: Vec3) => ray.ray.origin.distanceTo(new Vector3(...p));
    if (beside && (!hit || beside.metres < metres(hit.at)))
      return {
        ...snapOnFace(beside.piece.art, beside.face, beside.at, at, onScreen),
        part: NO_PART,
        beside: beside.piece.document.name,
      };
    if (!hit || !art) return null;
    return { ...snapOnFace(art, hit.face, hit.at, at, onScreen), part: hit.part, face: hit.face };
  }

  /** The place on the ground under a point, on the nearest tenth of a metre where one is near. */
  snapToGround(at: ScreenPoint): CaughtPoint | null {
    const { origin, direction } = this.viewport.rayAt(at).ray;
    const low = this.art.bounds()?.min[1] ?? 0;
    const ray = { origin: origin.toArray() as Vec3, direction: direction.toArray() as Vec3 };
    const place = onPlane(ray, [0, low, 0], [0, 1, 0]);
    if (!place) return null;
    const stepped = place.map((v, k) =>
      k === 1 ? low : Math.round(v / GROUND_STEP_METRES) * GROUND_STEP_METRES,
    ) as Vec3;
    const [x, y] = this.viewport.onScreen(stepped);
    const onStep = Math.hypot(x - at[0], y - at[1]) <= GROUND_CATCH_PIXELS ? stepped : place;
    return { kind: 'ground', at: onStep, normal: [0, 1, 0], edge: [onStep, onStep], part: NO_PART };
  }

  /** Faces of the art whose middle lies in an area of the screen, seen or not, and from where it is looked at. */
  facesIn(area: readonly ScreenPoint[]): { faces: Uint8Array; sight: Sight } | null {
    const art = this.drawn?.art.art;
    if (!art) return null;
    const { toClip, width, height } = this.viewport.clipSpace();
    return { faces: facesInArea(art, area, toClip, width, height), sight: this.viewport.rig.sight };
  }

  /** Ids of the shapes whose middle lies in an area of the screen. */
  shapesIn(area: readonly ScreenPoint[]): string[] {
    return this.proxies
      .middles()
      .flatMap(({ id, at }) => (isInside(this.viewport.onScreen(at), area) ? [id] : []));
  }

  /** What a drag of shapes has to know of the view. */
  dragView(gridMetres: number): DragView {
    const { viewport } = this;
    return {
      sightline: (at) => {
        const { origin, direction } = viewport.rayAt(at).ray;
        return { origin: origin.toArray(), direction: direction.toArray() };
      },
      metresPerPixel: (at) => viewport.metresPerPixel([...at]),
      feature: (at) => {
        const caught = this.snap(at);
        return caught && caught.kind !== 'face' && caught.kind !== 'face centre'
          ? { at: caught.at, name: caught.kind }
          : null;
      },
      looking: viewport.rig.sight.direction,
      towards: (at) => viewport.towardsEye([...at]),
      gridMetres,
    };
  }

  /** A tool that drags the cut along its axis. */
  cutTool(axis: 0 | 1 | 2, move: (share: number) => void): CutTool {
    return new CutTool({ axis: () => this.axisOnScreen(axis), move });
  }

  /** Where faces of the art can be clicked: middles of those that are seen, in CSS pixels of the canvas. */
  placesOf(wanted: (face: number) => boolean): ScreenPoint[] {
    const art = this.drawn?.art.art;
    if (!art) return [];
    const { positions: p, indices, origin } = art;
    const own = [...art.part.keys()].filter(wanted);
    const step = Math.ceil(own.length / MAX_PROBED_FACES);
    return own.flatMap((f, i) => {
      if (i % step) return [];
      const middle = [0, 1, 2].map(
        (k) => origin[k]! + [0, 1, 2].reduce((sum, c) => sum + p[indices[f * 3 + c]! * 3 + k]!, 0) / 3,
      ) as Vec3;
      const at = this.viewport.onScreen(middle);
      return this.face(at)?.face === f ? [at] : [];
    });
  }

  dispose(): void {
    this.viewport.dispose();
  }

  private axisOnScreen(axis: 0 | 1 | 2): readonly [ScreenPoint, ScreenPoint] {
    const bounds = this.art.bounds()!;
    const from = bounds.min.map((v, k) => (v + bounds.max[k]!) / 2) as Vec3;
    const to: Vec3 = [...from];
    to[axis] += bounds.max[axis] - bounds.min[axis];
    return [this.viewport.onScreen(from), this.viewport.onScreen(to)];
  }

  private applyLook(): void {
    const { veil, ...look } = this.look;
    this.art.fade(veil <= 0.5 ? 1 : 2 - 2 * veil);
    this.faces.show(veil > 0);
    this.proxies.show({ ...look, strength: Math.min(1, veil * 2), outlined: this.painted });
  }
}

/** Whether a view that showed one of two bounds well shows the other well too. */
export function alike(a: Bounds, b: Bounds): boolean {
  const [before, now] = [diagonalOf(a), diagonalOf(b)];
  const moved = Math.hypot(...a.min.map((v, k) => (v + a.max[k]! - b.min[k]! - b.max[k]!) / 2));
  return now < before * 1.4 && now > before / 1.4 && moved < before / 3;
}
