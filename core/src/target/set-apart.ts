import { exactBox, exactCapsule, exactSphere } from '../fit/index.js';
import { convexHull, hullShape } from '../hull/index.js';
import { decomposeMatrix, type Matrix } from '../math/index.js';
import { shellsOf, type Mesh, transformMesh, transformPoints, trianglesVolume, weld } from '../mesh/index.js';
import {
  type Body,
  type Collider,
  MAX_SURFACE_TRIANGLES,
  type Scene,
  worldMatrices,
} from '../piece/index.js';
import {
  moveShape,
  scaleShape,
  type Shape,
  type ShapeKind,
  shapePolygons,
  turnShape,
} from '../shape/index.js';
import type { TargetProfile } from './profile.js';
import { PROFILES } from './profiles/index.js';
import { detailLevel, type Tagged, taggedAs } from './tags.js';

/** A proxy that came in the file, in the file's space and unit. */
export interface CameProxy {
  shape: Shape;
  /** number of its owner among the nodes of the scene that is left; null for the piece as a whole */
  owner: number | null;
  name: string;
  role?: Body['role'];
  /** name of its surface of contact */
  surface?: string;
}

export interface SetApart {
  /** the scene without the proxies' nodes */
  scene: Scene;
  proxies: CameProxy[];
  /** numbers of the nodes that are kept and are no art */
  aside: number[];
}

/**
 * Take out of a scene what is no art: nodes that an importer would take for collision become proxies of
 * the node they belong to; coarser detail levels, and proxies that belong to nobody, are marked to be set
 * aside. What a tag says and the mesh is not, is said among the notes.
 *
 * @param profiles the targets whose ways of naming collision are known, the likeliest first. Default: those that ship
 */
export function setApart(scene: Scene, profiles: readonly TargetProfile[] = PROFILES): SetApart {
  const world = worldMatrices(scene.nodes);
  const tags = scene.nodes.map((node) => (node.mesh === null ? null : taggedAs(node.name, profiles)));
  const notes = [...scene.notes];
  const proxies: CameProxy[] = [];
  const leaving = new Set<number>();
  const orphans: number[] = [];
  const isArt = (n: number) => !tags[n] || tags[n].drawn === true;
  const named = (name: string) =>
    scene.nodes.findIndex(
      (node, n) =>
        isArt(n) && (node.name === name || (node.mesh !== null && scene.meshes[node.mesh]!.name === name)),
    );
  scene.nodes.forEach((node, i) => {
    const tag = tags[i];
    if (!tag) return;
    const owner = tag.drawn ? i : ownerOf(scene, i, tag, { isArt, named });
    if (owner < 0) {
      orphans.push(i);
      return;
    }
    const mesh = transformMesh(scene.meshes[node.mesh!]!.mesh, world[i]!);
    const { shape, found } = shapeFrom(mesh, tag.kind);
    if (!shape) {
      notes.push({ about: 'collision-tag', node: node.name, kind: tag.kind, found: 'flat' });
      return;
    }
    if (found) notes.push({ about: 'collision-tag', node: node.name, kind: tag.kind, found });
    if (!tag.drawn) leaving.add(i);
    proxies.push({ shape, owner, name: node.name });
  });
  for (const came of colliding(scene, world)) {
    proxies.push(came.proxy);
    if (came.alone) leaving.add(came.node);
  }
  if (orphans.length)
    notes.push({ about: 'orphan-proxies', names: orphans.map((i) => scene.nodes[i]!.name) });
  // Nodes that only bore a camera or a light hold nothing any more.
  const bore = new Set(
    scene.leftOut.flatMap(({ kind, name }) => (kind === 'camera' || kind === 'light' ? [name] : [])),
  );
  scene.nodes.forEach((node, i) => {
    if (node.mesh === null && bore.has(node.name)) leaving.add(i);
  });
  // A tagged node with children that stay would take them along: it stays as an empty group.
  const holds = new Set(
    scene.nodes.flatMap(({ parent }, i) => (parent !== null && !leaving.has(i) ? [parent] : [])),
  );
  const place = new Map<number, number>();
  const nodes = scene.nodes.flatMap((node, i) => {
    if (leaving.has(i) && !holds.has(i)) return [];
    place.set(i, place.size);
    return [{ ...node, mesh: leaving.has(i) ? null : node.mesh }];
  });
  const left = nodes.map((node) => ({
    ...node,
    parent: node.parent === null ? null : place.get(node.parent)!,
  }));
  const used = [...new Set(left.flatMap(({ mesh }) => (mesh === null ? [] : [mesh])))].sort((a, b) => a - b);
  const { colliders: _colliders, bodies: _bodies, surfaces: _surfaces, ...art } = scene;
  const apart: Scene = {
    ...art,
    notes,
    meshes: used.map((mesh) => scene.meshes[mesh]!),
    nodes: left.map((node) => ({ ...node, mesh: node.mesh === null ? null : used.indexOf(node.mesh) })),
  };
  return {
    scene: apart,
    proxies: proxies.map((proxy) => ({
      ...proxy,
      owner: proxy.owner === null ? null : place.get(proxy.owner)!,
    })),
    aside: [...new Set([...coarseLevels(apart), ...orphans.map((i) => place.get(i)!)])].sort((a, b) => a - b),
  };
}

