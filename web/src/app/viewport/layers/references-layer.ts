import { type Agent, type Bounds, centreOf, diagonalOf, type Vec3 } from '@yard-brace/core';
import {
  Box3,
  BoxGeometry,
  type BufferGeometry,
  CapsuleGeometry,
  CylinderGeometry,
  DoubleSide,
  EdgesGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  SRGBColorSpace,
  TextureLoader,
} from 'three';
import type { Layer } from '../layer';
import { disposeDrawn } from './dispose-drawn';

/** Something of known size to judge a piece by. */
export type Reference = (
  | { kind: 'agent'; agent: Agent }
  | { kind: 'door' }
  | { kind: 'cube' }
  /** a figure of a height, metres */
  | { kind: 'figure'; height: number }
  /** unit cubes, one on the other */
  | { kind: 'stack'; cubes: number }
  /** a tape of a length along x, metres */
  | { kind: 'tape'; metres: number }
  /** a picture at scale: where it can be fetched, and how high it is; as wide as it comes */
  | { kind: 'picture'; url: string; height: number; ratio: number }
) & {
  /** where it stands on the ground; absent for those that stand in a row beside the piece */
  at?: Vec3;
};

const MIN_GAP_METRES = 0.3;
export const DOOR_METRES = { width: 0.9, height: 2.1, depth: 0.1 } as const;

/** Known things in a row beside the piece, on its ground. */
export class ReferencesLayer implements Layer {
  readonly object = new Group();
  private row = new Group();
  private box: Bounds | null = null;

  constructor(private readonly changed: () => void) {}

  /** @param piece bounds of the piece that they stand beside */
  set(references: readonly Reference[], piece: Bounds | null): void {
    this.clear();
    if (piece && references.length) {
      const gap = Math.max(MIN_GAP_METRES, diagonalOf(piece) * 0.08);
      this.row = referenceRow(references, [piece.max[0] + gap, piece.min[1], centreOf(piece)[2]]);
      this.object.add(this.row);
      const box = new Box3().setFromObject(this.row);
      this.box = { min: box.min.toArray(), max: box.max.toArray() };
    }
    this.changed();
  }

  bounds(): Bounds | null {
    return this.box;
  }

  dispose(): void {
    this.clear();
  }

  private clear(): void {
    this.box = null;
    this.object.remove(this.row);
    disposeDrawn(this.row);
  }
}

/** Known things where they were put, the rest side by side on the ground, from `at` on along x. Drawn as outlines: they are no part of the piece. */
function referenceRow(references: readonly Reference[], at: Vec3): Group {
  const row = new Group();
  let x = at[0];
  for (const reference of references) {
    const { figure, width } = draw(reference);
    if (reference.at) figure.position.set(...reference.at);
    else {
      x += width / 2;
      figure.position.set(x, at[1], at[2]);
      x += width / 2 + 0.35;
    }
    row.add(figure);
  }
  return row;
}

/** How wide a figure of a height is, in heights. */
const FIGURE_SHARE = 0.19;

function draw(reference: Reference): { figure: Group; width: number } {
  const figure = new Group();
  const put = (geometry: BufferGeometry, y: number, x = 0) => {
    const fill = new Mesh(
      geometry,
      new MeshBasicMaterial({ color: '#56636A', transparent: true, opacity: 0.14, depthWrite: false }),
    );
    const lines = new LineSegments(
      new EdgesGeometry(geometry, 28),
      new LineBasicMaterial({ color: '#56636A' }),
    );
    fill.position.set(x, y, 0);
    lines.position.set(x, y, 0);
    figure.add(fill, lines);
  };
  if (reference.kind === 'cube') {
    put(new BoxGeometry(1, 1, 1), 0.5);
    return { figure, width: 1 };
  }
  if (reference.kind === 'stack') {
    for (let i = 0; i < reference.cubes; i++) put(new BoxGeometry(1, 1, 1), i + 0.5);
    return { figure, width: 1 };
  }
  if (reference.kind === 'tape') {
    const { metres } = reference;
    put(new BoxGeometry(metres, 0.02, 0.04), 0.01);
    // A tick a metre, and its ends.
    for (let at = 0; at <= metres + 1e-9; at++) put(new BoxGeometry(0.01, 0.12, 0.04), 0.06, at - metres / 2);
    put(new BoxGeometry(0.01, 0.2, 0.04), 0.1, metres / 2);
    return { figure, width: metres };
  }
  if (reference.kind === 'picture') {
    const { url, height, ratio } = reference;
    const geometry = new PlaneGeometry(height * ratio, height);
    const map = new TextureLoader().load(url);
    map.colorSpace = SRGBColorSpace;
    const plane = new Mesh(geometry, new MeshBasicMaterial({ map, transparent: true, side: DoubleSide }));
    plane.position.set(0, height / 2, 0);
    figure.add(plane);
    return { figure, width: height * ratio };
  }
  if (reference.kind === 'figure') {
    const { height } = reference;
    const radius = (height * FIGURE_SHARE) / 2;
    put(new CapsuleGeometry(radius, height - 2 * radius, 6, 16), height / 2);
    return { figure, width: radius * 2 };
  }
  if (reference.kind === 'door') {
    const { width, height, depth } = DOOR_METRES;
    put(new BoxGeometry(width, height, depth), height / 2);
    put(new BoxGeometry(0.04, 0.14, 0.06), 1, width / 2 - 0.1);
    return { figure, width };
  }
  const { height, radius } = reference.agent;
  // As the engine sees it: a capsule of the agent's radius, with a mark at eye height.
  const straight = height - 2 * radius;
  put(
    straight > 0
      ? new CapsuleGeometry(radius, straight, 6, 16)
      : new CylinderGeometry(radius, radius, height, 20),
    height / 2,
  );
  put(new CylinderGeometry(radius * 0.6, radius * 0.6, 0.01, 20), height * 0.92);
  return { figure, width: radius * 2 };
}
