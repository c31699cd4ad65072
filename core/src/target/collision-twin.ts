import type { Scene } from '../piece/index.js';
import type { TargetProfile } from './profile.js';
import { PROFILES } from './profiles/index.js';

/** The name that the collision file of a model would have, for each target that has one. */
const twinNames = (model: string, profiles: readonly TargetProfile[]): string[] => {
  const dot = model.lastIndexOf('.');
  return profiles.flatMap(({ collision, containers }) =>
    collision.by === 'second-file'
      ? containers.map((container) => `${model.slice(0, dot)}${collision.suffix}.${container}`)
      : [],
  );
};

/** The file that holds the collision of a model, among others; undefined for none. Capitals do not count. */
export function twinOf<F extends { name: string }>(
  model: string,
  files: readonly F[],
  profiles: readonly TargetProfile[] = PROFILES,
): F | undefined {
  const wanted = twinNames(model, profiles).map((name) => name.toLowerCase());
  return files.find(({ name }) => wanted.includes(name.toLowerCase()));
}

/** A scene with the meshes of its collision file as surfaces that belong to the piece as a whole. Both in one unit. */
export function withTwin(scene: Scene, twin: Scene): Scene {
  const nodes = [...scene.nodes];
  const meshes = [...scene.meshes];
  const colliders = [...(scene.colliders ?? [])];
  const at = nodes.length;
  for (const node of twin.nodes) {
    const number =
      nodes.push({ ...node, parent: node.parent === null ? null : node.parent + at, mesh: null }) - 1;
    if (node.mesh === null) continue;
    const mesh = meshes.push(twin.meshes[node.mesh]!) - 1;
    colliders.push({ node: number, geometry: { kind: 'mesh', mesh, convex: false } });
  }
  return { ...scene, nodes, meshes, colliders };
}
