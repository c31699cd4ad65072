import type { TargetProfile } from '../profile.js';
import { OPEN_PHYSICS_GLTF } from './open-physics-gltf.js';
import { OPEN_PHYSICS_USD } from './open-physics-usd.js';
import { PREFIX_TAGS } from './prefix-tags.js';
import { PROXY_NODES } from './proxy-nodes.js';
import { SUFFIX_TAGS } from './suffix-tags.js';
import { TWIN_FILE } from './twin-file.js';

export { OPEN_PHYSICS_GLTF, OPEN_PHYSICS_USD, PREFIX_TAGS, PROXY_NODES, SUFFIX_TAGS, TWIN_FILE };

/** The profiles that ship. */
export const PROFILES: readonly TargetProfile[] = [
  PREFIX_TAGS,
  SUFFIX_TAGS,
  PROXY_NODES,
  TWIN_FILE,
  OPEN_PHYSICS_GLTF,
  OPEN_PHYSICS_USD,
];

/** A profile that ships, by its id. A yard may have others: ask its rules for those. */
export const profileById = (id: string): TargetProfile | undefined =>
  PROFILES.find((profile) => profile.id === id);
