import {
  shellsOf,
  edgeNormals,
  fillHoles,
  flipFaces,
  joinBorders,
  joinMeshes,
  type Mesh,
  reduceMesh,
  separateVertices,
  shareVertices,
  takeFaces,
  topologyOf,
  transformMesh,
  transformPoints,
  weld,
  weldMesh,
} from '../../mesh/index.js';
import {
  doubledFaces,
  hiddenFaces,
  facesToTurnOutward,
  specks,
  surveyMesh,
  zeroAreaFaces,
} from '../../solid/index.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { RemovedFaces } from './outcome.js';
import type { Reshaping } from './reshaping.js';
import { facesNamed, marked } from './split.js';

/** Change the mesh of each part named; instances of one mesh that stand alike are done once. */
function each(work: Reshaping, parts: readonly string[], change: (mesh: Mesh, node: number) => Mesh): void {
  for (const node of work.parts(parts)) work.setMesh(node, change(work.mesh(node), node));
}

const places = (mesh: Mesh) => weld(mesh.positions).count;

/** Vertices within a distance, measured where the part stands. */
export function weldParts(work: Reshaping, { parts, metres }: OperationOf<'weld'>): OutcomeOf<'weld'> {
  let before = 0;
  let after = 0;
  let closed = 0;
  each(work, parts, (mesh, node) => {
    const borders = surveyBorders(mesh);
    const welded = weldMesh(mesh, metres, transformPoints(mesh.positions, work.placed()[node]!));
    before += places(mesh);
    after += places(welded);
    closed += borders - surveyBorders(welded);
    return welded;
  });
  return { op: 'weld', metres, before, after, bordersClosed: closed };
}

const surveyBorders = (mesh: Mesh) => surveyMesh(mesh).borders;

export function fill(
  work: Reshaping,
  { parts, longest, bores }: OperationOf<'fill-holes'>,
): OutcomeOf<'fill-holes'> {
  let filled = 0;
  let faces = 0;
  each(work, parts, (mesh, node) => {
    const result = fillHoles(mesh, {
      longest: longest === undefined ? undefined : longest / work.metresOf(node),
      bores,
    });
    filled += result.filled;
    faces += (result.mesh.indices.length - mesh.indices.length) / 3;
    return result.mesh;
  });
  if (filled === 0)
    throw new ReshapeError('There is no border that closes; weld first, or choose another part.');
  return { op: 'fill-holes', holes: filled, faces };
}

/** Open borders that lie nearest to each other are joined by a band of faces. */
export function joinBordersOf(
  work: Reshaping,
  { parts }: OperationOf<'join-borders'>,
): OutcomeOf<'join-borders'> {
  let pairs = 0;
  let faces = 0;
  each(work, parts, (mesh) => {
    const { mesh: bridged, joined } = joinBorders(mesh);
    pairs += joined;
    faces += (bridged.indices.length - mesh.indices.length) / 3;
    return bridged;
  });
  if (pairs === 0) throw new ReshapeError('No part has two open borders to join; choose another part.');
  return { op: 'join-borders', pairs, faces };
}

/** Faces that should not be there. All but flat ones are judged over all parts together, where they stand. */
export function removeFaces(
  work: Reshaping,
  { parts, which }: OperationOf<'remove-faces'>,
): OutcomeOf<'remove-faces'> {
  const chosen = work.parts(parts);
  const placed = work.placed();
  const marks = new Map(chosen.map((node) => [node, new Uint8Array(work.mesh(node).indices.length / 3)]));
  const counts = new Map<RemovedFaces, number>();
  const take = (kind: RemovedFaces, node: number, found: Uint8Array) => {
    const mine = marks.get(node)!;
    found.forEach((hit, f) => {
      if (!hit || mine[f]) return;
      mine[f] = 1;
      counts.set(kind, (counts.get(kind) ?? 0) + 1);
    });
  };
  for (const node of chosen) {
    const mesh = work.mesh(node);
    if (which.includes('zero-area')) take('zero-area', node, zeroAreaFaces(mesh));
  }
  const whole = which.some((kind) => kind === 'hidden' || kind === 'specks' || kind === 'doubled');
  if (whole) {
    const standing = chosen.map((node) => {
      const mesh = work.mesh(node);
      const order = { ...mesh, groups: [{ material: -1, start: 0, count: mesh.indices.length / 3 }] };
      return transformMesh(order, placed[node]!);
    });
    const joined = joinMeshes(standing);
    const found = {
      doubled: which.includes('doubled') ? doubledFaces(joined) : null,
      hidden: which.includes('hidden') ? hiddenFaces(joined) : null,
      specks: which.includes('specks') ? specks(joined, shellsOf(joined)) : null,
    };
    let at = 0;
    for (const node of chosen) {
      const own = marks.get(node)!.length;
      for (const kind of ['doubled', 'hidden', 'specks'] as const)
        if (found[kind]) take(kind, node, found[kind].subarray(at, at + own));
      at += own;
    }
  }
  let unused = 0;
  for (const node of chosen) {
    const mesh = work.mesh(node);
    const mine = marks.get(node)!;
    const left = takeFaces(mesh, (face) => !mine[face]);
    unused += mesh.positions.length / 3 - left.positions.length / 3;
    if (left.positions.length < mesh.positions.length || left.indices.length < mesh.indices.length)
      work.setMesh(node, left);
  }
  if (counts.size === 0 && unused === 0) throw new ReshapeError('There is nothing of the kind to remove.');
  return { op: 'remove-faces', faces: Object.fromEntries(counts), unusedVertices: unused };
}

