import {
  applyMatrix,
  artBounds,
  type Bounds,
  footprint,
  type Matrix,
  type Placed,
  sourceKey,
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
import type { ArtOfPiece, ArtToDraw } from '../../drawing/art-to-draw';
import { type Instance, InstancedPiece } from '../../drawing/instanced-piece';
import type { PickableLayer, Place } from '../layer';
import { disposeDrawn } from './dispose-drawn';

const PLAIN = new Color('#ffffff');
const POINTED = new Color('#cfe3e4');
const CHOSEN = new Color('#9fcdd0');
const FAULTY = new Color('#f4d6cc');
const TIDE = '#17616E';
const INK = '#1E2A2F';

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
  index: number;
}

/** Pieces where they stand in a set-out, by the thousand: each piece's buffers are shared by all its places. */
export class PlacedLayer implements PickableLayer<PlacedHit> {
  readonly object = new Group();
  private readonly pieces = new Map<string, InstancedPiece>();
  private readonly outlines = new Map<string, readonly Float64Array[]>();
  private slots = new Map<string, Slot>();
  private placed: readonly Placed[] = [];
  private look: PlacedLook = { chosen: new Set(), pointed: null, faulty: new Set() };
  private frames = new Group();
  private plan = new Group();
  private planned = false;
  private strengths: [number, number] = [1, 0];
  private clip: Plane | null = null;
  private hidden: ReadonlySet<string> = new Set();

  constructor(private readonly changed: () => void) {
    this.object.add(this.frames, this.plan);
  }

  /** The art of what stands there, by `sourceKey`; what is not here yet is drawn as its bounds. */
  setArts(arts: ReadonlyMap<string, ArtOfPiece>): void {
    for (const [key, piece] of this.pieces) {
      const now = arts.get(key);
      if (now && now.art === piece.piece.art && now.document === piece.piece.document) continue;
      this.object.remove(piece.group);
      piece.dispose();
      this.pieces.delete(key);
      this.outlines.delete(key);
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
    this.draw();
  }

  light(look: PlacedLook): void {
    const framesChange = look.chosen !== this.look.chosen;
    this.look = look;
    for (const { placed, piece, index } of this.slots.values())
      piece.paint(placed.placement.mirrored, index, this.tintOf(placed.placement.id));
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
    for (const piece of this.pieces.values()) piece.fade(art, shapes);
    this.drawFrames();
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
      slot.placed = each;
      slot.piece.move(each.placement.mirrored, slot.index, each.matrix);
    }
    this.drawFrames();
  }

  bounds(): Bounds | null {
    return this.boundsOf(this.placed);
  }

  /** Where some of them are, all together; null for none. */
  boundsOf(placed: readonly Placed[]): Bounds | null {
    if (!placed.length) return null;
    const min: Vec3 = [Infinity, Infinity, Infinity];
    const max: Vec3 = [-Infinity, -Infinity, -Infinity];
    for (const { bounds } of placed)
      for (let k = 0; k < 3; k++) {
        min[k] = Math.min(min[k]!, bounds.min[k]!);
        max[k] = Math.max(max[k]!, bounds.max[k]!);
      }
    return Number.isFinite(min[0]) ? { min, max } : null;
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
    return this.pickBut(caster, new Set());
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
    disposeDrawn(this.plan);
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

  private draw(): void {
    const bySource = new Map<string, Placed[]>([...this.pieces.keys()].map((key) => [key, []]));
    for (const each of this.placed)
      if (!this.hidden.has(each.placement.id)) bySource.get(sourceKey(each.placement))?.push(each);
    this.slots = new Map();
    for (const [key, all] of bySource) {
      const piece = this.pieces.get(key)!;
      const [straight, mirrored]: [Instance[], Instance[]] = [[], []];
      for (const placed of all) {
        const set = placed.placement.mirrored ? mirrored : straight;
        this.slots.set(placed.placement.id, { placed, piece, index: set.length });
        set.push({ matrix: placed.matrix, tint: this.tintOf(placed.placement.id) });
      }
      piece.set(straight, mirrored);
      piece.fade(...this.strengths);
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
      ({ placement: { id } }) => this.look.chosen.has(id) || !this.slots.has(id),
    );
    this.frames = this.replaced(
      this.frames,
      linesOf(
        framed.flatMap((each) => frameOf(at(each))),
        TIDE,
      ),
    );
    const shown = this.planned ? this.placed.filter(({ placement: { id } }) => !this.hidden.has(id)) : [];
    this.plan = this.replaced(
      this.plan,
      linesOf(
        shown.flatMap((each) => this.footprintOf(at(each))),
        INK,
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

  /** The outline of a piece seen from above, over its top, with a cross at its pivot: ends of lines, [3n]. */
  private footprintOf({ placement, document, matrix, bounds }: Placed): number[] {
    const key = sourceKey(placement);
    const art = this.pieces.get(key)?.piece.art;
    const upright = Math.abs(matrix[1]!) + Math.abs(matrix[9]!) < 1e-9;
    if (art && !this.outlines.has(key)) this.outlines.set(key, outlinesOf(art));
    const outlines = art && upright ? this.outlines.get(key)! : null;
    const y = bounds.max[1];
    const there = (outline: Float64Array): Vec3[] =>
      Array.from({ length: outline.length / 2 }, (_, i) => {
        const [x, , z] = applyMatrix(matrix, [
          outline[i * 2]! + art!.origin[0],
          art!.origin[1],
          outline[i * 2 + 1]! + art!.origin[2],
        ]);
        return [x, y, z];
      });
    const rings: Vec3[][] = outlines?.map(there) ?? [
      [
        [bounds.min[0], y, bounds.min[2]],
        [bounds.max[0], y, bounds.min[2]],
        [bounds.max[0], y, bounds.max[2]],
        [bounds.min[0], y, bounds.max[2]],
      ],
    ];
    const [px, , pz] = applyMatrix(matrix, document.pivot.position);
    const cross = PIVOT_CROSS_METRES;
    return [
      ...rings.flatMap((ring) => ring.flatMap((corner, i) => [...corner, ...ring[(i + 1) % ring.length]!])),
      ...[px - cross, y, pz, px + cross, y, pz, px, y, pz - cross, px, y, pz + cross],
    ];
  }
}

/** Names that are written over a plan, at most. */
const MAX_NAMED = 150;
const PIVOT_CROSS_METRES = 0.12;
/** Parts whose outlines are drawn by themselves, at most. */
const MAX_OUTLINES = 24;

/** Outlines of the parts of a piece seen from above; of all together where there are many. */
function outlinesOf({ positions, indices, part }: ArtToDraw): Float64Array[] {
  const points = new Map<number, number[]>();
  indices.forEach((v, i) => {
    const own = points.get(part[(i / 3) | 0]!) ?? [];
    own.push(positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!);
    points.set(part[(i / 3) | 0]!, own);
  });
  return points.size > MAX_OUTLINES ? [footprint(positions)] : [...points.values()].map(footprint);
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
