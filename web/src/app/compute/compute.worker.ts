import { LARGEST_JSON_BYTES } from '@yard-brace/contract';
import {
  artKey,
  artNodes,
  BlobHasher,
  buildBvh,
  centreOf,
  Comparer,
  compareNewArt,
  decompose,
  diagonalOf,
  edgeRun,
  extractPiece,
  faceNeighbours,
  type FaultKind,
  faultPlaces,
  featureEdges,
  firstHit,
  FormatError,
  type InputFile,
  type MeasuredAnchor,
  measuredPivot,
  measureUvs,
  type Mesh,
  meshBounds,
  meshNameFrom,
  operate,
  type Operation,
  type PieceDocument,
  piecesIn,
  type PlacedArt,
  placedArt,
  placedMatrices,
  provideDracoWasm,
  proxyFits,
  PREFIX_TAGS,
  readFile,
  setApart,
  type Shape,
  type ShapeComparison,
  subtract,
  takeFaces,
  takeIn as takeInScene,
  transformMesh,
  type Vec3,
  type WallProbe,
  weld,
  wrap,
} from '@yard-brace/core';
import { expose, transfer } from 'comlink';
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import * as z from 'zod';
import {
  type ArtToDraw,
  type Extracted,
  type FaultLines,
  type LadderRequest,
  ladderRequestSchema,
  type LadderRun,
  type Measured,
  type NewArt,
  type Operated,
  type Progress,
  type UvReport,
  type Wrapped,
  type WrapRequest,
} from './messages';
import { takePicture } from '../view/picture';
import { getBlob } from './get-blob';
import { MeshCache } from './mesh-cache';
import { putBlob } from './put-blob';

z.config({ jitless: true });
provideDracoWasm(async () => (await fetch('/draco_decoder.wasm')).arrayBuffer());

