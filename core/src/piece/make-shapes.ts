import * as z from 'zod';
import {
  borderWalls,
  chainAlong,
  chainOfRun,
  containerAround,
  containerThickness,
  decompose,
  DecomposeError,
  frameAround,
  MAX_LINKS,
  MAX_RUNG_SHAPES,
  reducedProxy,
  slabBelow,
  slopeOf,
  stackedRounds,
  vehicleOf,
  wrap,
} from '../decompose/index.js';
import { pointsOfFaces, WRAP_KINDS } from '../fit/index.js';
import { facesWhere, type Mesh, plainMesh, shellsOf } from '../mesh/index.js';
import { boundsOf, diagonalOf } from '../math/index.js';
import { vec3Schema } from '../math/schemas.js';
import type { Shape } from '../shape/index.js';
import { clearanceAxes, clearanceShape } from './clearances.js';
import type { PieceDocument, Proxy } from './document.js';
import { addProxies } from './edits/change-proxies.js';
import type { Intent } from './edits/intent.js';
import type { PutProxies } from './edits/put-proxies.js';
import { type PlacedArt, collidingArt } from './geometry.js';
import { withDistinctIds } from './proxy-ids.js';

const metres = z.number().positive().max(10_000);
/** numbers of faces of the placed art; null for all */
const faces = z.instanceof(Uint32Array).nullable();

/** A way to make shapes of chosen art: what is asked for. Lengths in metres. */
export const makeSchema = z.discriminatedUnion('make', [
  z.object({
    make: z.literal('wrap'),
    kind: z.enum([...WRAP_KINDS, 'suggested']),
    per: z.enum(['piece', 'part', 'shell']),
    faces,
  }),
  z.object({
    make: z.literal('chain'),
    faces,
    /** boxes, or as many as the tolerance asks for */
    count: z.number().int().min(1).max(MAX_LINKS).nullable(),
    tolerance: metres.nullable(),
  }),
  z.object({
    make: z.literal('drawn-chain'),
    line: z.array(vec3Schema).min(2).max(1000),
    width: metres,
    height: metres,
    closed: z.boolean(),
    /** the part that it belongs to. Absent: the piece as a whole */
    part: z.string().optional(),
  }),
  z.object({ make: z.literal('slope'), faces }),
  z.object({
    make: z.literal('walls'),
    faces,
    height: metres,
    thickness: metres,
    side: z.enum(['outside', 'inside']),
    as: z.enum(['boxes', 'hulls']),
    /** whether the short ends of a long floor get walls, too */
    ends: z.boolean(),
  }),
  z.object({ make: z.literal('slab'), faces, thickness: metres }),
  z.object({
    make: z.literal('container'),
    faces,
    /** null: as thick as the art's own walls and floor */
    thickness: metres.nullable(),
    sides: z.number().int().min(3).max(64),
  }),
  /** a turned body as rounds on each other, as few as lie within what is not felt */
  z.object({
    make: z.literal('rounds'),
    faces,
    sides: z.number().int().min(3).max(64),
    maxRounds: z.number().int().min(1).max(64),
  }),
  z.object({ make: z.literal('frame'), clearance: z.string(), width: metres, sill: z.boolean() }),
  z.object({
    make: z.literal('reduced'),
    faces,
    /** of the triangles that are kept */
    share: z.number().min(0).max(1),
    as: z.enum(['hulls', 'surface']),
  }),
  z.object({ make: z.literal('own-triangles'), faces }),
  /** a body and a ball a wheel, each on its own part */
  z.object({ make: z.literal('vehicle') }),
  /** a surface in the set, by its id, is broken up into solid shapes in its place */
  z.object({
    make: z.literal('break-up'),
    shape: z.string(),
    maxShapes: z.number().int().min(1).max(MAX_RUNG_SHAPES),
  }),
]);
export type Make = z.infer<typeof makeSchema>;

export interface MakeOptions {
  /** of a hull, at most */
  maxCorners: number;
  /** what is not felt, metres */
  toleranceMetres: number;
}

/** Triangles of a surface that is kept in the document, at most. */
export const MAX_SURFACE_TRIANGLES = 20_000;

/**
 * The edit that adds what is asked for. Shapes belong to the part that the faces are on; a wrap of the whole piece takes
 * the place of all shapes there are.
 *
 * @throws DecomposeError, WrapError with a sentence for the person
 */
export async function makeShapes(
  document: PieceDocument,
  whole: PlacedArt,
  make: Make,
  options: MakeOptions,
): Promise<PutProxies> {
  const edit = await made(document, whole, make, options);
  const intent = intentOf(document, whole, make, edit);
  return intent ? { ...edit, intent } : edit;
}

