import type { TargetProfile } from '../profile.js';
import { CAVES_IN, CONVEX, SCALED, TURNED_BOX } from './pictures.js';

export const OPEN_PHYSICS_GLTF: TargetProfile = {
  format: 1,
  id: 'open-physics-gltf',
  name: 'open physics, glTF',
  space: { unit: 'm', up: 'y', forward: '+z', handedness: 'right' },
  containers: ['glb', 'gltf'],
  files: { split: 'piece' },
  hierarchy: 'kept',
  collision: {
    by: 'gltf-extension',
    meshKey: 'mesh',
    word: 'collider',
    separator: '_',
    digits: 2,
    first: 1,
    single: 'numbered',
  },
  kinds: {
    known: ['box', 'sphere', 'capsule', 'cylinder', 'hull', 'surface'],
    nearest: {},
    tapered: true,
    sides: 24,
    concave: 'fill',
  },
  solids: { as: 'node-each', maxHullVertices: 255, maxShapes: 1024 },
  names: {
    legalCharacters: [' ', '!', '#-~', 'À-ÿ'],
    longest: 200,
    mayStartWithDigit: true,
    caseMatters: true,
  },
  pictures: 'inside',
  materials: 'written',
  constants: 'kept',
  physics: { roles: ['static', 'animated', 'simulated'], responses: false, surfaces: true, mass: true },
  sheet: {
    route: 'Import as a scene with the physics extensions switched on.',
    settings: [
      {
        name: 'Physics extensions',
        value: 'on',
        why: 'Shapes, surfaces and masses are in KHR_implicit_shapes and KHR_physics_rigid_bodies.',
      },
      { name: 'Generate colliders', value: 'off', why: 'It would add shapes beside those of the file.' },
    ],
    appears: ['A node without a mesh for each exact shape.'],
    warnings: [
      { says: 'An extension is not known: shapes will be missing, the art stays whole.', matters: true },
    ],
    refreshBrings: ['Everything of the file.'],
    freshOnly: ['Nothing.'],
  },
  help: {
    says: 'Exact shapes stand in the file as KHR_implicit_shapes; nodes name them as colliders by KHR_physics_rigid_bodies. Hulls and surfaces are meshes that a collider names and nobody draws.',
    allowed: [CONVEX, TURNED_BOX],
    refused: [CAVES_IN, SCALED],
  },
};
