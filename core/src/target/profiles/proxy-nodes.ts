import type { TargetProfile } from '../profile.js';
import { CAVES_IN, CONVEX, INSIDE_OUT, SURFACE } from './pictures.js';

export const PROXY_NODES: TargetProfile = {
  format: 1,
  id: 'proxy-nodes',
  name: 'proxy nodes',
  space: { unit: 'm', up: 'z', forward: '-y', handedness: 'right' },
  containers: ['dae', 'glb'],
  files: { split: 'piece' },
  hierarchy: 'kept',
  collision: {
    by: 'child-node',
    token: '$physics_proxy',
    singleToken: '$proxy',
    slot: { name: 'physics_proxy', undrawn: '_nodraw' },
    separator: '',
    digits: 3,
    first: 1,
    single: 'numbered',
  },
  kinds: {
    known: ['hull', 'surface'],
    nearest: { box: 'hull', sphere: 'hull', capsule: 'hull', cylinder: 'hull' },
    tapered: false,
    sides: 16,
    concave: 'fill',
  },
  solids: { as: 'node-each', maxHullVertices: 128, maxShapes: 128 },
  names: {
    legalCharacters: ['A-Z', 'a-z', '0-9', '_'],
    longest: 64,
    mayStartWithDigit: false,
    caseMatters: false,
  },
  pictures: 'beside',
  materials: 'by-name',
  constants: 'dropped',
  physics: { roles: ['static', 'animated', 'simulated'], responses: false, surfaces: false, mass: false },
  sheet: {
    route: 'Put the file beside its material library and compile it.',
    settings: [
      { name: 'Merge all nodes', value: 'off', why: 'Shapes belong to the node that they hang below.' },
      {
        name: 'Physics of the proxy slot',
        value: 'obstruct, not drawn',
        why: 'The slot after the art’s own carries the shapes.',
      },
      { name: 'Scale', value: '1', why: 'The file states metres and Z up.' },
    ],
    appears: ['One material slot more than the art has; it is the shapes’ own and is not drawn.'],
    warnings: [
      { says: 'The proxy slot has no textures: it needs none.', matters: false },
      {
        says: 'A proxy lies outside its parent’s bounds: it is tested later than it should be.',
        matters: true,
      },
    ],
    refreshBrings: ['Geometry, tree, shapes.'],
    freshOnly: ['The number and order of material slots.'],
  },
  help: {
    says: 'A child node named $physics_proxy001, $physics_proxy002 … below an art node is its collision; a single one may be $proxy. It carries a material slot of its own, after those of the art, that is not drawn.',
    allowed: [CONVEX, SURFACE],
    refused: [CAVES_IN, INSIDE_OUT],
  },
};