/** Heavy work off the page's own thread. Stopping it is ending the worker. */
const worker = {
  /** Read a mesh file with what stands beside it, store its bytes, answer with the new piece's document. */
  takeIn,

  /** The piece's art as the view draws it. */
  async draw(document: PieceDocument, progress: Progress): Promise<ArtToDraw> {
    const placed = await placedOf(document, (share) => progress(share * 0.6, `Fetching ${document.name}`));
    progress(0.6, `Drawing ${document.name}`);
    const drawn = toDraw(placed);
    const buffers = [
      drawn.positions,
      drawn.indices,
      drawn.normals,
      drawn.uv,
      drawn.colors,
      drawn.ink,
      drawn.part,
      drawn.face,
      drawn.neighbours,
    ].flatMap((array) => (array ? [array.buffer] : []));
    return transfer(drawn, [...buffers, ...((drawn.tree?.roots ?? []) as ArrayBuffer[])]);
  },

  /** A small picture of the piece, as PNG bytes. */
  async picture(document: PieceDocument, progress: Progress): Promise<Uint8Array<ArrayBuffer>> {
    const placed = await placedOf(document, (share) => progress(share * 0.6, `Drawing ${document.name}`));
    const bytes = await takePicture(toDraw(placed, { pickable: false }), document);
    return transfer(bytes, [bytes.buffer]);
  },

  /** Boxes or hulls round the art. */
  async wrap(document: PieceDocument, request: WrapRequest, progress: Progress): Promise<Wrapped> {
    const { mesh } = await placedOf(document, (share) => progress(share * 0.2, 'Fetching the art'));
    return wrap(mesh, { ...request, progress: (share) => progress(0.2 + share * 0.8, 'Wrapping') });
  },

  /** Break the art, or some faces of it, into convex shapes; measure what is there the same way. */
  async ladder(document: PieceDocument, request: LadderRequest, progress: Progress): Promise<LadderRun> {
    const options = ladderRequestSchema.parse(request);
    const { mesh } = await placedOf(document, (share) => progress(share * 0.1, 'Fetching the art'));
    let told = 0;
    const ladder = await decompose(mesh, {
      ...options,
      progress: (share) => {
        // Told in steps that a person can see: every call crosses to the page.
        if (share * 100 < told + 1) return;
        told = share * 100;
        progress(0.1 + share * 0.85, 'Breaking into shapes');
      },
    });
    const shapes = document.proxies.map(({ shape }) => shape);
    return { ladder, now: shapes.length ? comparerOf(document, mesh).compare(shapes) : null };
  },

  /** How far shapes lie from the art, in figures and at each vertex. */
  async measure(document: PieceDocument, shapes: Shape[], progress: Progress): Promise<Measured> {
    const { mesh } = await placedOf(document, (share) => progress(share * 0.3, 'Fetching the art'));
    progress(0.3, 'Measuring');
    const { vertices, uncovered: _uncovered, ...figures } = comparerOf(document, mesh).inDetail(shapes);
    const values = new Float32Array(vertices);
    return transfer({ figures, vertices: values }, [values.buffer]);
  },

  /** The figures of a set of shapes against the art. */
  async compare(document: PieceDocument, shapes: Shape[], progress: Progress): Promise<ShapeComparison> {
    const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Measuring the shapes'));
    return comparerOf(document, mesh).compare(shapes);
  },

  /** Work out an operation and store the meshes it makes; the edit is for the page to keep or leave. */
  async operate(document: PieceDocument, operation: Operation, progress: Progress): Promise<Operated> {
    const meshOf = await cache.hold(document, (share) => progress(share * 0.1, 'Fetching the art'));
    const { edit, blobs, says } = await operate(document, operation, meshOf, (share) =>
      progress(0.1 + share * 0.6, 'Working'),
    );
    await storeAll(
      [...blobs].map(([id, bytes]) => [id, new Blob([bytes as Uint8Array<ArrayBuffer>])] as const),
      (share) => progress(0.7 + share * 0.3, 'Storing'),
    );
    return { edit, says };
  },

  /** What an operation would say; nothing is stored. */
  async count(document: PieceDocument, operation: Operation, progress: Progress): Promise<string> {
    const meshOf = await cache.hold(document, (share) => progress(share * 0.3, 'Counting'));
    return (await operate(document, operation, meshOf)).says;
  },

  /** Where one kind of fault is, on the art as it is drawn. */
  async faults(document: PieceDocument, kind: FaultKind, progress: Progress): Promise<FaultLines> {
    const { mesh } = await placedOf(document, (share) => progress(share * 0.5, 'Looking for the place'));
    const { faces, edges } = faultPlaces(mesh, kind);
    const origin = originOf(mesh);
    const points = new Float32Array(edges.length * 3);
    edges.forEach((v, i) => {
      for (let k = 0; k < 3; k++) points[i * 3 + k] = mesh.positions[v * 3 + k]! - origin[k]!;
    });
    return transfer({ faces: Uint32Array.from(faces), edges: points }, [points.buffer]);
  },

  /** The run of edges that goes on from the side of a face nearest to a point: its faces and sides by part. */
  async edgeRun(
    document: PieceDocument,
    face: number,
    at: Vec3,
    progress: Progress,
  ): Promise<{ faces: Uint8Array; sides: { part: string; sides: Uint32Array<ArrayBuffer> }[] }> {
    const placed = await placedOf(document, (share) => progress(share * 0.5, 'Following the edge'));
    const joined = weld(placed.mesh.positions);
    const neighbours = faceNeighbours(placed.mesh, joined);
    const run = edgeRun(placed.mesh, neighbours, joined.remap, nearestSide(placed.mesh, face, at));
    const byPart = new Map<number, number[]>();
    for (const side of run.sides) {
      const f = (side / 3) | 0;
      const list = byPart.get(placed.node[f]!) ?? [];
      byPart.set(placed.node[f]!, [...list, placed.face[f]! * 3 + (side % 3)]);
    }
    const sides = [...byPart].map(([node, list]) => ({
      part: document.nodes[node]!.id,
      sides: Uint32Array.from(list),
    }));
    return { faces: run.faces, sides };
  },

  /** Of the faces chosen, those that a view from `eye` sees; with `direction` all rays run that way. Shape: [t]. */
  async visible(
    document: PieceDocument,
    chosen: Uint8Array,
    eye: Vec3,
    direction: Vec3 | null,
    progress: Progress,
  ): Promise<Uint8Array> {
    const { mesh } = await placedOf(document, (share) => progress(share * 0.2, 'Looking what is seen'));
    const tree = new MeshBVH(geometryOf(mesh), { indirect: true });
    const origin = originOf(mesh);
    const out = new Uint8Array(chosen.length);
    const size = diagonalOf(meshBounds(mesh));
    const ray = new Ray();
    const target = new Vector3();
    for (let f = 0; f < chosen.length; f++) {
      if (!chosen[f]) continue;
      if ((f & 0xfff) === 0) progress(0.2 + (0.8 * f) / chosen.length, 'Looking what is seen');
      target.set(0, 0, 0);
      for (let k = f * 3; k < f * 3 + 3; k++) {
        const v = mesh.indices[k]! * 3;
        target.x += (mesh.positions[v]! - origin[0]) / 3;
        target.y += (mesh.positions[v + 1]! - origin[1]) / 3;
        target.z += (mesh.positions[v + 2]! - origin[2]) / 3;
      }
      if (direction) ray.direction.set(...direction).normalize();
      else
        ray.direction
          .set(target.x + origin[0] - eye[0], target.y + origin[1] - eye[1], target.z + origin[2] - eye[2])
          .normalize();
      ray.origin.copy(target).addScaledVector(ray.direction, -4 * size);
      if (!direction) {
        const back = new Vector3(eye[0] - origin[0], eye[1] - origin[1], eye[2] - origin[2]);
        if (back.distanceTo(target) < 4 * size) ray.origin.copy(back);
      }
      const hit = tree.raycastFirst(ray, DoubleSide);
      if (hit && (hit.faceIndex === f || hit.point.distanceTo(target) < size * 1e-5)) out[f] = 1;
    }
    return out;
  },

  /** Where a measured anchor is, for the whole piece or one part. */
  async measuredPivot(
    document: PieceDocument,
    anchor: MeasuredAnchor,
    part: string | null,
    progress: Progress,
  ): Promise<Vec3> {
    const placed = await placedOf(document, (share) => progress(share, 'Measuring'));
    const node = part === null ? -1 : document.nodes.findIndex((each) => each.id === part);
    const mesh = node < 0 ? placed.mesh : takeFaces(placed.mesh, (f) => placed.node[f] === node);
    return measuredPivot(mesh, anchor);
  },

  /** How thick the wall is at some places, at most; 0 where no ray meets its back. */
  async wallMetres(
    document: PieceDocument,
    probes: readonly WallProbe[],
    progress: Progress,
  ): Promise<number> {
    const { mesh } = await placedOf(document, (share) => progress(share, 'Measuring the wall'));
    const tree = buildBvh(mesh);
    const found = probes.map(({ at, into }) => firstHit(tree, at, into, Infinity));
    return Math.max(0, ...found.filter(Number.isFinite));
  },

  /** How the UVs of each part lie, at the size the part has. */
  async uvs(document: PieceDocument, progress: Progress): Promise<UvReport[]> {
    const meshOf = await cache.hold(document, (share) => progress(share, 'Measuring UVs'));
    const placed = placedMatrices(document);
    return artNodes(document.nodes).map((i) => {
      const node = document.nodes[i]!;
      const mesh = transformMesh(meshOf(node.mesh!), placed[i]!);
      const measure = measureUvs(mesh);
      const widths = mesh.groups.flatMap(({ material }) => {
        const use = document.materials[material]?.pictures.baseColor;
        return use ? [document.pictures[use.picture]!.width] : [];
      });
      const width = Math.max(0, ...widths);
      return {
        part: node.id,
        density: measure?.density ?? null,
        pixels: measure && width ? measure.density * width : null,
        stretched: measure?.stretched ?? 0,
        uneven: measure?.uneven ?? 0,
      };
    });
  },

  /** Read a file as new art for a piece, and say what it would change. */
  async newArt(document: PieceDocument, file: File, beside: File[], progress: Progress): Promise<NewArt> {
    const fresh = await takeIn(file, beside, progress);
    const meshOf = await cache.hold({ meshes: { ...document.meshes, ...fresh.meshes } });
    const report = compareNewArt(document, fresh, meshOf);
    progress(0.95, 'Measuring the proxies');
    const { kind: _kind, ...change } = report.edit;
    const [before, after] = [document, { ...document, ...change }].map((d) => placedArt(d, meshOf).mesh);
    const shapes = document.proxies.map(({ shape }) => shape);
    return { report, fits: shapes.length ? proxyFits(before!, after!, shapes, STILL_FITS) : [] };
  },

  /** The several pieces of one document, each a document of its own. */
  async extract(document: PieceDocument, progress: Progress): Promise<Extracted> {
    const meshOf = await cache.hold(document, (share) => progress(share, 'Taking the pieces apart'));
    return piecesIn(document).map((tops) => extractPiece(document, tops, meshOf, meshNameFrom));
  },
};

