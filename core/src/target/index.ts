export * from './assemble.js';
export { checkRulesOf, takesOf } from './check-rules.js';
export * from './choices.js';
export { type CollisionShape, collisionShapes } from './collision-shapes.js';
export { type Collision, collisionSchema, type Numbering } from './collision.js';
export { asDelivered, deliveredKind, proxiesAsDelivered } from './delivered-shape.js';
export { twinOf, withTwin } from './collision-twin.js';
export * from './expectation.js';
export { colourCode } from './colour-code.js';
export * from './inventory.js';
export * from './losses.js';
export {
  isManifestFile,
  type Manifest,
  MANIFEST_VERSION,
  ManifestError,
  manifestOf,
  manifestSchema,
  readManifest,
} from './manifest.js';
export { type NameFaults, nameFaultsOf } from './name-faults.js';
export * from './plan.js';
export {
  instancesScene,
  isInstancesFile,
  type PlacementList,
  placementListFile,
  placementListOf,
  placementListSchema,
  writeSet,
} from './placement-list.js';
export { MAX_PLACEMENTS_IN_FILES, planSet, PlanSetError, SET_FORMS, type SetForm } from './plan-set.js';
export { placedByManifests, type PutTogetherPiece } from './placed-by-manifests.js';
export { planTogether } from './plan-together.js';
export * from './profile.js';
export { type PutBack, putBackBy } from './put-back.js';
export { putTogether, PutTogetherError } from './put-together.js';
export * from './profiles/index.js';
export { nameRulesOf, proxyName, type ParsedName, readingsOf } from './proxy-names.js';
export * from './read-back/index.js';
export { readPiece, type ReadPiece } from './read-piece.js';
export * from './set-apart.js';
export { besideFiles, type FileAmongOthers, sortFiles, type SortedFiles } from './sort-files.js';
export * from './tags.js';
export { variantName } from './variant.js';
export * from './waybill.js';