export function deleteFaces(
  work: Reshaping,
  { faces }: OperationOf<'delete-faces'>,
): OutcomeOf<'delete-faces'> {
  let gone = 0;
  for (const { node, marks } of marked(work, faces)) {
    gone += marks.reduce((sum, m) => sum + m, 0);
    work.setMesh(
      node,
      takeFaces(work.mesh(node), (face) => !marks[face]),
    );
  }
  return { op: 'delete-faces', faces: gone };
}

/** Neighbours agree, shells face outward, the insides of hollows face into the hollow. */
export function faceOutward(
  work: Reshaping,
  { parts }: OperationOf<'face-outward'>,
): OutcomeOf<'face-outward'> {
  let turned = 0;
  each(work, parts, (mesh) => {
    const marks = facesToTurnOutward(mesh);
    turned += marks.reduce((sum, m) => sum + m, 0);
    return flipFaces(mesh, marks);
  });
  if (turned === 0) throw new ReshapeError('All faces point outward already.');
  return { op: 'face-outward', faces: turned };
}

export function flip(work: Reshaping, { parts, faces }: OperationOf<'flip'>): OutcomeOf<'flip'> {
  let turned = 0;
  for (const { node, marks } of facesNamed(work, { parts, faces })) {
    turned += marks.reduce((sum, m) => sum + m, 0);
    work.setMesh(node, flipFaces(work.mesh(node), marks));
  }
  return { op: 'flip', faces: turned };
}

export function vertices(work: Reshaping, { parts, to }: OperationOf<'vertices'>): OutcomeOf<'vertices'> {
  let before = 0;
  let after = 0;
  each(work, parts, (mesh) => {
    const changed = to === 'share' ? shareVertices(mesh) : separateVertices(mesh);
    before += mesh.positions.length / 3;
    after += changed.positions.length / 3;
    return changed;
  });
  return { op: 'vertices', before, after };
}

export function normals(work: Reshaping, { parts, degrees }: OperationOf<'normals'>): OutcomeOf<'normals'> {
  each(work, parts, (mesh) => edgeNormals(mesh, { angleRadians: (degrees * Math.PI) / 180 }));
  return { op: 'normals', degrees };
}

export async function reduce(
  work: Reshaping,
  { parts, share, metres }: OperationOf<'reduce'>,
): Promise<OutcomeOf<'reduce'>> {
  if (share === undefined && metres === undefined)
    throw new ReshapeError('Say how far to reduce: a share of the triangles or an error.');
  let before = 0;
  let after = 0;
  let off = 0;
  const skipped: string[] = [];
  for (const node of work.parts(parts)) {
    const mesh = work.mesh(node);
    const scale = work.metresOf(node);
    const reduced = await reduceMesh(mesh, {
      share,
      error: metres === undefined ? undefined : metres / scale,
    });
    before += mesh.indices.length / 3;
    // A part that would be torn open stays as it is.
    if (topologyOf(mesh).closed && !topologyOf(reduced.mesh).closed) {
      skipped.push(work.nodes[node]!.name);
      after += mesh.indices.length / 3;
      continue;
    }
    after += reduced.mesh.indices.length / 3;
    off = Math.max(off, reduced.error * scale);
    work.setMesh(node, reduced.mesh);
  }
  if (before === after)
    throw new ReshapeError(
      skipped.length
        ? 'Every part would be torn open by that; reduce less, or weld and fill holes first.'
        : 'Nothing can go within that; allow more.',
    );
  return { op: 'reduce', before, after, metres: off, skipped };
}
