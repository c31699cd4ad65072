import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { ArtToDraw } from './art-to-draw';

/** The buffers of one art, shared by everything that draws it, however often and wherever it stands. */
export interface ArtGeometry {
  key: string;
  faces: BufferGeometry;
  /** the same vertices with the few triangles of its rough surface; null where it has none */
  rough: BufferGeometry | null;
  ink: BufferGeometry;
  /** for picking; built at first use where the art came without one */
  tree(): MeshBVH;
}

/** Names of the UV sets that three.js draws with. */
const UV_ATTRIBUTES = ['uv', 'uv1', 'uv2', 'uv3'] as const;

const held = new Map<string, { geometry: ArtGeometry; users: number }>();

/** The buffers of an art: those that are there already, or new ones. Each hold is released once. */
export function holdGeometry(art: ArtToDraw): ArtGeometry {
  const entry = held.get(art.key) ?? { geometry: build(art), users: 0 };
  entry.users++;
  held.set(art.key, entry);
  return entry.geometry;
}

export function releaseGeometry({ key, faces, rough, ink }: ArtGeometry): void {
  const entry = held.get(key);
  if (!entry || --entry.users > 0) return;
  held.delete(key);
  faces.dispose();
  rough?.dispose();
  ink.dispose();
}

/** How many arts have buffers now. */
export const heldGeometries = (): number => held.size;

function build(art: ArtToDraw): ArtGeometry {
  const faces = new BufferGeometry();
  faces.setAttribute('position', new BufferAttribute(art.positions, 3));
  faces.setIndex(new BufferAttribute(art.indices, 1));
  if (art.normals) faces.setAttribute('normal', new BufferAttribute(art.normals, 3));
  art.uvs.forEach((uv, set) => faces.setAttribute(UV_ATTRIBUTES[set]!, new BufferAttribute(uv, 2)));
  if (art.colors) faces.setAttribute('color', new BufferAttribute(art.colors, 4));
  art.groups.forEach(({ start, count }, i) => faces.addGroup(start * 3, count * 3, i));
  const ink = new BufferGeometry();
  ink.setAttribute('position', new BufferAttribute(art.ink, 3));
  let tree = art.tree && MeshBVH.deserialize(art.tree, faces, { setIndex: false });
  const rough = art.rough ? withIndex(faces, art.rough) : null;
  return { key: art.key, faces, rough, ink, tree: () => (tree ??= new MeshBVH(faces, { indirect: true })) };
}

/** The vertices of a geometry with other triangles. */
export function withIndex(
  { attributes }: BufferGeometry,
  { indices, groups }: { indices: Uint32Array; groups: readonly { start: number; count: number }[] },
): BufferGeometry {
  const geometry = new BufferGeometry();
  for (const [name, attribute] of Object.entries(attributes)) geometry.setAttribute(name, attribute);
  geometry.setIndex(new BufferAttribute(indices, 1));
  groups.forEach(({ start, count }, i) => geometry.addGroup(start * 3, count * 3, i));
  return geometry;
}
