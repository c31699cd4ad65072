import { isEmpty, likelyUnit, type Matrix, sizeOf, UNITS, type UnitName } from '../math/index.js';
import { encodeMesh, joinMeshes, type Mesh, meshBounds, transformMesh } from '../mesh/index.js';
import { scaleShape, type Shape } from '../shape/index.js';
import { surveyMesh } from '../solid/index.js';
import { blobId } from './blob-id.js';
import { givenNameSchema, MAX_NAME_CHARACTERS, type PieceDocument, type PieceNode } from './document.js';
import { pivotPlace, worldMatrices } from './geometry.js';
import { pivotAt } from './pivot.js';
import { packUp } from './pack-up.js';
import { pictureSize } from './picture-size.js';
import { NO_PLACING } from './placing.js';
import type { Body, Scene } from './scene.js';

export interface SourceFile {
  name: string;
  blob: string;
  bytes: number;
}

export interface IntakeOptions {
  /** the files as they came, the one that was read first */
  files: SourceFile[];
  /** default: from the first file's name */
  name?: string;
  meshName: (pieceName: string) => string;
  /** numbers of nodes that are kept and are no art */
  aside?: readonly number[];
  /** proxies that came in the file, in its space and unit, with the number of their node */
  proxies?: readonly { shape: Shape; owner: number | null; role?: Body['role']; surface?: string }[];
  progress?: (share: number) => void;
}

/** A new piece and the bytes its document names, ready to be stored. */
export interface Intake {
  document: PieceDocument;
  /** encoded meshes and pictures by their id */
  blobs: Map<string, Uint8Array>;
}

/**
 * A scene as it was read becomes a piece: meshes are encoded, named by their bytes and surveyed; the
 * unit is proposed where the format does not state it. Nothing is moved.
 */
export function takeIn(scene: Scene, options: IntakeOptions): Intake {
  const meshes: PieceDocument['meshes'] = {};
  const encoded = new Map<string, Uint8Array>();
  const ids = scene.meshes.map(({ name, mesh }, i) => {
    const bytes = encodeMesh(mesh);
    const id = blobId(bytes);
    encoded.set(id, bytes);
    meshes[id] ??= { name, facts: surveyMesh(mesh) };
    options.progress?.((i + 1) / (scene.meshes.length + 1));
    return id;
  });
  const { blobs, packOf } = packUp(encoded);
  for (const [id, pack] of packOf) meshes[id]!.pack = pack;
  const pictures = scene.pictures.map(({ name, type, bytes }) => {
    const blob = blobId(bytes);
    blobs.set(blob, bytes);
    return { name: name.slice(0, 255), type, blob, ...pictureSize(bytes) };
  });
  const world = worldMatrices(scene.nodes);
  const aside = options.aside ?? [];
  const nodes = scene.nodes.map(({ mesh, ...node }, i) => ({
    ...node,
    id: `n${i + 1}`,
    mesh: mesh === null ? null : ids[mesh]!,
    bounds: mesh === null ? null : boundsUnder(scene.meshes[mesh]!.mesh, world[i]!),
    aside: aside.includes(i),
    pivot: null,
  }));
  // One mesh that stands as it was drawn is the whole: it need not be looked through twice.
  const art = nodes.flatMap((node, i) => (node.mesh !== null && !node.aside ? [i] : []));
  const plain = art.length === 1 && world[art[0]!]!.every((v, k) => v === (k % 5 === 0 ? 1 : 0));
  const whole = plain ? meshes[nodes[art[0]!]!.mesh!]!.facts : surveyMesh(wholeMesh(scene, aside));
  const name = options.name ?? pieceNameFrom(options.files[0]!.name);
  const unit = scene.unit.stated
    ? ((Object.keys(UNITS) as UnitName[]).find((u) => UNITS[u] === scene.unit.metres) ?? 'm')
    : likelyUnit(Math.max(...sizeOf(whole)));
  const document: PieceDocument = {
    format: 2,
    name,
    source: { files: options.files, notes: scene.notes, leftOut: scene.leftOut },
    unit: { name: unit, stated: scene.unit.stated, confirmed: scene.unit.stated },
    nodes,
    meshes,
    whole,
    materials: scene.materials,
    pictures,
    placing: NO_PLACING,
    pivot: pivotAt('as-it-came', [0, 0, 0]),
    presentation: null,
    family: null,
    familyFeature: null,
    clearances: [],
    riddenEdges: [],
    proxies: (options.proxies ?? []).map(({ shape, owner, role, surface }, i) => ({
      id: `came-${i + 1}`,
      shape: scaleShape(shape, UNITS[unit]),
      // A group has no art of its own: its shapes belong to the piece as a whole.
      ...(owner === null || nodes[owner]!.mesh === null ? {} : { part: nodes[owner]!.id }),
      ...(role ? { role } : {}),
      ...(surface === undefined ? {} : { surface }),
    })),
    sets: [],
    areas: [],
    noCollision: [],
    agent: null,
    leaves: 'as-one',
    meshName: options.meshName(name),
  };
  document.pivot.position = pivotPlace(document, 'as-it-came');
  options.progress?.(1);
  return { document, blobs };
}

/** All meshes where their nodes put them, as one, in the scene's unit. */
export function wholeMesh(scene: Pick<Scene, 'nodes' | 'meshes'>, aside: readonly number[] = []): Mesh {
  const world = worldMatrices(scene.nodes);
  const placed = scene.nodes.flatMap((node, i) =>
    node.mesh === null || aside.includes(i) ? [] : [transformMesh(scene.meshes[node.mesh]!.mesh, world[i]!)],
  );
  return joinMeshes(placed);
}

/** Bounds of the used vertices after a matrix; null for a mesh without faces. */
export function boundsUnder(mesh: Mesh, matrix: Matrix): PieceNode['bounds'] {
  const bounds = meshBounds(transformMesh(mesh, matrix));
  return isEmpty(bounds) ? null : bounds;
}

/** "boat_cradle-02.obj" becomes "Boat cradle 02". */
export function pieceNameFrom(fileName: string): string {
  const words = fileName
    .replace(/\.[^.]*$/, '')
    .replace(/[_\-\s]+/g, ' ')
    .trim()
    .slice(0, MAX_NAME_CHARACTERS)
    .trim();
  const name = words ? words[0]!.toUpperCase() + words.slice(1) : 'Piece';
  if (givenNameSchema.safeParse(name).success) return name;
  // Nothing to see in it, half a character, or a device to some file system.
  const seen = [...name].filter((c) => /[\p{L}\p{N}]/u.test(c)).join('');
  return seen ? `Piece ${seen}`.slice(0, MAX_NAME_CHARACTERS) : 'Piece';
}
