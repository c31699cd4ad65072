import type { Material as GltfMaterial, TextureInfo } from '@gltf-transform/core';
import type { Transform as TextureTransform } from '@gltf-transform/extensions';

/** How UVs of one set are moved before a picture is laid on: (u, v) -> (a u + b v + c, d u + e v + f). */
export type UvTransform = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** What `KHR_texture_transform` does to each UV set of a material. */
export interface MaterialUvs {
  /** by the number of the set */
  transforms: Map<number, UvTransform>;
  /** pictures on one set ask for different transforms, and only the first can be had */
  disagree: boolean;
}

/** The set a picture is laid on by: the extension may name another. */
export const uvSetOf = (info: TextureInfo): number =>
  info.getExtension<TextureTransform>('KHR_texture_transform')?.getTexCoord() ?? info.getTexCoord();

/** @param infos of the pictures a material has, in the order of their weight */
export function materialUvs(infos: readonly TextureInfo[]): MaterialUvs {
  const found: MaterialUvs = { transforms: new Map(), disagree: false };
  const seen = new Map<number, string>();
  for (const info of infos) {
    const set = uvSetOf(info);
    const transform = transformOf(info);
    const key = JSON.stringify(transform);
    if (seen.has(set)) {
      if (seen.get(set) !== key) found.disagree = true;
      continue;
    }
    seen.set(set, key);
    if (transform) found.transforms.set(set, transform);
  }
  return found;
}

/** Pictures of a material with what says how each is laid on. */
export const infosOf = (material: GltfMaterial): TextureInfo[] =>
  [
    material.getBaseColorTextureInfo(),
    material.getNormalTextureInfo(),
    material.getMetallicRoughnessTextureInfo(),
    material.getOcclusionTextureInfo(),
    material.getEmissiveTextureInfo(),
  ].filter((info) => info !== null);

/** The extension's offset, rotation and scale as one matrix; null where nothing is moved. */
function transformOf(info: TextureInfo): UvTransform | null {
  const extension = info.getExtension<TextureTransform>('KHR_texture_transform');
  if (!extension) return null;
  const [ox, oy] = extension.getOffset();
  const [sx, sy] = extension.getScale();
  const [cos, sin] = [Math.cos(extension.getRotation()), Math.sin(extension.getRotation())];
  const out: UvTransform = [cos * sx, sin * sy, ox, -sin * sx, cos * sy, oy];
  if (!out.every(Number.isFinite)) return null;
  return out.every((v, k) => v === [1, 0, 0, 0, 1, 0][k]) ? null : out;
}

/** A UV set moved: a new array. Shape: [2n]. */
export function movedUvs(uv: Float32Array, [a, b, c, d, e, f]: UvTransform): Float32Array {
  const out = new Float32Array(uv.length);
  for (let i = 0; i < uv.length; i += 2) {
    out[i] = a * uv[i]! + b * uv[i + 1]! + c;
    out[i + 1] = d * uv[i]! + e * uv[i + 1]! + f;
  }
  return out;
}
