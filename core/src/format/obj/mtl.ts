import type { Material, Picture, PictureSlot, Scene } from '../../piece/index.js';
import { FormatError } from '../format-error.js';
import { checkInnerName, findBeside, type InputFile, pictureType } from '../input-file.js';

const MAPS: Record<string, PictureSlot> = {
  map_kd: 'baseColor',
  norm: 'normal',
  map_bump: 'normal',
  bump: 'normal',
  map_ke: 'emissive',
};

/**
 * Fill the scene's materials from a material library. Constants are taken as they stand; of the
 * shininess exponent `Ns` a roughness is made (Beckmann: sqrt(2 / (Ns + 2))) unless `Pr` gives one.
 * Pictures are looked up among the files beside by name; those missing are noted.
 *
 * @throws FormatError when a number cannot be read
 */
export async function readMtl(scene: Scene, library: InputFile, beside: readonly InputFile[]): Promise<void> {
  const byName = new Map(scene.materials.map((material) => [material.name, material]));
  const lines = new TextDecoder().decode(await library.bytes()).split(/\r?\n/);
  let material: Material | undefined;
  /** materials whose roughness the library states outright */
  const stated = new Set<Material>();
  for (const [i, line] of lines.entries()) {
    const [keyword = '', ...words] = line.trim().split(/\s+/);
    const key = keyword.toLowerCase();
    if (key === 'newmtl') {
      const name = checkInnerName(library.name, 'material', line.trim().slice(7).trim(), { line: i + 1 });
      material = byName.get(name);
      continue;
    }
    if (!material || key.startsWith('#')) continue;
    const numbers = (count: number): number[] => {
      const values = words.slice(0, count).map(Number);
      if (values.length === 0 || values.some((value) => !Number.isFinite(value))) {
        throw new FormatError(
          library.name,
          `“${keyword}” has a value that is not a number`,
          'mend the line or export again',
          { line: i + 1 },
        );
      }
      while (values.length < count) values.push(values[0]!);
      return values;
    };
    if (key === 'kd') material.baseColor.splice(0, 3, ...numbers(3));
    else if (key === 'ke') material.emissive = numbers(3) as Material['emissive'];
    else if (key === 'd') material.baseColor[3] = numbers(1)[0]!;
    else if (key === 'tr') material.baseColor[3] = 1 - numbers(1)[0]!;
    else if (key === 'ns' && !stated.has(material))
      material.roughness = Math.sqrt(2 / (Math.max(0, numbers(1)[0]!) + 2));
    else if (key === 'pr') {
      material.roughness = numbers(1)[0]!;
      stated.add(material);
    } else if (key === 'pm') material.metalness = numbers(1)[0]!;
    else if (key in MAPS) await usePicture(scene, material, MAPS[key]!, words, beside);
    if (material.baseColor[3] < 1) material.alpha = 'blend';
  }
}

async function usePicture(
  scene: Scene,
  material: Material,
  slot: PictureSlot,
  words: string[],
  beside: readonly InputFile[],
): Promise<void> {
  const path = pathAfterOptions(words);
  if (!path) return;
  const file = findBeside(beside, path);
  const bytes = await file?.bytes();
  const type = bytes && pictureType(bytes);
  if (!file || !bytes || !type) {
    scene.notes.push({
      about: 'picture',
      picture: path.split(/[\\/]/).pop()!.slice(0, 80),
      material: material.name.slice(0, 80),
      why: file ? 'unreadable' : 'missing',
    });
    return;
  }
  material.pictures[slot] = {
    picture: pictureNumber(scene, { name: file.name, type, bytes }),
    uvSet: 0,
    wrap: ['repeat', 'repeat'],
  };
  if (slot === 'baseColor') material.baseColor.splice(0, 3, 1, 1, 1);
}

function pictureNumber(scene: Scene, picture: Picture): number {
  const known = scene.pictures.findIndex((other) => other.name === picture.name);
  return known >= 0 ? known : scene.pictures.push(picture) - 1;
}

/** Options stand before the file name: a dash word and the numbers or switches after it. */
function pathAfterOptions(words: readonly string[]): string {
  let i = 0;
  while (i < words.length && words[i]!.startsWith('-')) {
    i++;
    while (i < words.length - 1 && /^(-?[\d.]+|on|off|[rgbmlz])$/i.test(words[i]!)) i++;
  }
  return words.slice(i).join(' ');
}

/** The materials of a scene as a library; each gets every line that says something. */
export function writeMtl(scene: Pick<Scene, 'materials' | 'pictures'>): string {
  return scene.materials.map((material) => writeMaterial(material, scene.pictures)).join('\n');
}

function writeMaterial(material: Material, pictures: readonly Picture[]): string {
  const { baseColor, emissive } = material;
  const lines = [
    `newmtl ${material.name}`,
    `Kd ${baseColor.slice(0, 3).join(' ')}`,
    `d ${baseColor[3]}`,
    `Pr ${material.roughness}`,
    `Pm ${material.metalness}`,
    `Ke ${emissive.join(' ')}`,
  ];
  for (const [key, slot] of [
    ['map_Kd', 'baseColor'],
    ['norm', 'normal'],
    ['map_Ke', 'emissive'],
  ] as const) {
    const use = material.pictures[slot];
    if (use) lines.push(`${key} ${pictures[use.picture]!.name}`);
  }
  return `${lines.join('\n')}\n`;
}
