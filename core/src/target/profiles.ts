import type { TargetProfile } from './profile.js';

export const PREFIX_TAGS: TargetProfile = {
  id: 'prefix-tags',
  name: 'prefix tags',
  help: 'A node is collision when its name starts with a tag for its kind (UBX_ box, USP_ sphere, UCP_ capsule, UCX_ convex hull), goes on with the whole name of the art mesh and ends in a number.',
  unit: 'cm',
  up: 'z',
  handedness: 'left',
  fileFormat: 'glb',
  hierarchy: 'flattened',
  textures: 'inside',
  constants: 'dropped',
  proxies: {
    place: 'beside-mesh',
    prefixes: { box: 'UBX_', sphere: 'USP_', capsule: 'UCP_', hull: 'UCX_' },
    nearest: { cylinder: 'hull', surface: 'hull' },
    padding: 2,
    maxShapes: 64,
    maxHullVertices: 255,
  },
  names: { legalCharacters: ['A-Z', 'a-z', '0-9', '_'], longest: 64 },
};

/** The profiles that ship. */
export const PROFILES: readonly TargetProfile[] = [PREFIX_TAGS];

export const profileById = (id: string): TargetProfile | undefined =>
  PROFILES.find((profile) => profile.id === id);