/** What the file says to collide by more than names. A node that holds nothing else leaves with it. */
function colliding(
  scene: Scene,
  world: readonly Matrix[],
): { node: number; alone: boolean; proxy: CameProxy }[] {
  const { nodes, colliders = [], bodies = [], surfaces = [] } = scene;
  const roleOf = (node: number) => {
    for (let at: number | null = node; at !== null; at = nodes[at]!.parent) {
      const body = bodies.find((each) => each.node === at);
      if (body) return body.role;
    }
    return undefined;
  };
  return colliders.flatMap(({ node: i, geometry, surface }) => {
    const shape = colliderShape(scene, world[i]!, geometry);
    if (!shape) return [];
    const { mesh, parent, name } = nodes[i]!;
    const role = roleOf(i);
    const felt = surface === undefined ? undefined : surfaces[surface]?.name;
    const proxy: CameProxy = {
      shape,
      owner: mesh === null ? parent : i,
      name,
      ...(role ? { role } : {}),
      ...(felt === undefined ? {} : { surface: felt }),
    };
    return [{ node: i, alone: mesh === null, proxy }];
  });
}

/** An exact shape where its node stands; under a scale that is not even it becomes the hull that it is there. */
function colliderShape(scene: Scene, world: Matrix, geometry: Collider['geometry']): Shape | null {
  if (geometry.kind === 'mesh') {
    const mesh = transformMesh(scene.meshes[geometry.mesh]!.mesh, world);
    return shapeFrom(mesh, geometry.convex ? 'hull' : 'surface').shape;
  }
  const { translation, rotation, scale } = decomposeMatrix(world);
  const own = { ...geometry, center: [0, 0, 0], rotation: [0, 0, 0, 1] } as Shape;
  const sizes = scale.map(Math.abs);
  if (Math.max(...sizes) - Math.min(...sizes) <= 1e-6 * Math.max(...sizes))
    return moveShape(turnShape(scaleShape(own, sizes[0]!), rotation), translation);
  const { points } = shapePolygons(own);
  const found = convexHull(transformPoints(points, world));
  return found.span === 'solid' ? hullShape(found.hull) : null;
}

/** Below art it is that art's, whatever its name says; else that of the first name it gives, else its parent's. */
function ownerOf(
  { nodes }: Scene,
  i: number,
  { owners }: Tagged,
  { isArt, named }: { isArt: (node: number) => boolean; named: (name: string) => number },
): number {
  const parent = nodes[i]!.parent ?? -1;
  if (parent >= 0 && isArt(parent) && (nodes[parent]!.mesh !== null || !owners.length)) return parent;
  return owners.map(named).find((owner) => owner >= 0) ?? -1;
}

/** Nodes named as detail levels, but for the finest of each name; all below them goes along. */
function coarseLevels({ nodes }: Scene): number[] {
  const finest = new Map<string, number>();
  const stem = (name: string) => name.replace(/[_\-. ]?lod[_\- ]?\d{1,2}$/i, '');
  for (const { name } of nodes) {
    const level = detailLevel(name);
    if (level !== null) finest.set(stem(name), Math.min(level, finest.get(stem(name)) ?? Infinity));
  }
  const aside = new Set<number>();
  nodes.forEach(({ name, parent }, i) => {
    const level = detailLevel(name);
    if ((level !== null && level > finest.get(stem(name))!) || (parent !== null && aside.has(parent)))
      aside.add(i);
  });
  return [...aside];
}

/** The shape a tagged mesh is: the primitive when it is one, else what an importer would make of it. */
function shapeFrom(
  mesh: Mesh,
  kind: ShapeKind,
): { shape: Shape | null; found: 'flat' | 'other-kind' | 'caves-in' | 'hollow' | null } {
  const { first } = weld(mesh.positions);
  const points = new Float64Array(first.length * 3);
  first.forEach((v, i) => points.set(mesh.positions.subarray(v * 3, v * 3 + 3), i * 3));
  const surface: Shape = { kind: 'surface', points: [...mesh.positions], indices: [...mesh.indices] };
  if (kind === 'surface') return { shape: surface, found: null };
  const primitive =
    kind === 'box'
      ? exactBox(points)
      : kind === 'sphere'
        ? exactSphere(points)
        : kind === 'capsule'
          ? exactCapsule(points)
          : null;
  if (primitive) return { shape: primitive, found: null };
  const hull = convexHull(points);
  if (hull.span !== 'solid') return { shape: null, found: 'flat' };
  const shape: Shape = hullShape(hull.hull);
  if (kind !== 'hull') return { shape, found: 'other-kind' };
  const filled = volumeOf(hull.hull) - Math.abs(trianglesVolume(mesh.positions, mesh.indices));
  const cavesIn = filled > volumeOf(hull.hull) * 1e-3 || shellsOf(mesh).count > 1;
  if (!cavesIn) return { shape, found: null };
  const tooLarge = mesh.indices.length / 3 > MAX_SURFACE_TRIANGLES;
  return tooLarge ? { shape, found: 'hollow' } : { shape: surface, found: 'caves-in' };
}

const volumeOf = ({
  points,
  faces,
}: {
  points: Float64Array;
  faces: readonly (readonly number[])[];
}): number =>
  trianglesVolume(
    points,
    faces.flatMap((face) => face.slice(2).flatMap((v, i) => [face[0]!, face[i + 1]!, v])),
  );