/** What was asked for, where it means something on another piece: of all the art, or of whole parts. */
function intentOf(
  { nodes }: PieceDocument,
  { node }: PlacedArt,
  { make, ...asked }: Make,
  { removed }: PutProxies,
): Intent | null {
  if (make === 'drawn-chain' || make === 'break-up') return null;
  const {
    faces,
    clearance: _clearance,
    ...parameters
  } = asked as { faces?: Uint32Array | null; clearance?: string };
  const parts = faces ? partsOfFaces(node, faces) : null;
  if (faces && !parts) return null;
  return {
    op: make,
    parts: parts ? { by: 'name', names: parts.map((i) => nodes[i]!.name) } : { by: 'all' },
    parameters: {
      ...parameters,
      ...(removed === 'others' ? {} : { replaces: 'none' }),
    },
  };
}

/** Numbers of the nodes that chosen faces are all the faces of; null where only some of a part were chosen. */
function partsOfFaces(node: Uint32Array, faces: Uint32Array): number[] | null {
  const chosen = new Map<number, number>();
  for (const face of faces) chosen.set(node[face]!, (chosen.get(node[face]!) ?? 0) + 1);
  const whole = new Map<number, number>();
  for (const of of node) if (chosen.has(of)) whole.set(of, (whole.get(of) ?? 0) + 1);
  return [...chosen].every(([of, count]) => whole.get(of) === count) ? [...chosen.keys()] : null;
}

async function made(
  document: PieceDocument,
  whole: PlacedArt,
  make: Make,
  options: MakeOptions,
): Promise<PutProxies> {
  // Faces are numbered as they are drawn, specks and all.
  const placed = 'faces' in make && make.faces ? whole : collidingArt(document, whole);
  if (make.make === 'wrap') return wrapped(document, placed, make, options);
  if (make.make === 'vehicle') return vehicle(document, placed, options);
  if (make.make === 'break-up') return brokenUp(document, make, options);
  if (make.make === 'chain') return chains(document, placed, make);
  const shapes = await shapesOf(document, placed.mesh, make, options);
  const owner = make.make === 'drawn-chain' ? make.part : undefined;
  return addProxies(document, shapes, 'faces' in make ? ownerOf(document, placed, make.faces) : owner);
}

/** The part that all of some faces are on, where there are several parts. */
function ownerOf(
  { nodes }: PieceDocument,
  { node }: PlacedArt,
  faces: Uint32Array | null,
): string | undefined {
  const parts = new Set(faces ? Array.from(faces, (face) => node[face]!) : node);
  return parts.size === 1 && nodes.length > 1 ? nodes[[...parts][0]!]!.id : undefined;
}

function wrapped(
  document: PieceDocument,
  placed: PlacedArt,
  { kind, per, faces }: Extract<Make, { make: 'wrap' }>,
  { maxCorners, toleranceMetres }: MakeOptions,
): PutProxies {
  const mesh = faces ? chosenFaces(placed.mesh, faces) : placed.mesh;
  const node = faces ? Uint32Array.from(faces, (face) => placed.node[face]!) : placed.node;
  const { shapes, faces: firstFaces } = wrap(mesh, {
    kind,
    per: per === 'part' ? { count: document.nodes.length, ofFace: node } : per,
    maxCorners,
    toleranceMetres,
  });
  const several = document.nodes.length > 1 && per !== 'piece';
  const made = shapes.map((shape, i): Proxy => ({
    id: `${kind}-${per}-${i + 1}`,
    shape,
    ...(several ? { part: document.nodes[node[firstFaces[i]!]!]!.id } : {}),
  }));
  if (!faces) return { kind: 'put-proxies', changed: withDistinctIds(made), removed: 'others' };
  // Beside what is there already.
  return added(document, made);
}

/** The edit that adds shapes, each to its own part. */
const added = (document: PieceDocument, made: readonly Omit<Proxy, 'id'>[]): PutProxies =>
  made.reduce<PutProxies>(
    (edit, { shape, part }) => {
      const { changed } = addProxies({ proxies: [...document.proxies, ...edit.changed] }, [shape], part);
      return { ...edit, changed: [...edit.changed, ...changed] };
    },
    { kind: 'put-proxies', changed: [], removed: [] },
  );

/** A chain along the run of each part that was chosen, or of each of its shells where those lie side by side. */
function chains(
  document: PieceDocument,
  placed: PlacedArt,
  { faces, count, tolerance }: Extract<Make, { make: 'chain' }>,
): PutProxies {
  const all = faces ?? placed.node.map((_, face) => face);
  const options = { ...(count === null ? {} : { count }), ...(tolerance === null ? {} : { tolerance }) };
  const parts = [...new Set(Array.from(all, (face) => placed.node[face]!))];
  return added(
    document,
    parts.flatMap((node) => {
      const mesh = chosenFaces(
        placed.mesh,
        all.filter((face) => placed.node[face] === node),
      );
      const owner = document.nodes.length > 1 ? { part: document.nodes[node]!.id } : {};
      return runsOf(mesh)
        .flatMap(({ positions, indices }) => chainOfRun(positions, indices, options).shapes)
        .map((shape) => ({ shape, ...owner }));
    }),
  );
}

/** Shells that reach along most of what they make up lie side by side; shorter ones follow each other in one run. */
const SIDE_BY_SIDE_SHARE = 0.6;

