import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, extname } from 'node:path';
import {
  type BudgetSide,
  Comparer,
  type ConvexHull,
  convexHull,
  crossingPairs,
  decompose as breakUp,
  type DetailedComparison,
  facesWhere,
  farthestOutside,
  hullVolume,
  joinMeshes,
  judgeShape,
  type Mesh,
  pointsOfFaces,
  readFile,
  rungWithin,
  type Shape,
  shapePolygons,
  transformMesh,
  withVertexBudget,
  worldMatrices,
} from '@yard-brace/core';
import type { Options, Result } from './result.js';
import { withNeighbours } from './files.js';
import { judgeAgainstArt, perTarget } from './set-commands.js';
import { UsageError } from './usage-error.js';

/** One mesh of a file where it stands, in the file's own unit and axes. */
export interface Part {
  name: string;
  mesh: Mesh;
}

export async function partsOf(path: string | undefined, what: string, material?: string): Promise<Part[]> {
  return (await partsAndUnit(path, what, material)).parts;
}

/** The meshes of a file, and the unit that it states; null when it leaves that open. */
export async function partsAndUnit(
  path: string | undefined,
  what: string,
  material?: string,
): Promise<{ parts: Part[]; metres: number | null }> {
  if (!path) throw new UsageError(`Name ${what}.`);
  const { file, beside } = await withNeighbours(path, []);
  const { nodes, meshes, materials, unit } = await readFile(file, beside);
  const metres = unit.stated ? unit.metres : null;
  const world = worldMatrices(nodes);
  const parts = nodes.flatMap(({ name, mesh }, i) =>
    mesh === null ? [] : [{ name, mesh: transformMesh(meshes[mesh]!.mesh, world[i]!) }],
  );
  if (!parts.length) throw new UsageError(`${path} holds no triangles.`);
  if (material === undefined) return { parts, metres };
  const covered = parts
    .map(({ name, mesh }) => ({ name, mesh: facesOf(mesh, (i) => materials[i]?.name === material) }))
    .filter(({ mesh }) => mesh.indices.length);
  if (!covered.length)
    throw new UsageError(
      `No face of ${path} has the material “${material}”; there are ${materials.map(({ name }) => `“${name}”`).join(', ') || 'none'}.`,
    );
  return { parts: covered, metres };
}

/** The faces of some materials. */
function facesOf(mesh: Mesh, wanted: (material: number) => boolean): Mesh {
  const chosen = new Uint8Array(mesh.indices.length / 3);
  for (const { material, start, count } of mesh.groups)
    if (wanted(material)) chosen.fill(1, start, start + count);
  return facesWhere(mesh, chosen);
}

const wholeOf = async (path: string | undefined, what = 'a file', material?: string): Promise<Mesh> =>
  joinMeshes((await partsOf(path, what, material)).map(({ mesh }) => mesh));

/** A whole number option within limits; `otherwise` when it is not given. */
export function wholeNumber(options: Options, name: keyof Options, least: number, otherwise: number): number {
  const text = options[name];
  if (text === undefined) return otherwise;
  const value = Number(text);
  if (!Number.isInteger(value) || value < least)
    throw new UsageError(`--${name} takes a whole number of ${least} or more, not “${text}”.`);
  return value;
}

export async function timed<T>(work: () => T | Promise<T>): Promise<{ ms: number; result: T }> {
  const before = performance.now();
  const result = await work();
  return { ms: Math.round((performance.now() - before) * 10) / 10, result };
}

const SIDES: readonly BudgetSide[] = ['outside', 'inside', 'between'];
/** A hull kept to few corners outside may grow by this share; beyond it keeps its volume instead. */
const MAX_VOLUME_GROWTH = 0.03;

