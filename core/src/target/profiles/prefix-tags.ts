import type { TargetProfile } from '../profile.js';
import { CAVES_IN, CONVEX, NOT_A_BOX, OPEN, TURNED_BOX } from './pictures.js';

export const PREFIX_TAGS: TargetProfile = {
  format: 1,
  id: 'prefix-tags',
  name: 'prefix tags',
  space: { unit: 'cm', up: 'z', forward: '+y', handedness: 'left' },
  containers: ['glb', 'obj', 'dae'],
  files: { split: 'piece' },
  hierarchy: 'flattened',
  collision: {
    by: 'name-prefix',
    tokens: { box: 'UBX_', sphere: 'USP_', capsule: 'UCP_', hull: 'UCX_' },
    place: 'beside',
    separator: '_',
    digits: 2,
    first: 1,
    single: 'numbered',
  },
  kinds: {
    known: ['box', 'sphere', 'capsule', 'hull'],
    nearest: { cylinder: 'hull', surface: 'hull' },
    tapered: false,
    sides: 24,
    concave: 'fill',
  },
  solids: { as: 'node-each', maxHullVertices: 255, maxShapes: 64 },
  names: {
    legalCharacters: ['A-Z', 'a-z', '0-9', '_'],
    longest: 64,
    mayStartWithDigit: true,
    caseMatters: true,
  },
  pictures: 'inside',
  materials: 'written',
  constants: 'dropped',
  physics: { roles: ['static'], responses: false, surfaces: false, mass: false },
  sheet: {
    route: 'Import as a static mesh.',
    settings: [
      {
        name: 'Automatic collision',
        value: 'off',
        why: 'It would add shapes of its own beside those of the file.',
      },
      { name: 'One hull per collision node', value: 'on', why: 'Each node is one convex shape already.' },
      {
        name: 'Combine meshes',
        value: 'off',
        why: 'Parts that leave each on its own keep their own pivots.',
      },
      { name: 'Scale', value: '1', why: 'The file states its unit, and the importer converts.' },
    ],
    appears: ['A physics entry for the piece and one material slot for each material of the file.'],
    warnings: [
      { says: 'Degenerate tangent bases: only where UVs are missing; shapes have none.', matters: false },
      { says: 'No smoothing groups: normals come with the file.', matters: false },
      {
        says: 'A collision node was found without its mesh: the name does not match, and the shape is drawn.',
        matters: true,
      },
    ],
    refreshBrings: ['Geometry, UVs, shapes, and new material slots at the end of the list.'],
    freshOnly: [
      'The order of material slots, the pivot of placed copies, and shapes that were edited after the import.',
    ],
  },
  help: {
    says: 'A node is collision when its name starts with a tag for its kind (UBX_ box, USP_ sphere, UCP_ capsule, UCX_ convex hull), goes on with the whole name of the art mesh and ends in a number.',
    allowed: [CONVEX, TURNED_BOX],
    refused: [CAVES_IN, OPEN, NOT_A_BOX],
  },
};
