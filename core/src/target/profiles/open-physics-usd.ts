import type { TargetProfile } from '../profile.js';
import { CAVES_IN, CONVEX, SCALED, TURNED_BOX } from './pictures.js';

export const OPEN_PHYSICS_USD: TargetProfile = {
  format: 1,
  id: 'open-physics-usd',
  name: 'open physics, USD',
  space: { unit: 'm', up: 'y', forward: '+z', handedness: 'right' },
  containers: ['usda'],
  files: { split: 'piece' },
  hierarchy: 'kept',
  collision: { by: 'usd-schema', word: 'collider', separator: '_', digits: 2, first: 1, single: 'numbered' },
  kinds: {
    known: ['box', 'sphere', 'capsule', 'cylinder', 'hull', 'surface'],
    nearest: {},
    tapered: false,
    sides: 24,
    concave: 'fill',
  },
  solids: { as: 'node-each', maxHullVertices: 255, maxShapes: 1024 },
  names: {
    legalCharacters: ['A-Z', 'a-z', '0-9', '_'],
    longest: 200,
    mayStartWithDigit: false,
    caseMatters: true,
  },
  pictures: 'beside',
  materials: 'written',
  constants: 'kept',
  physics: { roles: ['static', 'animated', 'simulated'], responses: false, surfaces: true, mass: true },
  sheet: {
    route: 'Reference the layer, or open it as a stage.',
    settings: [
      { name: 'Physics schemas', value: 'read', why: 'Shapes, surfaces and masses are said by UsdPhysics.' },
      { name: 'Up axis and unit', value: 'of the layer', why: 'Both are stated in it.' },
    ],
    appears: ['Guide prims for the shapes, which are not drawn.'],
    warnings: [
      { says: 'A layer without a physics scene: the stage it is placed in has one.', matters: false },
    ],
    refreshBrings: ['Everything of the layer.'],
    freshOnly: ['Nothing.'],
  },
  help: {
    says: 'Prims with the UsdPhysics collision schema are collision: Cube, Sphere, Capsule and Cylinder are exact, a Mesh says by its approximation whether its hull or its triangles count. Their purpose is guide, so that nobody draws them.',
    allowed: [CONVEX, TURNED_BOX],
    refused: [CAVES_IN, SCALED],
  },
};
