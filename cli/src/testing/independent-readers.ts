import assimpjs from 'assimpjs';
import type { Container, TargetProfile, Vec3 } from '@yard-brace/core';
import { Matrix4, Mesh, Vector3 } from 'three';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';

type Files = readonly { name: string; bytes: Uint8Array }[];

/** A general-purpose library that reads GLB, glTF, COLLADA and OBJ, and says what it sees as JSON. */
export type Library = Awaited<ReturnType<typeof assimpjs>>;
export const loadLibrary = (): Promise<Library> => assimpjs();

/** A point of a level in the target's unit and axes, as someone who knows the target works it out by hand. */
const BY_HAND: Record<string, (p: Vec3) => Vec3> = {
  'prefix-tags': ([x, y, z]) => [x * 100, z * 100, y * 100],
  'suffix-tags': (p) => p,
  'twin-file': ([x, y, z]) => [-x, y, z],
};

/**
 * Where a reader sees a point of our space: glTF is in metres, Y up; the library brings COLLADA there by unit and up
 * axis; OBJ is the target's own; the loader of USD leaves axes as the layer has them.
 */
export function seenBy({ id, space }: TargetProfile, container: Container): (p: Vec3) => Vec3 {
  if (container === 'obj') return BY_HAND[id]!;
  if (container === 'usda' && space.up === 'z') return ([x, y, z]) => [x, -z, y];
  return (p) => p;
}

/** How many of the reader's units a metre is. */
export const unitsAMetre = ({ space }: TargetProfile, container: Container): number =>
  container === 'obj' && space.unit === 'cm' ? 100 : 1;

/** What the library makes of a model and the files beside it. @throws Error with the library's code */
export function sceneSeen(library: Library, files: Files, model: string) {
  const list = new library.FileList();
  list.AddFile(model, files.find(({ name }) => name === model)!.bytes);
  for (const { name, bytes } of files) if (name !== model) list.AddFile(name, bytes);
  const result = library.ConvertFileList(list, 'assjson');
  if (!result.IsSuccess()) throw new Error(`${model}: ${result.GetErrorCode()}`);
  return JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent()));
}

/** All vertices of a model where they stand in its file, as a reader that is not ours sees them. */
export function verticesSeen(library: Library, files: Files, model: string): Vec3[] {
  if (model.endsWith('.usda')) return verticesOfUsd(files.find(({ name }) => name === model)!.bytes);
  const scene = sceneSeen(library, files, model);
  const out: Vec3[] = [];
  interface Node {
    transformation: number[];
    meshes?: number[];
    children?: Node[];
  }
  const walk = (node: Node, above: Matrix4) => {
    const m = above.clone().multiply(new Matrix4().fromArray(node.transformation).transpose());
    for (const i of node.meshes ?? []) {
      const v: number[] = scene.meshes[i].vertices;
      for (let k = 0; k < v.length; k += 3)
        out.push(new Vector3(v[k], v[k + 1], v[k + 2]).applyMatrix4(m).toArray());
    }
    for (const child of node.children ?? []) walk(child, m);
  };
  walk(scene.rootnode, new Matrix4());
  return out;
}

function verticesOfUsd(bytes: Uint8Array): Vec3[] {
  const group = new USDLoader().parse(new TextDecoder().decode(bytes) as never);
  group.updateMatrixWorld(true);
  const vertices: Vec3[] = [];
  group.traverse((object) => {
    if (!(object instanceof Mesh)) return;
    const position = object.geometry.getAttribute('position');
    for (let i = 0; i < position.count; i++)
      vertices.push(
        new Vector3().fromBufferAttribute(position, i).applyMatrix4(object.matrixWorld).toArray(),
      );
  });
  return vertices;
}

/** How far the farthest of some points lies from the nearest of others. */
export function farthest(found: readonly Vec3[], wanted: readonly Vec3[]): number {
  // Sorted along x, so that only a few neighbours are looked at.
  const sorted = [...found].sort((a, b) => a[0] - b[0]);
  let most = 0;
  for (const p of wanted) {
    let [low, high] = [0, sorted.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (sorted[middle]![0] < p[0]) low = middle + 1;
      else high = middle;
    }
    let best = Infinity;
    const look = (q: Vec3) => (best = Math.min(best, Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2])));
    for (let i = low; i < sorted.length && sorted[i]![0] - p[0] < best; i++) look(sorted[i]!);
    for (let i = low - 1; i >= 0 && p[0] - sorted[i]![0] < best; i--) look(sorted[i]!);
    most = Math.max(most, best);
  }
  return most;
}
