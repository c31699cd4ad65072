import { boatCradle } from './pieces/boat-cradle.js';
import { bollard } from './pieces/bollard.js';
import { dinghy } from './pieces/dinghy.js';
import { quayWall } from './pieces/quay-wall.js';
import type { SampleFile } from './sample-file.js';

export const SAMPLE_YARD = 'Saltgate Slip';

/** The pieces of the sample yard: what each is called, and its files with the mesh file first. */
export async function samplePieces(): Promise<{ name: string; files: SampleFile[] }[]> {
  return [
    { name: 'Bollard', files: bollard() },
    { name: 'Quay wall straight', files: quayWall() },
    { name: 'Boat cradle', files: await boatCradle() },
    { name: 'Dinghy', files: dinghy() },
  ];
}
