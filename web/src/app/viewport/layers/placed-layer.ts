import {
  applyMatrix,
  artBounds,
  type Bounds,
  centreOf,
  diagonalOf,
  emptyBounds,
  isEmpty,
  type Matrix,
  type Placed,
  sourceKey,
  unionOf,
  type Vec3,
} from '@yard-brace/core';
import {
  Box3,
  BufferGeometry,
  Color,
  DoubleSide,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  type Plane,
  type Raycaster,
  Vector3,
} from 'three';
import type { ArtOfPiece } from '../../drawing/art-to-draw';
import { type Instance, type InstanceForm, InstancedPiece } from '../../drawing/instanced-piece';
import type { FrameView, PickableLayer, Place } from '../layer';
import { disposeDrawn } from './dispose-drawn';

const NONE: ReadonlySet<string> = new Set();
/** Triangles of art that a frame has room for. */
const MAX_TRIANGLES = 400_000;
/** What is smaller on the screen cannot be told from its boxes, CSS pixels. */
const SMALL_PIXELS = 28;
/** Names that are written over a plan, at most. */
const MAX_NAMED = 150;
const PLAIN = new Color('#ffffff');
const POINTED = new Color('#cfe3e4');
const CHOSEN = new Color('#9fcdd0');
const FAULTY = new Color('#f4d6cc');
const TIDE = '#17616E';

export interface PlacedHit {
  id: string;
  /** number of the triangle of its art */
  face: number;
  /** metres, in the set-out */
  at: Vec3;
  metres: number;
  art: ArtOfPiece;
  matrix: Matrix;
}

/** Which placements stand out. */
export interface PlacedLook {
  chosen: ReadonlySet<string>;
  pointed: string | null;
  faulty: ReadonlySet<string>;
}

interface Slot {
  placed: Placed;
  piece: InstancedPiece;
  form: InstanceForm;
  index: number;
}

/** Pieces where they stand in a set-out, by the thousand: each piece's buffers are shared by all its places. */
export class PlacedLayer implements PickableLayer<PlacedHit> {
  readonly object = new Group();
  private readonly pieces = new Map<string, InstancedPiece>();
  private slots = new Map<string, Slot>();
  private placed: readonly Placed[] = [];
  /** those that are dragged, where they are meanwhile */
  private readonly moved = new Map<string, Placed>();
  private look: PlacedLook = { chosen: new Set(), pointed: null, faulty: new Set() };
  private frames = new Group();
  private planned = false;
  private strengths: [number, number] = [1, 0];
  private clip: Plane | null = null;
  private hidden: ReadonlySet<string> = NONE;
  /** those that are drawn as boxes */
  private far: ReadonlySet<string> = NONE;
  /** triangles of all that is placed */
  private whole = 0;

  constructor(private readonly changed: () => void) {
    this.object.add(this.frames);
  }

  /** The art of what stands there, by `sourceKey`; what is not here yet is drawn as its bounds. */
  setArts(arts: ReadonlyMap<string, ArtOfPiece>): void {
    for (const [key, piece] of this.pieces) {
      const now = arts.get(key);
      if (now && now.art === piece.piece.art && now.document === piece.piece.document) continue;
      this.object.remove(piece.group);
      piece.dispose();
      this.pieces.delete(key);
    }
    for (const [key, art] of arts) {
      if (this.pieces.has(key)) continue;
      const piece = new InstancedPiece(art, this.changed);
      piece.cut(this.clip);
      this.pieces.set(key, piece);
      this.object.add(piece.group);
    }
    this.draw();
  }

  set(placed: readonly Placed[]): void {
    this.placed = placed;
    this.moved.clear();
    this.draw();
  }

  light(look: PlacedLook): void {
    const framesChange = look.chosen !== this.look.chosen;
    this.look = look;
    for (const { placed, piece, form, index } of this.slots.values())
      piece.paint(form, index, this.tintOf(placed.placement.id));
    if (framesChange) this.drawFrames();
    this.changed();
  }

  /** Left out of the picture, and of what is pointed at: a roof, to see inside. */
  hide(ids: ReadonlySet<string>): void {
    this.hidden = ids;
    this.draw();
  }

