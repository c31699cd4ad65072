import type { Agent, Bounds, Quat, Vec3 } from '@yard-brace/core';
import type { Trolley } from '@yard-brace/trial';
import {
  BufferAttribute,
  BufferGeometry,
  CylinderGeometry,
  DoubleSide,
  EdgesGeometry,
  Float32BufferAttribute,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  RingGeometry,
  SphereGeometry,
} from 'three';
import type { Layer, Place } from '../layer';
import { disposeDrawn } from './dispose-drawn';
import { BRASS } from './played-layer';
import { trolleyGeometry } from './trolley-geometry';

const TIDE = '#17616E';
const INK = '#1E2A2F';
const VERMILION = '#C8412B';
/** Metres that what lies on the ground is drawn over it. */
const OVER_GROUND_METRES = 0.01;

/** Ground on which one can walk. Shapes: [3n], [3t], [t]. */
export interface GroundToDraw {
  positions: Float64Array;
  indices: Uint32Array;
}

export interface TrialToDraw {
  /** who walks, and where; null for nobody, and for one through whose eyes it is looked */
  walker: { agent: Agent; at: Vec3; height: number } | null;
  /** what is driven, where, and how it is turned; null for nothing */
  trolley: { trolley: Trolley; at: Vec3; turned: Quat } | null;
  area: GroundToDraw | null;
  route: { points: readonly Vec3[]; complete: boolean } | null;
  flags: readonly Place[];
}

/** Nobody sees less than a tenth of a millimetre: who stands still trembles by less. */
const toSeenMetres = (_: string, value: unknown): unknown =>
  typeof value === 'number' ? Math.round(value * 1e4) : value;

/** A trial as it is drawn: a standing figure with its foot circle, walkable ground as a wash, flags at contacts. */
export class TrialLayer implements Layer {
  readonly object = new Group();
  private figure = new Group();
  private figured: TrialToDraw['walker'] = null;
  private ground = new Group();
  private wheeled = new Group();
  private driven: TrialToDraw['trolley'] = null;
  private drawnArea: GroundToDraw | null = null;
  private line = new Group();
  private drawnRoute: TrialToDraw['route'] = null;
  private flags: readonly Place[] = [];
  /** who stands where, as it was drawn last */
  private figures = '';

  constructor(private readonly changed: () => void) {
    this.object.add(this.figure, this.wheeled, this.ground, this.line);
  }

  set({ walker, trolley, area, route, flags }: TrialToDraw): void {
    const figures = JSON.stringify([walker, trolley, flags], toSeenMetres);
    const same = figures === this.figures && area === this.drawnArea && route === this.drawnRoute;
    // Time goes on while somebody stands still: nothing else is to be seen of it.
    if (same) return;
    this.figures = figures;
    this.setWalker(walker);
    this.setTrolley(trolley);
    if (area !== this.drawnArea) {
      this.drawnArea = area;
      this.ground = this.replaced(this.ground, area ? wash(area) : new Group());
    }
    if (route !== this.drawnRoute) {
      this.drawnRoute = route;
      this.line = this.replaced(this.line, route ? routeLine(route) : new Group());
    }
    this.flags = flags;
    this.changed();
  }

  /** of who walks, or of what is driven */
  bounds(): Bounds | null {
    if (this.driven) {
      const { trolley, at } = this.driven;
      const reach = Math.max(trolley.wheelbase, trolley.track) * 0.75 + trolley.wheelRadius;
      return { min: at.map((v) => v - reach) as Vec3, max: at.map((v) => v + reach) as Vec3 };
    }
    if (!this.figured) return null;
    const { agent, at, height } = this.figured;
    return {
      min: [at[0] - agent.radius, at[1], at[2] - agent.radius],
      max: [at[0] + agent.radius, at[1] + height, at[2] + agent.radius],
    };
  }

  places(): readonly Place[] {
    return this.flags;
  }

  dispose(): void {
    for (const group of [this.figure, this.wheeled, this.ground, this.line]) disposeDrawn(group);
  }

  private setWalker(walker: TrialToDraw['walker']): void {
    const same =
      walker && this.figured && walker.agent === this.figured.agent && walker.height === this.figured.height;
    this.figured = walker;
    if (!same) {
      this.figure = this.replaced(
        this.figure,
        walker ? figureOf(walker.agent.radius, walker.height) : new Group(),
      );
    }
    if (walker) this.figure.position.set(...walker.at);
  }

