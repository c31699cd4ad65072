import { plainMaterial, type Material, type PictureSlot, type Scene, type Wrap } from '../../piece/index.js';
import { shown } from '../format-error.js';
import { findBeside, type InputFile, pictureType } from '../input-file.js';
import { numberOf, numbersOf, targetOf, textOf, type UsdaPrim } from './usda-text.js';

const SLOTS: Record<string, PictureSlot> = {
  diffuseColor: 'baseColor',
  emissiveColor: 'emissive',
  metallic: 'metallicRoughness',
  roughness: 'metallicRoughness',
  normal: 'normal',
  occlusion: 'occlusion',
};
const WRAPS: Record<string, Wrap> = { repeat: 'repeat', clamp: 'clamp', mirror: 'mirror', black: 'clamp' };

/** The prim that a path names, its output or attribute aside. */
export const primAt = (prims: ReadonlyMap<string, UsdaPrim>, path: string | null): UsdaPrim | undefined =>
  path === null ? undefined : prims.get(path.replace(/\.[^/]*$/, ''));

/** A Material prim with its preview surface, its pictures from beside the layer. */
export async function readMaterial(
  prim: UsdaPrim,
  name: string,
  prims: ReadonlyMap<string, UsdaPrim>,
  beside: readonly InputFile[],
  scene: Scene,
): Promise<Material> {
  const material = plainMaterial(name);
  const surface = primAt(prims, targetOf(prim.attributes.get('outputs:surface')));
  if (!surface) return material;
  const input = (of: UsdaPrim, which: string) => of.attributes.get(`inputs:${which}`);
  const colour = numbersOf(input(surface, 'diffuseColor'));
  if (colour?.length === 3) material.baseColor = [colour[0]!, colour[1]!, colour[2]!, 1];
  const emissive = numbersOf(input(surface, 'emissiveColor'));
  if (emissive?.length === 3) material.emissive = [emissive[0]!, emissive[1]!, emissive[2]!];
  material.metalness = numberOf(input(surface, 'metallic')) ?? 0;
  material.roughness = numberOf(input(surface, 'roughness')) ?? 0.5;
  material.baseColor[3] = numberOf(input(surface, 'opacity')) ?? 1;
  const threshold = numberOf(input(surface, 'opacityThreshold')) ?? 0;
  if (threshold > 0) Object.assign(material, { alpha: 'mask', alphaCutoff: threshold });
  else if (material.baseColor[3] < 1 || targetOf(input(surface, 'opacity')) !== null)
    material.alpha = 'blend';
  for (const [which, slot] of Object.entries(SLOTS)) {
    const texture = primAt(prims, targetOf(input(surface, which)));
    if (!texture || textOf(texture.attributes.get('info:id')) !== 'UsdUVTexture') continue;
    const picture = await pictureOf(texture, material.name, beside, scene);
    if (picture === null) continue;
    const wrap = (['wrapS', 'wrapT'] as const).map((k) => WRAPS[textOf(input(texture, k)) ?? ''] ?? 'repeat');
    material.pictures[slot] = { picture, uvSet: uvSetOf(texture, prims), wrap: wrap as [Wrap, Wrap] };
    applyScale(material, slot, numbersOf(input(texture, 'scale')));
  }
  return material;
}

function uvSetOf(texture: UsdaPrim, prims: ReadonlyMap<string, UsdaPrim>): number {
  const reader = primAt(prims, targetOf(texture.attributes.get('inputs:st')));
  const name = reader && textOf(reader.attributes.get('inputs:varname'));
  return Math.min(7, Number(/\d+$/.exec(name ?? '')?.[0] ?? 0));
}

function applyScale(material: Material, slot: PictureSlot, scale: number[] | null): void {
  const [r, g, b, a] = scale?.length === 4 ? scale : [1, 1, 1, 1];
  if (slot === 'baseColor') material.baseColor = [r!, g!, b!, a!];
  else if (slot === 'emissive') material.emissive = [r!, g!, b!];
  else if (slot === 'metallicRoughness') Object.assign(material, { roughness: g, metalness: b });
  else if (slot === 'normal' && scale) material.normalScale = r! / 2;
}

async function pictureOf(
  texture: UsdaPrim,
  material: string,
  beside: readonly InputFile[],
  scene: Scene,
): Promise<number | null> {
  const file = texture.attributes.get('inputs:file')?.value;
  const address = typeof file === 'object' && file && 'asset' in file ? file.asset : '';
  const found = address ? findBeside(beside, address) : undefined;
  const bytes = await found?.bytes();
  const type = bytes && pictureType(bytes);
  if (!found || !bytes || !type) {
    scene.notes.push({
      about: 'picture',
      picture: shown(address, 80),
      material: shown(material, 80),
      why: found ? 'unreadable' : 'missing',
    });
    return null;
  }
  const known = scene.pictures.findIndex((picture) => picture.name === found.name);
  return known >= 0 ? known : scene.pictures.push({ name: found.name, type, bytes }) - 1;
}
