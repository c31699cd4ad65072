import {
  artKey,
  faceNeighbours,
  featureEdges,
  floatsAbout,
  type PieceDocument,
  type PlacedArt,
  roughSurface,
  weld,
} from '@yard-brace/core';
import { transfer } from 'comlink';
import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { ArtToDraw } from '../../drawing/art-to-draw';
import type { Progress } from '../messages';
import { originOf, placedOf } from './art';

/** So many sets can be drawn with. */
const DRAWN_UV_SETS = 4;
/** Art of more triangles is too much for a frame where no graphics card draws. */
const MANY_TRIANGLES = 40_000;
const ROUGH_TRIANGLES = 10_000;

/** The piece's art as the view draws it. */
export async function draw(document: PieceDocument, progress: Progress): Promise<ArtToDraw> {
  const placed = await placedOf(document, (share) => progress(share * 0.6, `Fetching ${document.name}`));
  progress(0.6, `Drawing ${document.name}`);
  const drawn = toDraw(artKey(document), placed);
  if (drawn.indices.length / 3 > MANY_TRIANGLES)
    drawn.rough = await roughSurface(drawn.positions, drawn, ROUGH_TRIANGLES);
  const buffers = [
    drawn.positions,
    drawn.indices,
    drawn.rough?.indices,
    drawn.normals,
    ...drawn.uvs,
    drawn.colors,
    drawn.ink,
    drawn.part,
    drawn.face,
    drawn.neighbours,
  ].flatMap((array) => (array ? [array.buffer] : []));
  return transfer(drawn, [...buffers, ...((drawn.tree?.roots ?? []) as ArrayBuffer[])]);
}

/** Art as it is drawn; without `pickable` for a picture that nobody points at. */
export function toDraw(
  key: string,
  { mesh: art, node, face }: PlacedArt,
  { pickable = true } = {},
): ArtToDraw {
  const origin = originOf(art);
  const positions = floatsAbout(art.positions, origin);
  // Vertices that no face uses are drawn nowhere: at the middle they widen no bounds either.
  const used = new Uint8Array(positions.length / 3);
  for (const v of art.indices) used[v] = 1;
  for (let i = 0; i < positions.length; i++) if (!used[(i / 3) | 0]) positions[i] = 0;
  const joined = weld(art.positions);
  const neighbours = faceNeighbours(art, joined);
  const edges = featureEdges(art, joined, neighbours);
  const ink = new Float32Array(edges.length * 3);
  edges.forEach((v, i) => ink.set(positions.subarray(v * 3, v * 3 + 3), i * 3));
  return {
    key,
    origin,
    positions,
    indices: Uint32Array.from(art.indices),
    normals: art.normals && Float32Array.from(art.normals),
    uvs: art.uvs.slice(0, DRAWN_UV_SETS).map((uv) => Float32Array.from(uv)),
    colors: art.colors && Float32Array.from(art.colors),
    groups: art.groups,
    ink,
    part: Uint32Array.from(node),
    face: Uint32Array.from(face),
    neighbours: pickable ? Int32Array.from(neighbours) : new Int32Array(),
    tree: pickable && art.indices.length ? treeOf(positions, art.indices) : undefined,
  };
}

function treeOf(positions: Float32Array, indices: Uint32Array): ArtToDraw['tree'] {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setIndex(new BufferAttribute(indices.slice(), 1));
  return MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), { cloneBuffers: false });
}