  /** How strong art and shapes are seen: 0 is gone, 1 is whole. `plan`: footprints are drawn. */
  show({ art, shapes, plan }: { art: number; shapes: number; plan: boolean }): void {
    this.strengths = [art, shapes];
    this.planned = plan;
    for (const piece of this.pieces.values()) piece.fade(art, shapes, plan);
    this.changed();
  }

  cut(plane: Plane | null): void {
    this.clip = plane;
    for (const piece of this.pieces.values()) piece.cut(plane);
    this.changed();
  }

  /** Some placements elsewhere, for as long as they are dragged. */
  moveTo(moved: readonly Placed[]): void {
    for (const each of moved) {
      const slot = this.slots.get(each.placement.id);
      if (!slot) continue;
      this.moved.set(each.placement.id, each);
      slot.placed = each;
      slot.piece.move(slot.form, slot.index, each.matrix);
    }
    this.drawFrames();
  }

  /** What is small on the screen, and what there is no room for among the triangles of a frame, is drawn as boxes. */
  beforeFrame(view: FrameView): void {
    const light = this.whole > MAX_TRIANGLES ? this.farOnes(view) : NONE;
    if (light.size === this.far.size && [...light].every((id) => this.far.has(id))) return;
    this.far = light;
    this.draw();
  }

  bounds(): Bounds | null {
    return this.boundsOf(this.placed);
  }

  /** Where some of them are, all together; null for none. */
  boundsOf(placed: readonly Placed[]): Bounds | null {
    const all = placed.reduce((sum, { bounds }) => unionOf(sum, bounds), emptyBounds());
    return isEmpty(all) ? null : all;
  }

  /** Where names stand: the top of each that stands out; of all in a plan, while they are few. */
  places(): readonly Place[] {
    const { chosen, pointed } = this.look;
    return this.placed
      .filter(
        ({ placement: { id } }) =>
          !this.hidden.has(id) &&
          (chosen.has(id)
            ? chosen.size <= MAX_NAMED
            : id === pointed || (this.planned && this.placed.length <= MAX_NAMED)),
      )
      .map(({ placement: { id } }) => {
        const { min, max } = this.slots.get(id)?.placed.bounds ?? { min: [0, 0, 0], max: [0, 0, 0] };
        return { id, at: [(min[0]! + max[0]!) / 2, max[1]!, (min[2]! + max[2]!) / 2] };
      });
  }

  pick(caster: Raycaster): PlacedHit | null {
    return this.pickBut(caster, NONE);
  }

  /** What is nearest under a ray, but for some. */
  pickBut(caster: Raycaster, but: ReadonlySet<string>): PlacedHit | null {
    let nearest: PlacedHit | null = null;
    const box = new Box3();
    const met = new Vector3();
    for (const { placed, piece } of this.slots.values()) {
      const { id } = placed.placement;
      if (but.has(id) || this.hidden.has(id)) continue;
      box.min.set(...placed.bounds.min);
      box.max.set(...placed.bounds.max);
      if (!box.containsPoint(caster.ray.origin)) {
        if (!caster.ray.intersectBox(box, met)) continue;
        if (nearest && met.distanceTo(caster.ray.origin) > nearest.metres) continue;
      }
      const hit = this.hitOf(caster, placed, piece);
      if (hit && (!nearest || hit.metres < nearest.metres)) nearest = hit;
    }
    return nearest;
  }

  dispose(): void {
    for (const piece of this.pieces.values()) piece.dispose();
    disposeDrawn(this.frames);
  }

  private hitOf(caster: Raycaster, { placement, matrix }: Placed, piece: InstancedPiece): PlacedHit | null {
    const { art } = piece.piece;
    if (!art.indices.length) return null;
    const there = new Matrix4().fromArray(matrix).multiply(new Matrix4().makeTranslation(...art.origin));
    const local = caster.ray.clone().applyMatrix4(there.clone().invert());
    for (const hit of this.clip
      ? piece.tree.raycast(local, DoubleSide)
      : [piece.tree.raycastFirst(local, DoubleSide)]) {
      if (!hit || hit.faceIndex === null || hit.faceIndex === undefined) continue;
      const at = hit.point.applyMatrix4(there);
      if (this.clip && this.clip.distanceToPoint(at) < 0) continue;
      return {
        id: placement.id,
        face: hit.faceIndex,
        at: at.toArray() as Vec3,
        metres: at.distanceTo(caster.ray.origin),
        art: piece.piece,
        matrix,
      };
    }
    return null;
  }

