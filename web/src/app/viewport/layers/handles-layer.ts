import { axesAcross, dot, type ShapeHandle, type Vec3 } from '@yard-brace/core';
import { BufferGeometry, Float32BufferAttribute, LineBasicMaterial, LineSegments } from 'three';
import type { FrameView, Layer, Place } from '../layer';

/** CSS pixels that a tab stands off its face. */
const OFF_PIXELS = 20;

/** Of more tabs than this only those are shown that look to the eye. */
const MAX_TABS_ALL_ROUND = 10;

/** A circle with degree ticks at the foot of a shape, and the tab on it by which the shape is turned. */
export interface Protractor {
  id: string;
  center: Vec3;
  axis: Vec3;
  /** metres */
  radius: number;
  /** where the tab stands, see `angleAbout` */
  degrees: number;
  /** degrees that the shape was turned by; null while it is not turned: the ticks show then */
  turned: number | null;
}

/** Ticks of a protractor, degrees, and their length as a share of its radius: short, and at every third. */
const TICK_DEGREES = 5;
const TICK_SHARES = [0.05, 0.1] as const;

const onProtractor = ({ center, axis, radius }: Protractor, degrees: number, share = 1): Vec3 => {
  const [first, second] = axesAcross(axis);
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  return center.map((v, k) => v + radius * share * (c * first[k]! + s * second[k]!)) as Vec3;
};

/** Ends of its lines, two by two: an arc beside the tab; the whole circle with its ticks while something is turned. */
function protractorLines(turn: Protractor): Vec3[] {
  const lines: Vec3[] = [];
  const { degrees, turned } = turn;
  const reach = turned === null ? 30 : 180;
  for (let k = -reach; k < reach; k += TICK_DEGREES)
    lines.push(onProtractor(turn, degrees + k), onProtractor(turn, degrees + k + TICK_DEGREES));
  if (turned === null) return lines;
  for (let k = 0; k < 360; k += TICK_DEGREES)
    lines.push(onProtractor(turn, k), onProtractor(turn, k, 1 - TICK_SHARES[k % 15 ? 0 : 1]));
  for (const at of [degrees, degrees - turned]) lines.push(turn.center, onProtractor(turn, at));
  return lines;
}

/** Where the tabs of a chosen shape stand: a little off each face, tied to it by a line. */
export class HandlesLayer implements Layer {
  readonly object = new LineSegments(
    new BufferGeometry(),
    new LineBasicMaterial({ color: '#1E2A2F', depthTest: false, transparent: true, opacity: 0.7 }),
  );
  private handles: readonly ShapeHandle[] = [];
  private corners: readonly Place[] = [];
  private turn: Protractor | null = null;
  private stand: Place[] = [];

  constructor(private readonly changed: () => void) {
    this.object.renderOrder = 5;
    this.object.frustumCulled = false;
  }

  set(handles: readonly ShapeHandle[], corners: readonly Place[] = [], turn: Protractor | null = null): void {
    this.handles = handles;
    this.corners = corners;
    this.turn = turn;
    this.changed();
  }

  places(): readonly Place[] {
    return this.stand;
  }

  beforeFrame(view: FrameView): void {
    const many = this.handles.length > MAX_TABS_ALL_ROUND;
    const seen = this.handles.filter(({ at, normal }) => !many || dot(normal, view.towardsEye(at)) > 0);
    const origin = seen[0]?.at ?? this.turn?.center ?? [0, 0, 0];
    this.stand = seen.map(({ id, at, normal }) => {
      const off = view.metresPerPixel(at) * OFF_PIXELS;
      return { id, at: at.map((v, k) => v + normal[k]! * off) as Vec3 };
    });
    const lines = [
      ...seen.flatMap(({ at }, i) => [at, this.stand[i]!.at]),
      ...(this.turn ? protractorLines(this.turn) : []),
    ];
    const points = lines.flatMap((p) => p.map((v, k) => v - origin[k]!));
    this.stand.push(...this.corners);
    if (this.turn) this.stand.push({ id: this.turn.id, at: onProtractor(this.turn, this.turn.degrees) });
    this.object.position.set(...origin);
    this.object.geometry.setAttribute('position', new Float32BufferAttribute(points, 3));
    this.object.visible = points.length > 0;
  }

  dispose(): void {
    this.object.geometry.dispose();
    this.object.material.dispose();
  }
}
