import { getNavMeshPositionsAndIndices, init, type NavMesh, NavMeshQuery } from '@recast-navigation/core';
import { generateSoloNavMesh } from '@recast-navigation/generators';
import { add, type Agent, distance, subtract, UnionFind, type Vec3 } from '@yard-brace/core';
import { localPoints } from '../collider-desc.js';
import { type JumpLink, jumpLinks } from './jump-links.js';
import { stepOf } from '../walk/walker.js';

/** Where an agent can stand and walk. */
export interface WalkableArea {
  /** [3n], metres */
  positions: Float64Array;
  /** [3t] */
  indices: Uint32Array;
  /** [t]: number of the island that a triangle is of */
  island: Uint32Array;
  islands: Island[];
}

/** Ground that hangs together for an agent; the largest first. */
export interface Island {
  /** square metres, seen from above */
  area: number;
  /** a place in its largest triangle */
  at: Vec3;
}

export interface Route {
  /** it gets there, and not only near */
  complete: boolean;
  points: Vec3[];
  /** metres */
  length: number;
  /** how often it is jumped */
  jumps: number;
}

/** What is walked on: triangles, metres. Shapes: [3n], [3t]. */
export interface RouteGround {
  points: ArrayLike<number>;
  indices: ArrayLike<number>;
}

/** What is known of solid things: places in them are no ground, and nothing is jumped through. */
export interface Solids {
  isInside?: (at: Vec3) => boolean;
  /** whether nothing stands between two places over the higher ground */
  isClear?: (from: Vec3, to: Vec3) => boolean;
  /** the area is drawn: it follows the ground closely */
  drawn?: boolean;
}

/** Cells across an agent's radius, and most cells along a side: what is larger is looked at more coarsely. */
const CELLS_A_RADIUS = 5;
const MAX_CELLS = 700;
/** Cells up a step. */
const CELLS_A_STEP = 8;
/** An end of a route may lie so far from walkable ground: radii to the side. */
const NEAR_RADII = 2;

let ready: Promise<void> | undefined;

/** Walkable area and routes of one agent over some ground. (Recast and Detour, after Mononen.) */
export class RouteFinder {
  private constructor(
    private readonly mesh: NavMesh | null,
    private readonly query: NavMeshQuery | null,
    private readonly origin: Readonly<Vec3>,
    private readonly agent: Agent,
    readonly area: WalkableArea,
    /** where it jumps from one island to another */
    readonly links: readonly JumpLink[],
  ) {}

  /**
   * @param origin metres, near the ground: the library counts in single precision
   */
  static async of(
    { points, indices }: RouteGround,
    agent: Agent,
    origin: Readonly<Vec3>,
    { isInside = () => false, isClear = () => true, drawn = false }: Solids = {},
  ): Promise<RouteFinder> {
    ready ??= init();
    await ready;
    const local = localPoints(points, origin);
    const size = Math.max(extent(local, 0), extent(local, 2), agent.radius);
    const cs = Math.max(agent.radius / CELLS_A_RADIUS, size / MAX_CELLS);
    const step = stepOf(agent);
    const ch = Math.max(step / CELLS_A_STEP, extent(local, 1) / 8000);
    const settings = {
      cs,
      ch,
      walkableSlopeAngle: Math.min(agent.slopeDegrees, 85),
      walkableHeight: Math.max(3, Math.ceil(agent.height / ch)),
      walkableClimb: Math.max(1, Math.floor(step / ch + 1e-6)),
      walkableRadius: Math.max(1, Math.round(agent.radius / cs)),
      maxEdgeLen: 0,
      maxSimplificationError: 1,
      minRegionArea: 1,
      mergeRegionArea: 1,
      // Heights between the corners are only for looking at, and take longer than all the rest.
      detailSampleDist: drawn ? (size / cs > 300 ? 6 : 2) : 24,
      detailSampleMaxError: 1,
    };
    const [flat, corners] = [[...local], [...Array.from(indices)]];
    const walked = generateSoloNavMesh(flat, corners, settings);
    if (!walked.success) return new RouteFinder(null, null, origin, agent, NO_AREA, []);
    const area = areaOf(walked.navMesh, origin, isInside);
    const links = jumpLinks(area, agent, isClear);
    const xyz = (at: Vec3) => {
      const [x, y, z] = subtract(at, origin);
      return { x, y, z };
    };
    const jumped = links.length
      ? generateSoloNavMesh(flat, corners, {
          ...settings,
          offMeshConnections: links.map(({ from, to }) => ({
            startPosition: xyz(from),
            endPosition: xyz(to),
            radius: agent.radius,
            bidirectional: true,
          })),
        })
      : walked;
    const mesh = jumped.success ? jumped.navMesh : walked.navMesh;
    if (mesh !== walked.navMesh) walked.navMesh.destroy();
    return new RouteFinder(mesh, new NavMeshQuery(mesh), origin, agent, area, links);
  }

