import { boatCradle } from './pieces/boat-cradle.js';
import { bollard } from './pieces/bollard.js';
import { dinghy } from './pieces/dinghy.js';
import {
  channelBuoy,
  gangway,
  oysterTray,
  ropeCoil,
  slipTrolley,
  slipWinch,
  sluiceGate,
} from './pieces/ironwork.js';
import { quayWall } from './pieces/quay-wall.js';
import { copings, launchChannel, loftWall, quayCorner, quayStair } from './pieces/stonework.js';
import type { SampleFile } from './sample-file.js';

export const SAMPLE_YARD = 'Saltgate Slip';

export interface SamplePiece {
  name: string;
  /** the mesh file first */
  files: SampleFile[];
}

/** The pieces of the sample yard: what each is called, and its files. */
export async function samplePieces(): Promise<SamplePiece[]> {
  return [
    { name: 'Bollard', files: bollard() },
    { name: 'Quay wall straight', files: quayWall() },
    { name: 'Quay wall corner', files: await quayCorner() },
    { name: 'Copings', files: await copings() },
    { name: 'Quay stair', files: await quayStair() },
    { name: 'Net loft wall', files: loftWall() },
    { name: 'Sluice gate', files: await sluiceGate() },
    { name: 'Oyster tray', files: await oysterTray() },
    { name: 'Gangway', files: await gangway() },
    { name: 'Slip winch', files: await slipWinch() },
    { name: 'Boat cradle', files: await boatCradle() },
    { name: 'Rope coil', files: await ropeCoil() },
    { name: 'Channel buoy', files: await channelBuoy() },
    { name: 'Slip trolley', files: await slipTrolley() },
    { name: 'Launch channel', files: launchChannel() },
    { name: 'Dinghy', files: dinghy() },
  ];
}

/** Files that come for pieces that are there already: their makers changed them. */
export async function changedPieces(): Promise<SamplePiece[]> {
  return [
    { name: 'Bollard', files: bollard({ changed: true }) },
    { name: 'Sluice gate', files: await sluiceGate({ changed: true }) },
    { name: 'Boat cradle', files: await boatCradle({ changed: true }) },
  ];
}