  private trianglesOf = ({ placement }: Placed): number =>
    this.pieces.get(sourceKey(placement))?.triangles ?? 0;

  private farOnes(view: FrameView): Set<string> {
    const sized = this.placed.map((placed) => {
      const { bounds, placement } = this.slots.get(placed.placement.id)?.placed ?? placed;
      return { placed, id: placement.id, pixels: diagonalOf(bounds) / view.metresPerPixel(centreOf(bounds)) };
    });
    sized.sort((a, b) => b.pixels - a.pixels);
    const light = new Set<string>();
    let room = MAX_TRIANGLES;
    for (const { placed, id, pixels } of sized) {
      room -= this.trianglesOf(placed);
      if (room < 0 || pixels < SMALL_PIXELS) light.add(id);
    }
    return light;
  }

  private draw(): void {
    const bySource = new Map<string, Placed[]>([...this.pieces.keys()].map((key) => [key, []]));
    for (const each of this.placed)
      if (!this.hidden.has(each.placement.id))
        bySource.get(sourceKey(each.placement))?.push(this.moved.get(each.placement.id) ?? each);
    this.slots = new Map();
    this.whole = 0;
    for (const [key, all] of bySource) {
      const piece = this.pieces.get(key)!;
      this.whole += piece.triangles * all.length;
      const places: Record<InstanceForm, Instance[]> = { straight: [], mirrored: [], light: [] };
      for (const placed of all) {
        const { id, mirrored } = placed.placement;
        const form = this.far.has(id) ? 'light' : mirrored ? 'mirrored' : 'straight';
        this.slots.set(id, { placed, piece, form, index: places[form].length });
        places[form].push({ matrix: placed.matrix, tint: this.tintOf(id) });
      }
      piece.set(places);
      piece.fade(...this.strengths, this.planned);
    }
    this.drawFrames();
  }

  private tintOf(id: string): Color {
    if (this.look.chosen.has(id)) return CHOSEN;
    if (this.look.faulty.has(id)) return FAULTY;
    return id === this.look.pointed ? POINTED : PLAIN;
  }

  /** Frames round what is chosen, and round what has no art yet; footprints and pivots in a plan. */
  private drawFrames(): void {
    const at = (each: Placed) => this.slots.get(each.placement.id)?.placed ?? each;
    const framed = this.placed.filter(
      ({ placement: { id } }) => !this.hidden.has(id) && (this.look.chosen.has(id) || !this.slots.has(id)),
    );
    this.frames = this.replaced(
      this.frames,
      linesOf(
        framed.flatMap((each) => frameOf(at(each))),
        TIDE,
      ),
    );
    this.changed();
  }

  private replaced(before: Group, now: Group): Group {
    this.object.remove(before);
    disposeDrawn(before);
    this.object.add(now);
    return now;
  }
}

/** The twelve edges of the bounds of a piece as it was made, where it stands: ends of lines. */
function frameOf({ document, matrix }: Placed): number[] {
  const { min, max } = artBounds(document);
  const corner = (i: number) =>
    applyMatrix(matrix, [i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]]);
  return [1, 2, 4].flatMap((way) =>
    [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => (i & way ? [] : [...corner(i), ...corner(i | way)])),
  );
}

function linesOf(ends: readonly number[], color: string): Group {
  const group = new Group();
  if (!ends.length) return group;
  const origin = [ends[0]!, ends[1]!, ends[2]!];
  const geometry = new BufferGeometry();
  geometry.setAttribute(
    'position',
    new Float32BufferAttribute(
      ends.map((v, i) => v - origin[i % 3]!),
      3,
    ),
  );
  const lines = new LineSegments(
    geometry,
    new LineBasicMaterial({ color, depthTest: false, transparent: true }),
  );
  lines.renderOrder = 7;
  group.add(lines);
  group.position.set(origin[0]!, origin[1]!, origin[2]!);
  return group;
}
