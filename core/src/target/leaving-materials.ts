import { CARRIED_PICTURES, pictureStem, plainPng } from '../format/index.js';
import {
  type Material,
  type Picture,
  type PictureSlot,
  type PieceDocument,
  plainMaterial,
} from '../piece/index.js';
import { encoded } from './colour-code.js';
import type { Container } from './profile.js';
import type { SettledChoices } from './choices.js';

/** Pixels along a side of a picture that holds one value. */
const VALUE_PIXELS = 4;

/** A picture that leaves: stored under a name of its bytes, or made of a value. */
export type LeavingPicture = Pick<Picture, 'name' | 'type'> & ({ blob: string } | { bytes: Uint8Array });

export interface LeavingMaterials {
  /** by the number of the document's material */
  materials: Material[];
  /** the document's, then those that are made of values */
  pictures: LeavingPicture[];
}

/**
 * Materials as they leave: by name only, without pictures, or with those that the container names; values without a
 * picture become small ones where that is chosen.
 */
export function leavingMaterials(
  { materials, pictures }: Pick<PieceDocument, 'materials' | 'pictures'>,
  choices: SettledChoices,
): LeavingMaterials {
  const leaving: LeavingMaterials = { materials: [], pictures: [...pictures] };
  for (const material of materials) {
    if (choices.materials !== 'written') leaving.materials.push(plainMaterial(material.name));
    else {
      const carried = withCarriedPictures(material, choices);
      leaving.materials.push(
        choices.constants === 'as-pictures'
          ? withValuesAsPictures(carried, choices.container, leaving.pictures)
          : carried,
      );
    }
  }
  return leaving;
}

/** Numbers of the pictures that materials name. */
export const picturesOf = (materials: readonly Material[]): Set<number> =>
  new Set(materials.flatMap(({ pictures }) => Object.values(pictures).map(({ picture }) => picture)));

function withCarriedPictures(material: Material, { pictures, container }: SettledChoices): Material {
  if (pictures === 'left-out') return { ...material, pictures: {} };
  const carried = Object.entries(material.pictures).filter(([slot]) =>
    CARRIED_PICTURES[container].includes(slot as PictureSlot),
  );
  return { ...material, pictures: Object.fromEntries(carried) };
}

/** Every slot that the container names gets a picture of one colour; the value beside it no longer changes it. */
function withValuesAsPictures(
  material: Material,
  container: Container,
  pictures: LeavingPicture[],
): Material {
  const made: Material = { ...material, pictures: { ...material.pictures } };
  const bare = (slot: PictureSlot) => CARRIED_PICTURES[container].includes(slot) && !material.pictures[slot];
  const give = (slot: PictureSlot, word: string, pixel: readonly number[]) => {
    const bytes = plainPng(VALUE_PIXELS, () =>
      pixel.map((v) => Math.round(255 * Math.min(1, Math.max(0, v)))),
    );
    const name = `${pictureStem(material.name)}_${word}.png`;
    const picture = pictures.push({ name, type: 'image/png', bytes }) - 1;
    made.pictures[slot] = { picture, uvSet: 0, wrap: ['repeat', 'repeat'] };
  };
  if (bare('baseColor')) {
    const [red, green, blue, alpha] = material.baseColor;
    // OBJ and COLLADA say alpha beside the picture; the others multiply both.
    const inside = alpha < 1 && container !== 'obj' && container !== 'dae';
    give('baseColor', 'base_color', [...[red, green, blue].map(encoded), ...(inside ? [alpha] : [])]);
    made.baseColor = [1, 1, 1, inside ? 1 : alpha];
  }
  if (bare('metallicRoughness')) {
    give('metallicRoughness', 'metallic_roughness', [1, material.roughness, material.metalness]);
    made.metalness = 1;
    made.roughness = 1;
  }
  const glow = Math.max(...material.emissive);
  if (bare('emissive') && glow > 0) {
    const strength = Math.max(1, glow);
    give(
      'emissive',
      'emissive',
      material.emissive.map((v) => encoded(v / strength)),
    );
    made.emissive = [strength, strength, strength];
  }
  return made;
}
