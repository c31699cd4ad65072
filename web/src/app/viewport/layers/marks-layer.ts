import type { Layer, Place } from '../layer';
import { disposeDrawn } from './dispose-drawn';
import { type Clearance, type Pivot, rotate, type Vec3 } from '@yard-brace/core';
import {
  BoxGeometry,
  BufferGeometry,
  EdgesGeometry,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineDashedMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  Quaternion,
  SphereGeometry,
} from 'three';

const INK = '#1E2A2F';
const BRASS = '#94661C';
const MOSS = '#41703F';

/** Points and lines drawn over the piece: pivots of parts, hinges, the tape, clearances. */
export interface MarksToDraw {
  pivots: readonly { pivot: Pivot; lit: boolean }[];
  /** axis of the hinge that is shown, with how far it reaches */
  hinge: { at: Vec3; axis: Vec3; reach: number } | null;
  tapes: readonly (readonly [Vec3, Vec3])[];
  /** from copies to what they follow */
  links: readonly (readonly [Vec3, Vec3])[];
  /** edges that are ridden, place by place */
  ridden: readonly (readonly Vec3[])[];
  points: readonly Vec3[];
  clearances: readonly (Clearance & { passes: boolean })[];
  labels: readonly Label[];
}

export const NO_MARKS: MarksToDraw = {
  pivots: [],
  hinge: null,
  tapes: [],
  links: [],
  ridden: [],
  points: [],
  clearances: [],
  labels: [],
};

/** A word that stands at a place of the piece. */
export interface Label {
  text: string;
  at: Vec3;
  /** id of the clearance that it names */
  clearance?: string;
}

/** Points, lines and words over the piece. */
export class MarksLayer implements Layer {
  readonly object = new Group();
  private drawn = new Group();
  private labels: readonly Label[] = [];

  constructor(private readonly changed: () => void) {}

  /** @param unit metres that a mark is large */
  set(marks: MarksToDraw, unit: number): void {
    this.clear();
    this.labels = marks.labels;
    this.drawn = drawMarks(marks, unit);
    this.object.add(this.drawn);
    this.changed();
  }

  /** words by their number */
  places(): readonly Place[] {
    return this.labels.map(({ at }, i) => ({ id: String(i), at }));
  }

  dispose(): void {
    this.clear();
  }

  private clear(): void {
    this.object.remove(this.drawn);
    disposeDrawn(this.drawn);
  }
}

/** All marks as one group, made anew when they change: there are few of them. */
function drawMarks(
  { pivots, hinge, tapes, links, ridden, points, clearances }: MarksToDraw,
  unit: number,
): Group {
  const group = new Group();
  const line = (ends: readonly Vec3[], color: string, dashed = false) => {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new Float32BufferAttribute(ends.flat(), 3));
    const look = { color, depthTest: false, transparent: true };
    const lines = new LineSegments(
      geometry,
      dashed
        ? new LineDashedMaterial({ ...look, dashSize: unit, gapSize: unit * 0.6 })
        : new LineBasicMaterial(look),
    );
    if (dashed) lines.computeLineDistances();
    lines.renderOrder = 8;
    group.add(lines);
  };
  const dot = (at: Vec3, color: string, size: number) => {
    const ball = new Mesh(
      new SphereGeometry(size, 12, 8),
      new MeshBasicMaterial({ color, depthTest: false, transparent: true }),
    );
    ball.position.set(...at);
    ball.renderOrder = 9;
    group.add(ball);
  };
  for (const { pivot, lit } of pivots) {
    const reach = unit * (lit ? 3.4 : 2);
    const along = (axis: Vec3): Vec3 =>
      rotate(pivot.rotation, axis).map((v, k) => pivot.position[k]! + v * reach) as Vec3;
    line([pivot.position, along([1, 0, 0])], '#c8412b');
    line([pivot.position, along([0, 1, 0])], '#4c9141');
    line([pivot.position, along([0, 0, 1])], '#2f62b8');
    dot(pivot.position, BRASS, unit * (lit ? 0.5 : 0.32));
  }
  if (hinge) {
    const end = (sign: number) => hinge.at.map((v, k) => v + hinge.axis[k]! * hinge.reach * sign) as Vec3;
    line([end(-1), end(1)], BRASS, true);
    dot(end(-1), BRASS, unit * 0.3);
    dot(end(1), BRASS, unit * 0.3);
  }
  for (const link of links) line(link, INK, true);
  for (const places of ridden) {
    line(
      places.slice(1).flatMap((place, i) => [places[i]!, place]),
      BRASS,
    );
    for (const end of [places[0]!, places.at(-1)!]) dot(end, BRASS, unit * 0.2);
  }
  for (const [a, b] of tapes) {
    line([a, b], INK);
    dot(a, INK, unit * 0.28);
    dot(b, INK, unit * 0.28);
  }
  for (const p of points) dot(p, BRASS, unit * 0.34);
  for (const { center, halfExtents, rotation, passes } of clearances) {
    const box = new BoxGeometry(...(halfExtents.map((half) => half * 2) as [number, number, number]));
    const color = passes ? MOSS : '#C8412B';
    const fill = new Mesh(
      box,
      new MeshBasicMaterial({ color, transparent: true, opacity: 0.1, depthWrite: false }),
    );
    const edges = new LineSegments(
      new EdgesGeometry(box),
      new LineDashedMaterial({ color, dashSize: unit * 1.4, gapSize: unit }),
    );
    edges.computeLineDistances();
    for (const part of [fill, edges]) {
      part.position.set(...center);
      part.quaternion.copy(new Quaternion(...rotation));
      part.renderOrder = 6;
      group.add(part);
    }
  }
  return group;
}