  private setTrolley(driven: TrialToDraw['trolley']): void {
    const same = driven?.trolley === this.driven?.trolley;
    this.driven = driven;
    if (!same) this.wheeled = this.replaced(this.wheeled, driven ? trolleyOf(driven.trolley) : new Group());
    if (!driven) return;
    this.wheeled.position.set(...driven.at);
    this.wheeled.quaternion.set(...driven.turned);
  }

  private replaced(before: Group, now: Group): Group {
    this.object.remove(before);
    disposeDrawn(before);
    this.object.add(now);
    return now;
  }
}

/** A plain standing figure of its true size, with its foot circle on the ground. */
function figureOf(radius: number, height: number): Group {
  const figure = new Group();
  const put = (geometry: BufferGeometry, y: number) => {
    const fill = new Mesh(
      geometry,
      new MeshBasicMaterial({ color: TIDE, transparent: true, opacity: 0.22, depthWrite: false }),
    );
    const lines = new LineSegments(new EdgesGeometry(geometry, 28), new LineBasicMaterial({ color: INK }));
    fill.position.y = lines.position.y = y;
    // After the shapes, which can be looked through as well.
    fill.renderOrder = lines.renderOrder = 6;
    figure.add(fill, lines);
  };
  const head = Math.min(radius * 0.5, height * 0.11);
  const shoulders = height - head * 2.3;
  put(new CylinderGeometry(radius * 0.62, radius * 0.34, shoulders, 16), shoulders / 2);
  put(new SphereGeometry(head, 14, 10), height - head);
  const circle = new Mesh(
    new RingGeometry(radius * 0.94, radius, 48).rotateX(-Math.PI / 2),
    new MeshBasicMaterial({ color: TIDE, side: DoubleSide }),
  );
  circle.position.y = OVER_GROUND_METRES;
  figure.add(circle);
  return figure;
}

function trolleyOf(trolley: Trolley): Group {
  const geometry = trolleyGeometry(trolley);
  const group = new Group();
  group.add(
    new Mesh(geometry, new MeshLambertMaterial({ color: BRASS })),
    new LineSegments(new EdgesGeometry(geometry, 28), new LineBasicMaterial({ color: INK })),
  );
  return group;
}

/** Walkable ground as a light wash with its border inked. */
function wash({ positions, indices }: GroundToDraw): Group {
  const group = new Group();
  const geometry = new BufferGeometry();
  const origin = [positions[0] ?? 0, positions[1] ?? 0, positions[2] ?? 0];
  const local = Float32Array.from(
    positions,
    (v, i) => v - origin[i % 3]! + (i % 3 === 1 ? OVER_GROUND_METRES : 0),
  );
  geometry.setAttribute('position', new BufferAttribute(local, 3));
  geometry.setIndex(new BufferAttribute(indices, 1));
  const fill = new Mesh(
    geometry,
    new MeshBasicMaterial({
      color: TIDE,
      transparent: true,
      opacity: 0.2,
      depthWrite: false,
      side: DoubleSide,
    }),
  );
  const lines = new BufferGeometry();
  lines.setAttribute('position', new Float32BufferAttribute(border(local, indices), 3));
  const ink = new LineSegments(lines, new LineBasicMaterial({ color: TIDE }));
  group.add(fill, ink);
  group.position.set(origin[0]!, origin[1]!, origin[2]!);
  return group;
}

/** Sides that only one triangle has, as ends of lines: [3n]. */
function border(positions: Float32Array, indices: Uint32Array): number[] {
  const key = (v: number) => [0, 1, 2].map((k) => Math.round(positions[v * 3 + k]! * 1e3)).join();
  const sides = new Map<string, [number, number] | null>();
  for (let i = 0; i < indices.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [indices[i + k]!, indices[i + ((k + 1) % 3)]!];
      const [ka, kb] = [key(a), key(b)];
      const side = ka < kb ? `${ka} ${kb}` : `${kb} ${ka}`;
      sides.set(side, sides.has(side) ? null : [a, b]);
    }
  return [...sides.values()].flatMap((side) =>
    side ? side.flatMap((v) => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]) : [],
  );
}

function routeLine({ points, complete }: NonNullable<TrialToDraw['route']>): Group {
  const group = new Group();
  const ends = points
    .slice(1)
    .flatMap((to, i) => [...points[i]!, ...to].map((v, k) => (k % 3 === 1 ? v + 0.03 : v)));
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new Float32BufferAttribute(ends, 3));
  const line = new LineSegments(
    geometry,
    new LineBasicMaterial({ color: complete ? INK : VERMILION, depthTest: false }),
  );
  line.renderOrder = 8;
  group.add(line);
  return group;
}