export type ComputeWorker = typeof worker;

expose(worker);

async function takeIn(file: File, beside: File[], progress: Progress): Promise<PieceDocument> {
  const besides = beside.map((other) => ({ other, input: inputFrom(other), read: false }));
  for (const each of besides) {
    const { bytes } = each.input;
    each.input.bytes = () => ((each.read = true), bytes());
  }
  const read = await readFile(
    inputFrom(file),
    besides.map(({ input }) => input),
    {
      progress: (share) => progress(share * 0.5, `Reading ${file.name}`),
    },
  );
  progress(0.5, `Looking through ${file.name}`);
  const apart = setApart(read);
  // Only what was read belongs to the piece: several files may have been dropped with the same pictures.
  const used = [file, ...besides.filter((each) => each.read).map(({ other }) => other)];
  const sources = await Promise.all(
    used.map(async (source) => ({ name: source.name, blob: await hashOf(source), bytes: source.size })),
  );
  const { document, blobs } = takeInScene(apart.scene, {
    files: sources,
    meshName: meshNameFrom,
    target: PREFIX_TAGS.id,
    proxies: apart.proxies,
    aside: apart.aside,
    progress: (share) => progress(0.5 + share * 0.2, `Looking through ${file.name}`),
  });
  // What the server would refuse is not sent first.
  if (JSON.stringify(document).length > LARGEST_JSON_BYTES * 0.98)
    throw new FormatError(
      file.name,
      `its tree of ${document.nodes.length.toLocaleString('en-GB')} nodes is larger than what a piece may hold`,
      'join parts or export fewer at a time',
    );
  const bodies = [
    ...sources.map((source, i) => [source.blob, used[i]!] as const),
    ...[...blobs].map(([id, bytes]) => [id, new Blob([bytes as Uint8Array<ArrayBuffer>])] as const),
  ];
  await storeAll(bodies, (share) => progress(0.7 + share * 0.3, `Storing ${file.name}`));
  return document;
}

