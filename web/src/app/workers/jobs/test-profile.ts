import {
  agreesInAll,
  AssembleError,
  compareReadBack,
  CONTAINER_NAMES,
  type ContactSurface,
  expectationOfPlan,
  FormatError,
  PlanError,
  planToDeliver,
  readBack,
  substitutionsIn,
  type TargetProfile,
  targetProfileSchema,
  writePlan,
} from '@yard-brace/core';
import type { ProfileTest } from '../messages';
import { samplePiece } from '../sample-piece';

/** Write the sample piece in every format that a profile takes, and read each back by it. */
export async function testProfile(
  given: TargetProfile,
  surfaces: readonly ContactSurface[],
): Promise<ProfileTest> {
  const profile = targetProfileSchema.parse(given);
  const { document, sources } = samplePiece();
  const test: ProfileTest = { points: 0, substituted: 0, off: [] };
  for (const container of profile.containers) {
    const said = (says: string) => test.off.push(`${CONTAINER_NAMES[container]}: ${says}`);
    try {
      const plan = await planToDeliver(document, profile, { container }, surfaces);
      const report = await readBack(await writePlan(plan, sources), profile);
      const comparison = compareReadBack(expectationOfPlan(plan, sources.meshOf), report);
      test.points += comparison.filter(({ agrees }) => agrees).length;
      test.substituted += substitutionsIn(comparison).length;
      if (agreesInAll(comparison)) continue;
      const { point, found, expected } = comparison.find(
        ({ agrees, substituted }) => !agrees && !substituted,
      )!;
      said(`${point} is ${found}, not ${expected}`);
    } catch (error) {
      // Only sentences of ours are for a person.
      if (!(error instanceof AssembleError || error instanceof PlanError || error instanceof FormatError))
        throw error;
      said(error.message);
    }
  }
  return test;
}
