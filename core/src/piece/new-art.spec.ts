import { sizeOf } from '../math/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { applyEdit } from './edits/index.js';
import { artBounds } from './geometry.js';
import { compareNewArt } from './new-art.js';

/** A crate drawn in centimetres, in a format that calls every number metres. */
const crate = (half: number) =>
  pieceOf({ ...sceneOf(boxMesh([half, half, half])), unit: { metres: 1, stated: true } });

describe('new art of a format that states its unit', () => {
  it('keeps the unit that a person corrected, where that still fits', () => {
    const old = crate(50);
    const corrected = applyEdit(old.document, { kind: 'set-unit', unit: 'cm' });
    const fresh = crate(52);
    const meshOf = (blob: string) => (fresh.document.meshes[blob] ? fresh.meshOf(blob) : old.meshOf(blob));
    const report = compareNewArt(corrected, fresh.document, meshOf);
    expect(report.edit.unit).toEqual({ name: 'cm', stated: true, confirmed: true });
    expect(sizeOf(artBounds(applyEdit(corrected, report.edit)))[0]).toBeCloseTo(1.04, 9);
  });

  it('takes the unit that is stated where the art is of that size now', () => {
    const old = crate(50);
    const corrected = applyEdit(old.document, { kind: 'set-unit', unit: 'cm' });
    const mended = crate(0.5);
    const meshOf = (blob: string) => (mended.document.meshes[blob] ? mended.meshOf(blob) : old.meshOf(blob));
    expect(compareNewArt(corrected, mended.document, meshOf).edit.unit.name).toBe('m');
  });
});
