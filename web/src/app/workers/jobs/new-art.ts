import { compareNewArt, newArtFor, type PieceDocument, placedArt, proxyFits } from '@yard-brace/core';
import type { NewArt, Progress } from '../messages';
import { meshes } from './art';
import { importFile } from './import-file';
import { asBodies, storeBlobs } from './store-blobs';

/** A proxy that lies off its new art by no more metres than before and this still fits. */
const STILL_FITS_METRES = 2e-3;

/** Read a file as new art for a piece, and say what it would change. */
export async function newArt(
  document: PieceDocument,
  file: File,
  beside: File[],
  progress: Progress,
): Promise<NewArt> {
  const whole = await importFile(file, beside, progress);
  const { document: fresh, blobs } = await newArtFor(document, whole, await meshes.hold(whole));
  await storeBlobs(asBodies(blobs), () => undefined);
  const meshOf = await meshes.hold({ meshes: { ...document.meshes, ...fresh.meshes } });
  const report = compareNewArt(document, fresh, meshOf);
  progress(0.95, 'Measuring the proxies');
  const { kind: _kind, ...change } = report.edit;
  const [before, after] = [document, { ...document, ...change }].map((d) => placedArt(d, meshOf).mesh);
  const shapes = document.proxies.map(({ shape }) => shape);
  return { report, fits: shapes.length ? proxyFits(before!, after!, shapes, STILL_FITS_METRES) : [] };
}
