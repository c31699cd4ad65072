import { provideDracoWasm } from '@yard-brace/core';
import { expose } from 'comlink';
import * as z from 'zod';
import { checkSet, isMirrored } from './jobs/check-set';
import { draw } from './jobs/draw';
import { edgeRun } from './jobs/edge-run';
import { extractPieces } from './jobs/extract-pieces';
import { faults } from './jobs/fault-places';
import { keepingDocuments } from './held-documents';
import { importFile } from './jobs/import-file';
import { firstLook, ladder } from './jobs/ladder';
import { bareFaces, fixShapes, judgeShapes, setPlaces } from './jobs/judge-set';
import { makeShapes } from './jobs/make-shapes';
import { measure, shapeExcess } from './jobs/measure';
import { measuredPivot } from './jobs/measured-pivot';
import { newArt } from './jobs/new-art';
import { openings } from './jobs/openings';
import { comingApart } from './jobs/coming-apart';
import { operate, tryOperation } from './jobs/operate';
import { picture } from './jobs/picture';
import { readBackFiles } from './jobs/read-back-files';
import { riddenEdge } from './jobs/ridden-edge';
import { runLine } from './jobs/run-line';
import { runPlaces } from './jobs/run-places';
import { seenFaces } from './jobs/seen-faces';
import { shapesAround } from './jobs/shapes-around';
import { storeFiles } from './jobs/store-files';
import { testProfile } from './jobs/test-profile';
import { uvs } from './jobs/uvs';
import { roundAxis } from './jobs/round-axis';
import { seam } from './jobs/seam';
import { familyMatch } from './jobs/family-match';
import { materialUses } from './jobs/material-use';
import { hardEdges } from './jobs/hard-edges';
import { uvPaint } from './jobs/uv-paint';
import { withoutExtras } from './jobs/without-extras';
import { walk } from './jobs/walk';
import { extent } from './jobs/extent';
import { likelyAxes } from './jobs/likely-axes';
import { weighDelivery } from './jobs/weigh-delivery';
import { wallMetres } from './jobs/wall-thickness';

z.config({ jitless: true });
provideDracoWasm(async () => (await fetch('/draco_decoder.wasm')).arrayBuffer());

/** Heavy work off the page's own thread, a job a file. */
const jobs = {
  importFile,
  storeFiles,
  newArt,
  extractPieces,
  draw,
  picture,
  makeShapes,
  ladder,
  firstLook,
  measure,
  judgeShapes,
  fixShapes,
  bareFaces,
  setPlaces,
  openings,
  operate,
  tryOperation,
  withoutExtras,
  comingApart,
  faults,
  edgeRun,
  riddenEdge,
  runLine,
  runPlaces,
  shapeExcess,
  seenFaces,
  shapesAround,
  measuredPivot,
  wallMetres,
  uvs,
  roundAxis,
  seam,
  checkSet,
  isMirrored,
  familyMatch,
  materialUses,
  hardEdges,
  uvPaint,
  walk,
  extent,
  likelyAxes,
  testProfile,
  readBackFiles,
  weighDelivery,
};

export type Jobs = typeof jobs;

expose(keepingDocuments(jobs));
