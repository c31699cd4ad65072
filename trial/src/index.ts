export type { Route, WalkableArea } from './route/route-finder.js';
export { StillWorld } from './still-world.js';
export { NothingToTryError, type TrialShape } from './walk/trial-world.js';
export { walkTrial, type WalkTrialInput } from './walk/walk-trial.js';
export { HandWalk, type WalkFrame, type WalkInput } from './walk/hand-walk.js';
export { STEP_SECONDS, WALK_PACE, type Way } from './walk/walker.js';