/** Kept to few corners on the side asked for; else outside, or, where that would swell it, in between. */
function kept(
  full: ConvexHull,
  most: number,
  asked?: BudgetSide,
): { few: ConvexHull; side: BudgetSide | 'exact' } {
  const few = withVertexBudget(full, most, asked ?? 'outside');
  if (few === full) return { few, side: 'exact' };
  if (asked || hullVolume(few) <= hullVolume(full) * (1 + MAX_VOLUME_GROWTH))
    return { few, side: asked ?? 'outside' };
  return { few: withVertexBudget(full, most, 'between'), side: 'between' };
}

export async function hull(paths: readonly string[], options: Options): Promise<Result> {
  const mesh = await wholeOf(paths[0]);
  const most = wholeNumber(options, 'max-verts', 4, Infinity);
  const asked = options.side;
  if (asked !== undefined && !SIDES.includes(asked as BudgetSide))
    throw new UsageError(`--side takes outside, inside or between, not “${asked}”.`);
  const points = pointsOfFaces(mesh);
  const { ms, result } = await timed(() => {
    const found = convexHull(points);
    return found.span === 'solid'
      ? { span: found.span, full: found.hull, ...kept(found.hull, most, asked as BudgetSide) }
      : found;
  });
  // Flat points have no hull: said in the result, for whoever asked to thicken or to skip them.
  if (result.span !== 'solid')
    return { json: { span: result.span, vertices: 0, faces: 0, volume: 0, ms }, stopped: true };
  const { full, few, side } = result;
  await writeShapes(options.out, [{ kind: 'hull', points: [...few.points], faces: few.faces }]);
  return {
    json: {
      span: 'solid',
      side,
      vertices: few.points.length / 3,
      faces: few.faces.length,
      volume: hullVolume(few),
      fullVertices: full.points.length / 3,
      fullVolume: hullVolume(full),
      volumeChange: hullVolume(few) / hullVolume(full) - 1,
      standsOut: farthestOutside(few, full.points),
      ms,
    },
    stopped: false,
  };
}

export async function decompose(paths: readonly string[], options: Options): Promise<Result> {
  const mesh = await wholeOf(paths[0], 'a file', options['area-material']);
  const maxShapes = wholeNumber(options, 'max-shapes', 1, 32);
  const maxVertices = wholeNumber(options, 'max-verts', 4, 32);
  const rungAsked = wholeNumber(options, 'rung', 1, maxShapes);
  const detail = Number(options['agent-detail'] ?? 0);
  if (!(detail >= 0))
    throw new UsageError(`--agent-detail takes a length of 0 or more, not “${options['agent-detail']}”.`);
  const { ms, result: ladder } = await timed(() =>
    breakUp(mesh, {
      maxShapes,
      maxVertices,
      agentDetail: detail,
      clearances: (options.clearance ?? []).map(clearanceOf),
      primitives: !options['no-primitives'],
      mayCross: !options['no-crossing'],
    }),
  );
  const rung =
    options.rung === undefined
      ? rungWithin(ladder, maxShapes)
      : ladder.rungs.filter(({ shapes }) => shapes.length <= rungAsked).at(-1);
  if (!rung)
    throw new UsageError(
      `The least number of shapes here is ${ladder.rungs[0]!.shapes.length}; --rung ${rungAsked} is below it.`,
    );
  await writeShapes(options.out, rung.shapes, maxVertices);
  const figures = figuresOf(new Comparer(mesh).inDetail(rung.shapes));
  return {
    json: {
      rung: rung.shapes.length,
      ...figures,
      ladder: ladder.rungs.map((r) => ({
        shapes: r.shapes.length,
        proxyOutside: r.figures.proxyOutside.max,
        artOutside: r.figures.artOutside.max,
        overfill: r.figures.overfill,
        underfill: r.figures.underfill,
        overlap: r.figures.overlap,
        vertices: r.figures.cost.vertices,
        kinds: r.figures.cost.kinds,
      })),
      ...(options.targets === undefined ? {} : { targets: perTarget(mesh, rung.shapes, options.targets) }),
      goodEnough: ladder.goodEnough === null ? null : ladder.rungs[ladder.goodEnough]!.shapes.length,
      ms,
    },
    stopped: false,
  };
}

