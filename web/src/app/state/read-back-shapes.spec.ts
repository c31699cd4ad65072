import {
  applyEdit,
  compareReadBack,
  expectationOf,
  meshReader,
  pivotEdit,
  planToDeliver,
  PREFIX_TAGS,
  readBack,
  replaceProxies,
  shapeBounds,
  shapeVolume,
  writePlan,
} from '@yard-brace/core';
import { crateScene } from '../testing/crate';
import { readBackShapes } from './read-back-shapes';

describe('what was read back, drawn over the piece', () => {
  it('stands where the shapes of the piece do, whatever its pivot is', async () => {
    const { document: crate, blobs } = crateScene();
    const box = {
      kind: 'box' as const,
      center: [0, 0.5, 0] as [number, number, number],
      halfExtents: [0.5, 0.5, 0.5] as [number, number, number],
      rotation: [0, 0, 0, 1] as [number, number, number, number],
    };
    const document = applyEdit(
      applyEdit(crate, replaceProxies([{ id: 'a', shape: box }])),
      pivotEdit('numeric', [3, -2, 1]),
    );
    const sources = { meshOf: meshReader(blobs), pictureOf: (id: string) => blobs.get(id)! };
    const report = await readBack(
      await writePlan(await planToDeliver(document, PREFIX_TAGS), sources),
      PREFIX_TAGS,
    );
    expect(compareReadBack(expectationOf(document, PREFIX_TAGS), report).length).toBeGreaterThan(5);
    const { shapes, changed } = readBackShapes(report, document);
    expect([shapes.length, changed.size]).toEqual([1, 0]);
    expect(shapeVolume(shapes[0]!.shape)).toBeCloseTo(1, 5);
    expect(shapeBounds(shapes[0]!.shape).min.map((v) => v.toFixed(4))).toEqual([
      '-0.5000',
      '0.0000',
      '-0.5000',
    ]);
  });

  it('marks what the importer changed, and the box that it made up', async () => {
    const { document, blobs } = crateScene();
    const sources = { meshOf: meshReader(blobs), pictureOf: (id: string) => blobs.get(id)! };
    const report = await readBack(
      await writePlan(await planToDeliver(document, PREFIX_TAGS), sources),
      PREFIX_TAGS,
    );
    const { shapes, changed } = readBackShapes(report, document);
    expect(shapes.map(({ id }) => changed.has(id))).toEqual([true]);
  });
});