async function storeAll(
  bodies: readonly (readonly [id: string, body: Blob])[],
  progress: (share: number) => void,
): Promise<void> {
  const total = bodies.reduce((sum, [, body]) => sum + body.size, 0) || 1;
  let sent = 0;
  for (const [id, body] of bodies) {
    await putBlob(id, body, (bytes) => progress((sent + bytes) / total));
    sent += body.size;
  }
}

const cache = new MeshCache({ fetchBytes: getBlob });

/** A proxy that lies off its new art by no more metres than before and this still fits. */
const STILL_FITS = 2e-3;

/** The comparer of the art that was measured last. */
let measuring: { key: string; comparer: Comparer } | undefined;

function comparerOf(document: PieceDocument, mesh: Mesh): Comparer {
  const key = artKey(document);
  if (measuring?.key !== key) measuring = { key, comparer: new Comparer(mesh) };
  return measuring.comparer;
}

/** The art that was last put together: most questions are about the same one. */
let last: { key: string; placed: PlacedArt } | undefined;

async function placedOf(document: PieceDocument, progress: (share: number) => void): Promise<PlacedArt> {
  const key = artKey(document);
  if (last?.key === key) return last.placed;
  const placed = placedArt(document, await cache.hold(document, progress));
  last = { key, placed };
  return placed;
}

