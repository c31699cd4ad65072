export { StillWorld } from './still-world.js';
export { NothingToTryError, type TrialShape, walkTrial, type WalkTrialInput } from './walk/walk-trial.js';
