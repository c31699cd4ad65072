import {
  type Agent,
  bodyTrialSchema,
  type Clearance,
  collidingArt,
  collisionShapes,
  joinMeshes,
  type Mesh,
  meshBounds,
  type PieceDocument,
  placedArt,
  placedClearances,
  placedMesh,
  placedPieces,
  placedShapes,
  type SetOut,
  sourceKey,
  type TargetProfile,
  type Vec3,
  type WalkLimits,
  type WalkTrial,
  walkTrialSchema,
} from '@yard-brace/core';
import { type TrialShape, walkTrial } from '@yard-brace/trial';
import type { Progress } from '../messages';
import { meshes } from './art';
import { across, type AcrossAsk, type BodyTrialRun } from './body-trial';

/** Trials of sets are not kept: there is no state to tell them by. */
const NOT_KEPT = '0'.repeat(64);

/** The ground of a set-out is at height 0. */
export const SET_GROUND_METRES = 0;

export interface SetTrialInput {
  /** ids: of the placement and the number of the shape in its piece, "p12 3" */
  shapes: TrialShape[];
  art: Mesh;
  clearances: Clearance[];
}

/** What a trial of a whole set is made of. */
export async function setTrialInput(
  setOut: SetOut,
  documents: ReadonlyMap<string, PieceDocument>,
  profile: TargetProfile,
  progress: (share: number) => void,
): Promise<SetTrialInput> {
  const placed = placedPieces(setOut, documents);
  const arts = new Map<string, Mesh>();
  for (const [key, document] of documents) {
    const whole = placedArt(document, await meshes.hold(document));
    arts.set(key, collidingArt(document, whole).mesh);
    progress(arts.size / documents.size);
  }
  const shapes = placed.flatMap((each) => {
    const numbers = new Map(each.document.proxies.map(({ id }, i) => [id, i + 1]));
    return placedShapes(each).map(({ placement, proxy, shape }) => ({
      id: `${placement} ${numbers.get(proxy)}`,
      shape,
    }));
  });
  const colliders = await collisionShapes(
    profile,
    shapes.map(({ shape }) => shape),
  );
  return {
    shapes: shapes.map(({ id }, i) => ({ id, colliders: colliders[i]! })),
    art: joinMeshes(placed.map((each) => placedMesh(each, arts.get(sourceKey(each.placement))!))),
    clearances: placed.flatMap((each) =>
      placedClearances(each).map((clearance) => ({
        ...clearance,
        id: `${each.placement.id} ${clearance.id}`.slice(0, 40),
        name: `${clearance.name} of ${each.name}`.slice(0, 120),
      })),
    ),
  };
}

/** An agent sent across the whole set, through every opening, up every stair. */
export async function walkSet(
  setOut: SetOut,
  documents: ReadonlyMap<string, PieceDocument>,
  profile: TargetProfile,
  { agent, limits }: { agent: Agent; limits: WalkLimits },
  progress: Progress,
): Promise<WalkTrial> {
  const input = await setTrialInput(setOut, documents, profile, (share) =>
    progress(share * 0.1, 'Fetching the art'),
  );
  const found = await walkTrial({
    ...input,
    ground: SET_GROUND_METRES,
    agent,
    limits,
    progress: (share) => progress(0.1 + 0.9 * share, `The ${agent.name} walks`),
  });
  return walkTrialSchema.parse({ ...found, key: NOT_KEPT });
}

/** Something that rolls or drives across the whole set; it is played, and not kept. */
export async function acrossSet(
  setOut: SetOut,
  documents: ReadonlyMap<string, PieceDocument>,
  profile: TargetProfile,
  ask: AcrossAsk,
  progress: Progress,
): Promise<BodyTrialRun> {
  const input = await setTrialInput(setOut, documents, profile, (share) =>
    progress(share * 0.2, 'Fetching the art'),
  );
  progress(0.2, 'Trying the shapes');
  const { min, max } = meshBounds(input.art);
  const bounds = { min: [min[0], SET_GROUND_METRES, min[2]] as Vec3, max };
  const { trial, played, moves = { kind: 'nothing' } } = await across(input, bounds, ask, SET_GROUND_METRES);
  return {
    trial: bodyTrialSchema.parse({ ...trial, key: NOT_KEPT, ask }),
    played,
    moves,
    aside: [0, 0, 0],
  };
}
