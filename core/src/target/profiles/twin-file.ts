import type { TargetProfile } from '../profile.js';
import { INSIDE_OUT, OPEN, SURFACE } from './pictures.js';

export const TWIN_FILE: TargetProfile = {
  format: 1,
  id: 'twin-file',
  name: 'twin file',
  space: { unit: 'm', up: 'y', forward: '+z', handedness: 'left' },
  containers: ['obj', 'glb'],
  files: { split: 'piece' },
  hierarchy: 'kept',
  collision: { by: 'second-file', suffix: '_collision' },
  kinds: {
    known: ['surface'],
    nearest: { box: 'surface', sphere: 'surface', capsule: 'surface', cylinder: 'surface', hull: 'surface' },
    tapered: false,
    sides: 16,
    concave: 'fill',
  },
  solids: { as: 'joined', maxHullVertices: 65535, maxShapes: 1024 },
  names: {
    legalCharacters: ['A-Z', 'a-z', '0-9', '_', '-'],
    longest: 100,
    mayStartWithDigit: true,
    caseMatters: false,
  },
  pictures: 'beside',
  materials: 'written',
  constants: 'kept',
  physics: { roles: ['static'], responses: false, surfaces: false, mass: false },
  sheet: {
    route: 'Put both files into the same folder and give the second as the collision mesh.',
    settings: [
      { name: 'Generate colliders', value: 'off', why: 'It would make triangles of the art into collision.' },
      { name: 'Convex', value: 'off', why: 'The second file is one surface; as a hull it would be filled.' },
      { name: 'Scale', value: '1', why: 'Both files are in metres, and OBJ names no unit.' },
    ],
    appears: ['A second mesh in the list of assets; it is never placed by itself.'],
    warnings: [
      { says: 'The collision file has no materials: it is not drawn.', matters: false },
      {
        says: 'Bounds of the two files differ by metres: they were made from different states.',
        matters: true,
      },
    ],
    refreshBrings: ['Geometry of both files.'],
    freshOnly: ['The link between the art and its collision mesh.'],
  },
  help: {
    says: 'A second file, named like the first with _collision behind it, holds all collision as one mesh of that name. Both have the same pivot in the origin.',
    allowed: [SURFACE],
    refused: [INSIDE_OUT, OPEN],
  },
};