  /** The way between two places on foot; as near as it gets where there is none. Null where no ground is near. */
  route(from: Readonly<Vec3>, to: Readonly<Vec3>): Route | null {
    if (!this.query) return null;
    const near = {
      x: this.agent.radius * NEAR_RADII,
      y: stepOf(this.agent) * 1.5,
      z: this.agent.radius * NEAR_RADII,
    };
    const [start, end] = [from, to].map((at) => {
      const [x, y, z] = subtract(at, this.origin);
      return this.query!.findNearestPoly({ x, y, z }, { halfExtents: near });
    }) as [ReturnType<NavMeshQuery['findNearestPoly']>, ReturnType<NavMeshQuery['findNearestPoly']>];
    if (!start.success || !end.success || !start.nearestRef || !end.nearestRef) return null;
    const found = this.query.computePath(start.nearestPoint, end.nearestPoint, { halfExtents: near });
    if (!found.success || !found.path.length) return null;
    const points = found.path.map(({ x, y, z }) => add([x, y, z], this.origin));
    const last = found.path.at(-1)!;
    const short = distance(
      [last.x, last.y, last.z],
      [end.nearestPoint.x, end.nearestPoint.y, end.nearestPoint.z],
    );
    return {
      complete: short < this.agent.radius / 2,
      points,
      length: points.slice(1).reduce((sum, at, i) => sum + distance(at, points[i]!), 0),
      jumps: points.slice(1).filter((at, i) => this.isJump(points[i]!, at)).length,
    };
  }

  private isJump(from: Vec3, to: Vec3): boolean {
    const near = (a: Vec3, b: Vec3) => distance(a, b) < this.agent.radius;
    return this.links.some(
      (link) => (near(link.from, from) && near(link.to, to)) || (near(link.to, from) && near(link.from, to)),
    );
  }

  /** Gives the library's memory back. */
  free(): void {
    this.query?.destroy();
    this.mesh?.destroy();
  }
}

const NO_AREA: WalkableArea = {
  positions: new Float64Array(),
  indices: new Uint32Array(),
  island: new Uint32Array(),
  islands: [],
};

function extent(points: Float32Array, axis: number): number {
  let low = Infinity;
  let high = -Infinity;
  for (let i = axis; i < points.length; i += 3) {
    if (points[i]! < low) low = points[i]!;
    if (points[i]! > high) high = points[i]!;
  }
  return high > low ? high - low : 0;
}

function areaOf(mesh: NavMesh, origin: Readonly<Vec3>, isInside: (at: Vec3) => boolean): WalkableArea {
  const [flat, corners] = getNavMeshPositionsAndIndices(mesh);
  const positions = Float64Array.from(flat, (v, i) => v + origin[i % 3]!);
  const at = (v: number): Vec3 => [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!];
  // Triangles hang together at corners of one place.
  const places = new Map<string, number>();
  const place = (v: number): number => {
    const key = [0, 1, 2].map((k) => Math.round(flat[v * 3 + k]! * 1e4)).join();
    const known = places.get(key) ?? places.size;
    places.set(key, known);
    return known;
  };
  const kept: number[] = [];
  for (let i = 0; i + 2 < corners.length; i += 3) {
    const [a, b, c] = [at(corners[i]!), at(corners[i + 1]!), at(corners[i + 2]!)];
    const middle: Vec3 = [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3];
    if (!isInside(middle)) kept.push(i);
  }
  const ofCorner = Array.from(corners, (v) => place(v));
  const sets = new UnionFind(places.size);
  for (const i of kept) {
    sets.join(ofCorner[i]!, ofCorner[i + 1]!);
    sets.join(ofCorner[i]!, ofCorner[i + 2]!);
  }
  const byRoot = new Map<number, { area: number; largest: number; at: Vec3 }>();
  const triangles = kept.map((i) => {
    const [a, b, c] = [at(corners[i]!), at(corners[i + 1]!), at(corners[i + 2]!)];
    const area = Math.abs((b[0] - a[0]) * (c[2] - a[2]) - (b[2] - a[2]) * (c[0] - a[0])) / 2;
    const root = sets.root(ofCorner[i]!);
    const known = byRoot.get(root) ?? { area: 0, largest: -1, at: a };
    if (area > known.largest)
      Object.assign(known, {
        largest: area,
        at: [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3],
      });
    known.area += area;
    byRoot.set(root, known);
    return { i, root };
  });
  const order = [...byRoot].sort(([, a], [, b]) => b.area - a.area);
  const number = new Map(order.map(([root], k) => [root, k]));
  return {
    positions,
    indices: Uint32Array.from(triangles.flatMap(({ i }) => [corners[i]!, corners[i + 1]!, corners[i + 2]!])),
    island: Uint32Array.from(triangles, ({ root }) => number.get(root)!),
    islands: order.map(([, { area, at: middle }]) => ({ area, at: middle })),
  };
}
