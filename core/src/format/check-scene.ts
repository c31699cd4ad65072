import { type SceneNote, type Material, plainMaterial, type Scene, type Wrap } from '../piece/index.js';
import { FormatError, shown } from './format-error.js';

/** Farthest that a file may reach, in its own unit: beyond that no length, area or volume can be trusted. */
export const FARTHEST_READ = 1e30;
const WRAPS: readonly Wrap[] = ['repeat', 'clamp', 'mirror'];

/**
 * Whatever a reader made of a file, a piece can be made of: places and transforms within reach, materials of
 * numbers, texts of whole characters. What does not matter is mended with a note, the rest refused.
 *
 * @throws FormatError that names the mesh or node
 */
export function checkScene(file: string, scene: Scene): Scene {
  for (const { name, mesh } of scene.meshes) checkReach(file, `mesh “${shown(name, 60)}”`, mesh.positions);
  for (const { name, translation, rotation, scale } of scene.nodes)
    checkReach(file, `node “${shown(name, 60)}”`, Float64Array.of(...translation, ...rotation, ...scale));
  const notes = [...scene.notes];
  const materials = scene.materials.map((material) => mendedMaterial(material, notes));
  const whole = <T extends { name: string }>(named: T): T => ({ ...named, name: wholeText(named.name) });
  return {
    ...scene,
    nodes: scene.nodes.map(whole),
    meshes: scene.meshes.map(whole),
    materials: materials.map(whole),
    pictures: scene.pictures.map(whole),
    leftOut: scene.leftOut.map(whole),
    notes: notes.map(wholeNote),
  };
}

function checkReach(file: string, part: string, values: Float64Array): void {
  // None is farther than all their squares together say; a sum has no branch, so that millions take a millisecond.
  let [even, odd] = [0, 0];
  for (let i = 1; i < values.length; i += 2) {
    even += values[i - 1]! * values[i - 1]!;
    odd += values[i]! * values[i]!;
  }
  if (values.length % 2) even += values.at(-1)! ** 2;
  if (even + odd <= FARTHEST_READ ** 2) return;
  const value = values.find((each) => !(Math.abs(each) <= FARTHEST_READ));
  if (value === undefined) return;
  throw new FormatError(
    file,
    Number.isFinite(value)
      ? `a number of ${value.toExponential(0)} is farther than anything that can be measured`
      : 'a number is not finite',
    'check the unit and export it again',
    { part },
  );
}

function mendedMaterial(material: Material, notes: SceneNote[]): Material {
  const usual = plainMaterial(material.name);
  let mended = false;
  const number = (value: number, fallback: number): number => {
    if (Number.isFinite(value)) return value;
    mended = true;
    return fallback;
  };
  const list = <T extends readonly number[]>(values: T, fallback: T): T =>
    fallback.map((usually, k) => number(values[k] ?? NaN, usually)) as unknown as T;
  const wrap = (value: Wrap): Wrap => {
    if (WRAPS.includes(value)) return value;
    mended = true;
    return 'repeat';
  };
  const uvSet = (value: number): number => {
    if (Number.isInteger(value) && value >= 0 && value < 16) return value;
    mended = true;
    return 0;
  };
  const out: Material = {
    ...material,
    baseColor: list(material.baseColor, usual.baseColor),
    emissive: list(material.emissive, usual.emissive),
    metalness: number(material.metalness, usual.metalness),
    roughness: number(material.roughness, usual.roughness),
    alphaCutoff: number(material.alphaCutoff, usual.alphaCutoff),
    normalScale: number(material.normalScale, usual.normalScale),
    occlusionStrength: number(material.occlusionStrength, usual.occlusionStrength),
    alpha: ['opaque', 'mask', 'blend'].includes(material.alpha) ? material.alpha : usual.alpha,
    pictures: Object.fromEntries(
      Object.entries(material.pictures).map(([slot, use]) => [
        slot,
        { ...use, uvSet: uvSet(use.uvSet), wrap: [wrap(use.wrap[0]), wrap(use.wrap[1])] },
      ]),
    ),
  };
  if (mended || out.alpha !== material.alpha)
    notes.push({ about: 'material-values', material: shown(material.name, 60) });
  return out;
}

/** Half of a character is no text that can be stored. */
const wholeNote = (note: SceneNote): SceneNote =>
  Object.fromEntries(
    Object.entries(note).map(([name, value]: [string, unknown]) => [
      name,
      typeof value === 'string' ? wholeText(value) : value,
    ]),
  ) as SceneNote;
const wholeText = (text: string): string => text.replace(/\p{Surrogate}/gu, '\ufffd');
