import type { Mesh } from './mesh.js';
import { pickVertices } from './take-faces.js';

export interface UnwrapOptions {
  /** the set that is made: 0 for the first */
  set: number;
  /** texels a unit of length that are wanted */
  texelsPerUnit: number;
  /** texels between islands, so that light does not bleed from one to the next */
  padding: number;
}

export interface Unwrapped {
  mesh: Mesh;
  islands: number;
  /** side of the square picture that it takes, texels: a power of two */
  side: number;
}

/**
 * A UV set without overlaps, for baked light: charts of little stretch, packed with room between them, at the density
 * that is wanted. Vertices are doubled along the borders of charts; what else they carry stays. Charts and packing are
 * those of the xatlas library, compiled to WebAssembly.
 */
export async function unwrap(mesh: Mesh, { set, texelsPerUnit, padding }: UnwrapOptions): Promise<Unwrapped> {
  const watlas = await import('watlas');
  await watlas.Initialize();
  const atlas = new watlas.Atlas();
  try {
    atlas.addMesh({
      vertexPositionData: Float32Array.from(mesh.positions),
      vertexCount: mesh.positions.length / 3,
      vertexPositionStride: 12,
      indexData: mesh.indices,
      indexCount: mesh.indices.length,
    });
    atlas.generate({}, { padding, texelsPerUnit, bilinear: true, rotateCharts: true });
    const done = atlas.getMesh(0);
    const side = powerOfTwo(Math.max(atlas.width, atlas.height, 1));
    const indices = new Uint32Array(done.indexCount);
    done.getIndexArray(indices);
    const picks = new Uint32Array(done.vertexCount);
    const uv = new Float32Array(done.vertexCount * 2);
    for (let v = 0; v < done.vertexCount; v++) {
      const vertex = done.getVertex(v);
      picks[v] = vertex.xref;
      uv[v * 2] = vertex.uv[0] / side;
      uv[v * 2 + 1] = vertex.uv[1] / side;
    }
    const out = pickVertices(mesh, picks);
    const uvs = [...out.uvs];
    while (uvs.length < set) uvs.push(new Float32Array(picks.length * 2));
    uvs[set] = uv;
    return { mesh: { ...out, uvs, indices }, islands: atlas.chartCount, side };
  } finally {
    atlas.delete();
  }
}

const powerOfTwo = (texels: number): number => 2 ** Math.ceil(Math.log2(texels));
