import type { TargetProfile } from '../profile.js';
import { CAVES_IN, CONVEX, OPEN, SCALED, SURFACE } from './pictures.js';

export const SUFFIX_TAGS: TargetProfile = {
  format: 1,
  id: 'suffix-tags',
  name: 'suffix tags',
  space: { unit: 'm', up: 'y', forward: '+z', handedness: 'right' },
  containers: ['glb', 'gltf', 'dae', 'obj'],
  files: { split: 'piece' },
  hierarchy: 'kept',
  collision: {
    by: 'name-suffix',
    tokens: { hull: '-convcolonly', surface: '-colonly' },
    drawn: '-col',
    place: 'below',
    separator: '_',
    digits: 2,
    first: 1,
    single: 'plain',
  },
  kinds: {
    known: ['hull', 'surface'],
    nearest: { box: 'hull', sphere: 'hull', capsule: 'hull', cylinder: 'hull' },
    tapered: false,
    sides: 16,
    concave: 'fill',
  },
  solids: { as: 'node-each', maxHullVertices: 255, maxShapes: 256 },
  names: {
    legalCharacters: [' ', 'A-Z', 'a-z', '0-9', '_', '-', '(', ')', '+', 'À-ÿ'],
    longest: 120,
    mayStartWithDigit: true,
    caseMatters: true,
  },
  pictures: 'inside',
  materials: 'written',
  constants: 'kept',
  physics: { roles: ['static'], responses: false, surfaces: false, mass: false },
  sheet: {
    route: 'Copy the file into the project; it is imported as a scene.',
    settings: [
      { name: 'Use name suffixes', value: 'on', why: 'Collision is told by the ends of node names.' },
      { name: 'Root scale', value: '1', why: 'The file is in metres, as the target is.' },
      { name: 'Generate physics', value: 'off', why: 'It would add triangle surfaces to every drawn mesh.' },
    ],
    appears: ['A static body below each art node, with one collision shape for each node of the file.'],
    warnings: [
      {
        says: 'A mesh was named twice: the second is renamed, and a shape that was told by its name is lost.',
        matters: true,
      },
      { says: 'Tangents are missing: they are made where a normal picture asks for them.', matters: false },
    ],
    refreshBrings: ['Everything of the file: tree, meshes, materials, shapes.'],
    freshOnly: [
      'Nothing; what was changed by hand in the imported scene is kept only in scenes that inherit it.',
    ],
  },
  help: {
    says: 'A node is collision when its name ends with -convcolonly (convex, not drawn) or -colonly (triangles, not drawn). Art whose name ends with -col is drawn and is its own triangle surface.',
    allowed: [CONVEX, SURFACE],
    refused: [CAVES_IN, OPEN, SCALED],
  },
};
