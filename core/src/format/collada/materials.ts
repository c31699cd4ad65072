import { type Material, plainMaterial, type Scene } from '../../piece/index.js';
import { shown } from '../format-error.js';
import { findBeside, type InputFile, pictureType } from '../input-file.js';
import { child, childrenOf, type Element, numbers, path } from './xml-tree.js';

/** Materials by their id, read from the effects they name; pictures are looked for beside the file. */
export async function readMaterials(
  file: string,
  root: Element,
  beside: readonly InputFile[],
  scene: Scene,
): Promise<Map<string, number>> {
  const effects = byId(child(root, 'library_effects'), 'effect');
  const images = byId(child(root, 'library_images'), 'image');
  const numbersOf = new Map<string, number>();
  for (const material of childrenOf(child(root, 'library_materials'), 'material')) {
    const { id = '', name = id } = material.attributes;
    const url = child(material, 'instance_effect')?.attributes['url'] ?? '';
    const effect = effects.get(url.replace(/^#/, ''));
    numbersOf.set(
      id,
      scene.materials.push(await readEffect(file, name || id, effect, images, beside, scene)) - 1,
    );
  }
  return numbersOf;
}

const byId = (library: Element | undefined, name: string): Map<string, Element> =>
  new Map(childrenOf(library, name).map((element) => [element.attributes['id'] ?? '', element]));

async function readEffect(
  file: string,
  name: string,
  effect: Element | undefined,
  images: Map<string, Element>,
  beside: readonly InputFile[],
  scene: Scene,
): Promise<Material> {
  const material = plainMaterial(name);
  const profile = child(effect, 'profile_COMMON');
  const technique = child(profile, 'technique');
  const shader = technique?.children.find(({ name: kind }) =>
    ['phong', 'blinn', 'lambert', 'constant'].includes(kind),
  );
  if (!shader) return material;
  const color = (slot: string): number[] | null => {
    const found = path(shader, slot, 'color');
    const values = found && [...numbers(file, found)];
    return values && values.length >= 3 ? values : null;
  };
  const float = (slot: string): number | null => {
    const found = path(shader, slot, 'float');
    return found ? (numbers(file, found)[0] ?? null) : null;
  };
  const diffuse = color('diffuse');
  if (diffuse) material.baseColor = [diffuse[0]!, diffuse[1]!, diffuse[2]!, diffuse[3] ?? 1];
  const emission = color('emission');
  if (emission) material.emissive = [emission[0]!, emission[1]!, emission[2]!];
  const transparency = float('transparency');
  const transparent = color('transparent');
  const opaque = child(shader, 'transparent')?.attributes['opaque'] ?? 'A_ONE';
  if (transparency !== null && opaque === 'A_ONE')
    material.baseColor[3] = transparency * (transparent?.[3] ?? 1);
  if (material.baseColor[3] < 1) material.alpha = 'blend';
  const shininess = float('shininess');
  // The width of the highlight, as OBJ's libraries mean it too.
  if (shininess !== null) material.roughness = Math.min(1, Math.sqrt(2 / (Math.max(0, shininess) + 2)));
  for (const [slot, target] of [
    ['diffuse', 'baseColor'],
    ['emission', 'emissive'],
    ['bump', 'normal'],
  ] as const) {
    const texture = path(shader, slot, 'texture') ?? path(technique, 'extra', 'technique', slot, 'texture');
    if (!texture) continue;
    const picture = await readPicture(
      texture.attributes['texture'] ?? '',
      profile!,
      images,
      beside,
      scene,
      name,
    );
    if (picture === null) continue;
    const set = Number(/(\d+)$/.exec(texture.attributes['texcoord'] ?? '')?.[1] ?? 0);
    material.pictures[target] = { picture, uvSet: set, wrap: ['repeat', 'repeat'] };
    if (target === 'baseColor') material.baseColor.splice(0, 3, 1, 1, 1);
  }
  return material;
}

/** From the texture by its sampler and surface to an image, or to an image by its id. */
async function readPicture(
  reference: string,
  profile: Element,
  images: Map<string, Element>,
  beside: readonly InputFile[],
  scene: Scene,
  material: string,
): Promise<number | null> {
  const params = new Map(
    childrenOf(profile, 'newparam').map((param) => [param.attributes['sid'] ?? '', param]),
  );
  const sampler = child(params.get(reference), 'sampler2D');
  const surface = child(params.get(child(sampler, 'source')?.text.trim() ?? ''), 'surface');
  const id =
    child(surface, 'init_from')?.text.trim() ??
    child(sampler, 'instance_image')?.attributes['url']?.replace(/^#/, '') ??
    reference;
  const init = child(images.get(id), 'init_from');
  const address = (child(init, 'ref')?.text ?? init?.text ?? '').trim();
  const name = decoded(address).split(/[\\/]/).pop() ?? '';
  const found = name ? findBeside(beside, name) : undefined;
  const bytes = await found?.bytes();
  const type = bytes && pictureType(bytes);
  if (!found || !bytes || !type) {
    const why = found ? 'unreadable' : 'missing';
    scene.notes.push({
      about: 'picture',
      picture: shown(name || id, 80),
      material: shown(material, 80),
      why,
    });
    return null;
  }
  const known = scene.pictures.findIndex((picture) => picture.name === found.name);
  return known >= 0 ? known : scene.pictures.push({ name: found.name, type, bytes }) - 1;
}

function decoded(address: string): string {
  try {
    return decodeURIComponent(address);
  } catch {
    return address;
  }
}