const originOf = (mesh: Mesh): Vec3 => (mesh.indices.length ? centreOf(meshBounds(mesh)) : [0, 0, 0]);

function toDraw({ mesh: art, node, face }: PlacedArt, { pickable = true } = {}): ArtToDraw {
  const origin = originOf(art);
  const positions = Float32Array.from(art.positions, (value, i) => value - origin[i % 3]!);
  // Vertices that no face uses are drawn nowhere: at the middle they widen no bounds either.
  const used = new Uint8Array(positions.length / 3);
  for (const v of art.indices) used[v] = 1;
  for (let i = 0; i < positions.length; i++) if (!used[(i / 3) | 0]) positions[i] = 0;
  const edges = featureEdges(art);
  const ink = new Float32Array(edges.length * 3);
  edges.forEach((v, i) => ink.set(positions.subarray(v * 3, v * 3 + 3), i * 3));
  return {
    origin,
    positions,
    indices: Uint32Array.from(art.indices),
    normals: art.normals && Float32Array.from(art.normals),
    uv: art.uvs[0] && Float32Array.from(art.uvs[0]),
    colors: art.colors && Float32Array.from(art.colors),
    groups: art.groups,
    ink,
    part: Uint32Array.from(node),
    face: Uint32Array.from(face),
    neighbours: pickable ? Int32Array.from(faceNeighbours(art)) : new Int32Array(),
    tree: pickable && art.indices.length ? treeOf(positions, art.indices) : undefined,
  };
}

function treeOf(positions: Float32Array, indices: Uint32Array): ArtToDraw['tree'] {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setIndex(new BufferAttribute(indices.slice(), 1));
  return MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), { cloneBuffers: false });
}

function geometryOf(mesh: Mesh): BufferGeometry {
  const origin = originOf(mesh);
  const geometry = new BufferGeometry();
  const positions = Float32Array.from(mesh.positions, (value, i) => value - origin[i % 3]!);
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices.slice(), 1));
  return geometry;
}

/** The side (3 * face + k) of a face that lies nearest to a point. */
function nearestSide({ positions: p, indices }: Mesh, face: number, at: Vec3): number {
  const point = (corner: number): Vec3 => {
    const v = indices[corner]! * 3;
    return [p[v]!, p[v + 1]!, p[v + 2]!];
  };
  const away = (k: number) => {
    const [a, b] = [point(face * 3 + k), point(face * 3 + ((k + 1) % 3))];
    const d = subtract(b, a);
    const l = d.reduce((sum, v) => sum + v * v, 0) || 1;
    const share = Math.min(1, Math.max(0, subtract(at, a).reduce((sum, v, i) => sum + v * d[i]!, 0) / l));
    return Math.hypot(...subtract(at, a).map((v, i) => v - d[i]! * share));
  };
  return face * 3 + [0, 1, 2].reduce((best, k) => (away(k) < away(best) ? k : best));
}

function inputFrom(file: File): InputFile {
  return {
    name: file.name,
    size: file.size,
    bytes: async () => new Uint8Array(await readable(file, file.arrayBuffer())),
    async *chunks() {
      const reader = file.stream().getReader();
      for (;;) {
        const { done, value } = await readable(file, reader.read());
        if (done) return;
        yield value;
      }
    },
  };
}

/** A file can go away, or turn out to be a folder, between the drop and the reading. */
async function readable<T>(file: File, reading: Promise<T>): Promise<T> {
  try {
    return await reading;
  } catch {
    throw new FormatError(
      file.name,
      'the file cannot be read from the disk',
      'check that it is still there and drop it again',
    );
  }
}

async function hashOf(file: File): Promise<string> {
  const hasher = new BlobHasher();
  for await (const chunk of inputFrom(file).chunks()) hasher.add(chunk);
  return hasher.id();
}
