import {
  artBounds,
  type Bounds,
  meshBounds,
  type PieceDocument,
  type SetOut,
  type TargetProfile,
  type Vec3,
} from '@yard-brace/core';
import {
  type DriveFrame,
  type DriveMark,
  HandDrive,
  startOfDrive,
  type Trolley,
  type TrolleyInput,
  type Way,
} from '@yard-brace/trial';
import { SET_GROUND_METRES, setTrialInput } from './set-trial';
import { type TrialInput, trialInput } from './trial-input';

/** Places that are told while somebody drives, at most: the worst. */
const MAX_TOLD = 12;

/** The drive that is under way on this worker. */
let drive: HandDrive | null = null;

const running = (): HandDrive => {
  if (!drive) throw new Error('no drive was begun');
  return drive;
};

async function begun(
  { shapes, art }: Pick<TrialInput, 'shapes' | 'art'>,
  around: Bounds,
  ground: number | null,
  trolley: Trolley,
  way: Way,
): Promise<DriveFrame> {
  drive?.free();
  drive = null;
  const { at } = startOfDrive(art.positions, around, way, trolley.wheelbase);
  drive = await HandDrive.of({ shapes, around, ground, trolley, from: at, way });
  return drive.restart();
}

/** What a page asks while a person drives: one drive at a time. */
export const handDrive = {
  async beginDrive(
    document: PieceDocument,
    profile: TargetProfile,
    trolley: Trolley,
    way: Way,
  ): Promise<DriveFrame> {
    const input = await trialInput(document, profile, () => undefined);
    return begun(input, artBounds(document), null, trolley, way);
  },
  async beginSetDrive(
    setOut: SetOut,
    documents: ReadonlyMap<string, PieceDocument>,
    profile: TargetProfile,
    trolley: Trolley,
    way: Way,
  ): Promise<DriveFrame> {
    const input = await setTrialInput(setOut, documents, profile, () => undefined);
    const { min, max } = meshBounds(input.art);
    const around: Bounds = { min: [min[0], SET_GROUND_METRES, min[2]], max };
    return begun(input, around, SET_GROUND_METRES, trolley, way);
  },
  startDriveAt: async (at: Vec3): Promise<DriveFrame> => running().startAt(at),
  restartDrive: async (): Promise<DriveFrame> => running().restart(),
  /** As many steps as there are inputs; the last frame of them, and what happened so far. */
  async advanceDrive(
    inputs: readonly TrolleyInput[],
  ): Promise<{ frame: DriveFrame; marks: DriveMark[] } | null> {
    const frame = running().advance(inputs).at(-1);
    return frame ? { frame, marks: running().marks(MAX_TOLD) } : null;
  },
  async endDrive(): Promise<void> {
    drive?.free();
    drive = null;
  },
};
