import { provideDracoWasm } from '@yard-brace/core';
import { expose } from 'comlink';
import * as z from 'zod';
import { keepingDocuments } from './held-documents';
import { bodyTrial, trialCost } from './jobs/body-trial';
import { handDrive } from './jobs/hand-drive';
import { handWalk } from './jobs/hand-walk';
import { runRecipe } from './jobs/run-recipe';
import { acrossSet, walkSet } from './jobs/set-trial';
import { walkTrials } from './jobs/walk-trials';

z.config({ jitless: true });
provideDracoWasm(async () => (await fetch('/draco_decoder.wasm')).arrayBuffer());

/** Trials of a piece, and recipes that ask for them: the physics engine and the route finder are on workers of their own. */
const trialJobs = {
  runRecipe,
  walkTrials,
  walkSet,
  acrossSet,
  bodyTrial,
  trialCost,
  ...handWalk,
  ...handDrive,
};

export type TrialJobs = typeof trialJobs;

expose(keepingDocuments(trialJobs));