function runsOf(mesh: Mesh): Mesh[] {
  const shells = shellMeshes(mesh);
  const reach = diagonalOf(boundsOf(mesh.positions)) * SIDE_BY_SIDE_SHARE;
  return shells.every(({ positions }) => diagonalOf(boundsOf(positions)) >= reach) ? shells : [mesh];
}

/** Each connected shell of a mesh by itself. */
function shellMeshes(mesh: Mesh): Mesh[] {
  const { ofTriangle, count } = shellsOf(mesh);
  return Array.from({ length: count }, (_, shell) =>
    facesWhere(
      mesh,
      Uint8Array.from(ofTriangle, (of) => (of === shell ? 1 : 0)),
    ),
  );
}

/** A vehicle takes the place of all shapes there are. */
function vehicle(document: PieceDocument, placed: PlacedArt, { maxCorners }: MakeOptions): PutProxies {
  const { body, wheels } = vehicleOf(placed.mesh, (face) => placed.node[face]!, { maxCorners });
  const several = document.nodes.length > 1;
  return {
    kind: 'put-proxies',
    changed: [body, ...wheels].map(({ shape, part }, i) => ({
      id: `vehicle-${i + 1}`,
      shape,
      ...(several ? { part: document.nodes[part]!.id } : {}),
    })),
    removed: 'others',
  };
}

/** A surface as solid shapes: the first rung that is close enough, or else the closest. */
async function brokenUp(
  document: PieceDocument,
  { shape: id, maxShapes }: Extract<Make, { make: 'break-up' }>,
  { maxCorners, toleranceMetres }: MakeOptions,
): Promise<PutProxies> {
  const proxy = document.proxies.find((each) => each.id === id);
  if (proxy?.shape.kind !== 'surface')
    throw new DecomposeError('That shape is no surface of triangles; only those can be broken up.');
  const { points, indices } = proxy.shape;
  const { rungs, goodEnough } = await decompose(plainMesh(points, indices), {
    maxShapes,
    maxVertices: maxCorners,
    agentDetail: toleranceMetres,
    clearances: document.clearances.map(clearanceShape),
  });
  const rung = rungs[goodEnough ?? rungs.length - 1]!;
  const added = addProxies(document, rung.shapes, proxy.part);
  return { ...added, removed: [id] };
}

async function shapesOf(
  document: PieceDocument,
  whole: Mesh,
  make: Exclude<Make, { make: 'wrap' | 'chain' | 'vehicle' | 'break-up' }>,
  { maxCorners, toleranceMetres }: MakeOptions,
): Promise<Shape[]> {
  switch (make.make) {
    case 'drawn-chain':
      return chainAlong(make.line, [make.width / 2, make.height / 2], { closed: make.closed });
    case 'frame': {
      const clearance = document.clearances.find(({ id }) => id === make.clearance);
      if (!clearance) throw new DecomposeError('That opening is gone; choose another one.');
      return frameAround(clearanceShape(clearance), {
        widthMetres: make.width,
        sill: make.sill,
        axes: clearanceAxes(clearance),
      });
    }
    case 'slope':
      return [slopeOf(whole, make.faces ?? undefined)];
    case 'slab':
      return slabBelow(whole, {
        ...(make.faces ? { faces: make.faces } : {}),
        thicknessMetres: make.thickness,
        toleranceMetres,
      });
    case 'container': {
      const art = make.faces ? chosenFaces(whole, make.faces) : whole;
      const own = make.thickness === null ? containerThickness(art) : null;
      if (make.thickness === null && !own)
        throw new DecomposeError(
          'No walls and floor were found that are open above; say how thick they are.',
        );
      return containerAround(pointsOfFaces(art), {
        thicknessMetres: make.thickness ?? own!.walls,
        floorMetres: make.thickness ?? own!.floor,
        sides: make.sides,
      });
    }
    default: {
      const mesh = make.faces ? chosenFaces(whole, make.faces) : whole;
      switch (make.make) {
        case 'rounds':
          return stackedRounds(mesh.positions, mesh.indices, { ...make, maxCorners, toleranceMetres });
        case 'walls':
          return borderWalls(mesh, make);
        case 'reduced':
          return (await reducedProxy(mesh, { share: make.share, as: make.as, maxCorners })).shapes.map(
            asSurface,
          );
        case 'own-triangles':
          return [asSurface({ kind: 'surface', points: [...mesh.positions], indices: [...mesh.indices] })];
      }
    }
  }
}

function chosenFaces(mesh: Mesh, faces: Uint32Array): Mesh {
  const chosen = new Uint8Array(mesh.indices.length / 3);
  for (const face of faces) chosen[face] = 1;
  return facesWhere(mesh, chosen);
}

function asSurface(shape: Shape): Shape {
  const triangles = shape.kind === 'surface' ? shape.indices.length / 3 : 0;
  if (triangles > MAX_SURFACE_TRIANGLES)
    throw new DecomposeError(
      `A surface of ${triangles} triangles is too dear to collide with (${MAX_SURFACE_TRIANGLES} at most); reduce it further or choose fewer faces.`,
    );
  return shape;
}
