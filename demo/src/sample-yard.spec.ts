import {
  memoryFile,
  meshNameFrom,
  pieceDocumentSchema,
  readFile,
  sizeOf,
  artBounds,
  takeIn,
  type PieceDocument,
  findingsOf,
  checkRulesOf,
  PREFIX_TAGS,
} from '@yard-brace/core';
import { samplePieces } from './sample-yard.js';

const documents = new Map<string, PieceDocument>();

describe('the sample yard', () => {
  beforeAll(async () => {
    for (const { name, files } of await samplePieces()) {
      const [main, ...beside] = files.map((file) => memoryFile(file.name, file.bytes));
      const scene = await readFile(main!, beside);
      documents.set(
        name,
        takeIn(scene, {
          files: [{ name: main!.name, blob: '0'.repeat(64), bytes: main!.size }],
          name,
          meshName: meshNameFrom,
          target: 'prefix-tags',
        }).document,
      );
    }
  });

  const faults = (name: string) =>
    findingsOf(documents.get(name)!, checkRulesOf(PREFIX_TAGS)).map(({ id }) => id);

  it('has believable pieces that pass the schema', () => {
    expect([...documents.keys()]).toEqual(['Bollard', 'Quay wall straight', 'Boat cradle', 'Dinghy']);
    for (const document of documents.values()) {
      expect(pieceDocumentSchema.safeParse(document).success).toBeTrue();
      expect(document.whole.triangles).withContext(document.name).toBeGreaterThanOrEqual(1000);
      expect(document.whole.triangles).withContext(document.name).toBeLessThanOrEqual(20000);
    }
  });

  it('has the sizes of real things, once the unit is guessed', () => {
    const size = (name: string) => sizeOf(artBounds(documents.get(name)!)).map((v) => Number(v.toFixed(2)));
    expect(documents.get('Bollard')!.unit).toEqual({ name: 'cm', stated: false, confirmed: false });
    expect(size('Bollard')).toEqual([0.82, 0.64, 0.82]);
    expect(size('Quay wall straight')[0]).toBeCloseTo(4, 1);
    expect(size('Boat cradle')[0]).toBeCloseTo(2.4, 1);
    expect(size('Dinghy')[0]).toBeCloseTo(3.4, 1);
  });

  it('brings the faults that such files have', () => {
    expect(faults('Bollard')).toEqual(jasmine.arrayContaining(['unit-unconfirmed', 'pivot-outside']));
    expect(faults('Quay wall straight')).toEqual(jasmine.arrayContaining(['open-edges', 'doubled-faces']));
    expect(faults('Boat cradle')).toEqual(
      jasmine.arrayContaining(['node-scale', 'node-mirrored', 'left-out']),
    );
    expect(faults('Dinghy')).toEqual(jasmine.arrayContaining(['open-edges', 'pivot-outside']));
    expect(documents.get('Dinghy')!.nodes.length).toBe(1);
  });

  it('has no part inside out', () => {
    for (const name of ['Bollard', 'Boat cradle', 'Dinghy'])
      expect(documents.get(name)!.whole.flippedEdges).withContext(name).toBe(0);
    for (const name of ['Bollard', 'Boat cradle'])
      expect(documents.get(name)!.whole.insideOutParts).withContext(name).toBe(0);
  });

  it('is the same every time', async () => {
    expect(await samplePieces()).toEqual(await samplePieces());
  });
});
