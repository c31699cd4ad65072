import { AroundStore } from './around-store';
import { ArtLooks } from './art-looks';
import { ArtStore } from './art-store';
import { HandDriveStore } from './hand-drive';
import { HandWalkStore } from './hand-walk';
import { InHand } from './in-hand';
import { PartDrag } from './part-drag';
import { BenchRules } from './bench-rules';
import { BenchStore } from './bench-store';
import { BenchWalkGround } from './bench-walk-ground';
import { ChosenAreas } from './chosen-areas';
import { DeliveryChoicesStore } from './delivery-choices';
import { CopiesAlong } from './copies-along';
import { DragExcess } from './drag-excess';
import { RunCorrection } from './run-correction';
import { DeviationStore } from './deviation-store';
import { FacePicker } from './face-picker';
import { LadderStore } from './ladder-store';
import { MakeStore } from './make-store';
import { NewArtStore } from './new-art-store';
import { Operations } from './operations';
import { OpeningsStore } from './openings-store';
import { Picking } from './picking';
import { PieceSaver } from './piece-saver';
import { PlayedRuns } from './played-runs';
import { Proposals } from './proposals';
import { RecipeRuns } from './recipe-runs';
import { ProxyMeasure } from './proxy-measure';
import { RiddenEdges } from './ridden-edges';
import { SavedWork } from './saved-work';
import { Selection } from './selection';
import { Steering } from './steering';
import { SetFixes } from './set-fixes';
import { SetPlaces } from './set-places';
import { SetGrowth } from './set-growth';
import { ShapeEditor } from './shape-editor';
import { TrialFlags } from './trial-flags';
import { TrialPlayer } from './trial-player';
import { TrialStore } from './trial-store';
import { ViewMarks } from './view-marks';
import { WalkGround } from './walk-ground';
import { ViewSettingsStore } from './view-settings';

/** The stores of one bench: they live and go with it. */
export const BENCH_STORES = [
  BenchStore,
  { provide: SavedWork, useExisting: BenchStore },
  BenchRules,
  PieceSaver,
  Proposals,
  Selection,
  ViewSettingsStore,
  ViewMarks,
  Picking,
  ArtStore,
  FacePicker,
  ChosenAreas,
  DeliveryChoicesStore,
  RiddenEdges,
  CopiesAlong,
  RunCorrection,
  Operations,
  ArtLooks,
  PartDrag,
  InHand,
  ShapeEditor,
  DragExcess,
  AroundStore,
  LadderStore,
  MakeStore,
  SetFixes,
  SetPlaces,
  SetGrowth,
  OpeningsStore,
  NewArtStore,
  DeviationStore,
  ProxyMeasure,
  RecipeRuns,
  TrialStore,
  { provide: PlayedRuns, useExisting: TrialStore },
  TrialPlayer,
  TrialFlags,
  { provide: WalkGround, useClass: BenchWalkGround },
  Steering,
  HandWalkStore,
  HandDriveStore,
];
