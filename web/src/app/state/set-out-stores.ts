import { HandDriveStore } from './hand-drive';
import { HandWalkStore } from './hand-walk';
import { Picking } from './picking';
import { PlayedRuns } from './played-runs';
import { SavedWork } from './saved-work';
import { SetOutActs } from './set-out-acts';
import { SetOutArt } from './set-out-art';
import { SetOutCheck } from './set-out-check';
import { SetOutDrag } from './set-out-drag';
import { SetOutLookStore } from './set-out-look';
import { SetOutPieces } from './set-out-pieces';
import { SetOutPlaced } from './set-out-placed';
import { SetOutSaver } from './set-out-saver';
import { SetOutSelection } from './set-out-selection';
import { SetOutStore } from './set-out-store';
import { SetOutTrial } from './set-out-trial';
import { SetOutWalkGround } from './set-out-walk-ground';
import { Steering } from './steering';
import { TrialFlags } from './trial-flags';
import { TrialPlayer } from './trial-player';
import { WalkGround } from './walk-ground';

/** The stores of one set-out page: they live and go with it. */
export const SET_OUT_STORES = [
  SetOutStore,
  { provide: SavedWork, useExisting: SetOutStore },
  SetOutSaver,
  SetOutPlaced,
  SetOutSelection,
  SetOutActs,
  SetOutPieces,
  SetOutDrag,
  SetOutLookStore,
  SetOutArt,
  SetOutCheck,
  SetOutTrial,
  { provide: PlayedRuns, useExisting: SetOutTrial },
  TrialPlayer,
  TrialFlags,
  Picking,
  { provide: WalkGround, useClass: SetOutWalkGround },
  Steering,
  HandWalkStore,
  HandDriveStore,
];