export function clearanceOf(text: string): Shape {
  const [x, y, z, sx, sy, sz, ...more] = text.split(',').map(Number);
  const all = [x, y, z, sx, sy, sz] as number[];
  if (more.length || !all.every(Number.isFinite) || !all.slice(3).every((v) => v > 0))
    throw new UsageError(
      `--clearance takes a centre and three sizes above 0, x,y,z,sx,sy,sz, not “${text}”.`,
    );
  return {
    kind: 'box',
    center: [x!, y!, z!],
    halfExtents: [sx! / 2, sy! / 2, sz! / 2],
    rotation: [0, 0, 0, 1],
  };
}

export async function compare(paths: readonly string[], options: Options): Promise<Result> {
  void options;
  const art = await wholeOf(paths[0], 'the art and the proxies');
  const proxies = await partsOf(paths[1], 'the file with the proxies, too');
  const { ms, result } = await timed(() =>
    new Comparer(art).inDetail(proxies.map(({ mesh }) => shapeOf(mesh))),
  );
  const cavedIn = proxies.filter(({ mesh }) => !judgeShape(mesh).convex).map(({ name }) => name);
  const crossings = crossingPairs(
    proxies.map(({ name, mesh }) => ({ id: name, owner: null, shape: shapeOf(mesh) })),
  );
  return { json: { ...figuresOf(result), crossings, cavedIn, ms }, stopped: false };
}

/** What an importer makes of a proxy mesh: its convex hull; a flat one stays the surface it is. */
export function shapeOf(mesh: Mesh): Shape {
  const found = convexHull(pointsOfFaces(mesh));
  return found.span === 'solid'
    ? { kind: 'hull', points: [...found.hull.points], faces: found.hull.faces }
    : { kind: 'surface', points: [...mesh.positions], indices: [...mesh.indices] };
}

function figuresOf({ cost, uncovered, vertices: _vertices, ...figures }: DetailedComparison) {
  return { ...figures, ...cost, uncoveredFaces: uncovered };
}

export async function judge(paths: readonly string[], options: Options): Promise<Result> {
  if (paths.length > 1) return judgeAgainstArt(paths, options);
  const parts = await partsOf(paths[0], 'a file');
  const { ms, result } = await timed(() => parts.map(({ name, mesh }) => ({ name, ...judgeShape(mesh) })));
  return { json: { shapes: result, ms }, stopped: result.some(({ closed, convex }) => !closed || !convex) };
}

function withFewCorners(polygons: ConvexHull, most: number): ConvexHull {
  if (polygons.points.length / 3 <= most) return polygons;
  const found = convexHull(polygons.points);
  return found.span === 'solid' ? kept(found.hull, most).few : polygons;
}

/** Shapes as an OBJ file, one `o` group each, polygons as they are; rounds get no more corners than hulls may have. */
export async function writeShapes(
  path: string | undefined,
  shapes: readonly Shape[],
  maxVertices = Infinity,
): Promise<void> {
  if (path === undefined) return;
  if (extname(path).toLowerCase() !== '.obj')
    throw new UsageError(`--out takes a name that ends in .obj, not “${path}”.`);
  const lines: string[] = [];
  let first = 1;
  shapes.forEach((shape, i) => {
    const { points, faces } = withFewCorners(shapePolygons(shape), maxVertices);
    lines.push(`o ${shape.kind}_${String(i + 1).padStart(2, '0')}`);
    for (let v = 0; v < points.length; v += 3) lines.push(`v ${points[v]} ${points[v + 1]} ${points[v + 2]}`);
    for (const face of faces) lines.push(`f ${face.map((v) => v + first).join(' ')}`);
    first += points.length / 3;
  });
  await mkdir(dirname(path), { recursive: true });
  await writeFile(path, `${lines.join('\n')}\n`);
}
