import {
  artBounds,
  artMesh,
  applyEdit,
  checkRulesOf,
  compareNewArt,
  composeMatrix,
  meshReader,
  type Finding,
  findingsOf,
  likelierUp,
  type Intake,
  memoryFile,
  meshNameFrom,
  operate,
  pieceDocumentSchema,
  piecesIn,
  PREFIX_TAGS,
  type Quat,
  readFile,
  setApart,
  sizeOf,
  takeIn,
  transformMesh,
} from '@yard-brace/core';
import { changedPieces, type SamplePiece, samplePieces } from './sample-yard.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

async function takenIn({ name, files }: SamplePiece): Promise<Intake> {
  const [main, ...beside] = files.map((file) => memoryFile(file.name, file.bytes));
  const { scene, proxies, aside } = setApart(await readFile(main!, beside));
  return takeIn(scene, {
    files: [{ name: main!.name, blob: '0'.repeat(64), bytes: main!.size }],
    name,
    meshName: meshNameFrom,
    proxies,
    aside,
  });
}

/** What each piece was given as faults, and what intake must say of it. */
const FAULTS: Record<string, string[]> = {
  Bollard: ['unit-unconfirmed', 'pivot-outside', 'hidden-faces', 'constant-materials'],
  'Quay wall straight': ['open-edges', 'doubled-faces', 'part-names-illegal'],
  'Quay wall corner': ['node-mirrored', 'node-rotation', 'doubled-names', 'part-names-illegal'],
  Copings: ['several-pieces', 'part-names-illegal'],
  'Quay stair': ['open-edges', 'no-uvs', 'source-note-0', 'part-names-illegal'],
  'Net loft wall': ['inside-out', 'source-note-0', 'unit-unconfirmed'],
  'Sluice gate': ['came-proxies', 'set-aside', 'source-note-0'],
  'Oyster tray': ['unit-unconfirmed', 'inside-out', 'specks', 'no-uvs'],
  Gangway: ['sheared', 'node-scale', 'node-rotation'],
  'Slip winch': ['doubled-faces', 'hidden-faces', 'zero-area'],
  'Boat cradle': ['node-scale', 'node-mirrored', 'left-out'],
  'Rope coil': ['no-uvs', 'unused-vertices', 'unit-unconfirmed'],
  'Channel buoy': ['size-implausible'],
  'Slip trolley': ['doubled-names', 'node-mirrored', 'node-scale'],
  'Launch channel': ['open-edges', 'unit-unconfirmed'],
  Dinghy: ['open-edges', 'pivot-outside'],
};

describe('the sample yard', () => {
  const pieces = new Map<string, Intake>();
  beforeAll(async () => {
    for (const piece of await samplePieces()) pieces.set(piece.name, await takenIn(piece));
  });
  const document = (name: string) => pieces.get(name)!.document;
  const found = (name: string): Finding[] => findingsOf(document(name), checkRulesOf(PREFIX_TAGS));

  it('has believable pieces that pass the schema', () => {
    expect([...pieces.keys()]).toEqual(Object.keys(FAULTS));
    for (const { document: each } of pieces.values()) {
      expect(pieceDocumentSchema.safeParse(each).success).withContext(each.name).toBeTrue();
      expect(each.whole.triangles).withContext(each.name).toBeGreaterThanOrEqual(1000);
      expect(each.whole.triangles).withContext(each.name).toBeLessThanOrEqual(25000);
    }
  });

  it('has the sizes of real things, once the unit is right', () => {
    const size = (name: string) => sizeOf(artBounds(document(name))).map((v) => Number(v.toFixed(1)));
    expect(document('Bollard').unit).toEqual({ name: 'cm', stated: false, confirmed: false });
    expect([
      size('Bollard'),
      size('Quay wall straight')[0],
      size('Boat cradle')[0],
      size('Dinghy')[0],
    ]).toEqual([[0.8, 0.6, 0.8], 4, 2.4, 3.4]);
    expect([document('Quay stair').unit.name, size('Quay stair')[1]]).toEqual(['cm', 2.7]);
    expect([document('Oyster tray').unit.name, size('Gangway')[2], size('Net loft wall')]).toEqual([
      'cm',
      6.2,
      [6, 5.1, 0.4],
    ]);
    const buoy = applyEdit(document('Channel buoy'), { kind: 'set-unit', unit: 'cm' });
    expect(sizeOf(artBounds(buoy))[1]).toBeCloseTo(2.8, 1);
  });

  for (const [name, ids] of Object.entries(FAULTS))
    it(`${name}: every fault it was given is found`, () => {
      const all = found(name).map(({ id }) => id);
      for (const id of ids) expect(all).withContext(all.join()).toContain(id);
    });

  it('comes apart into the copings it holds', () => {
    expect(piecesIn(document('Copings')).length).toBe(2);
    for (const name of pieces.keys())
      if (name !== 'Copings')
        expect(piecesIn(document(name)).length)
          .withContext(name)
          .toBe(1);
  });

  it('can be mended: what a finding offers takes the fault away', async () => {
    const mended: Record<string, [string, string, boolean][]> = {};
    for (const [name, { document: start, blobs }] of pieces) {
      mended[name] = [];
      for (const { id, mend, fix } of found(name)) {
        if (!mend && !fix) continue;
        const meshes = new Map(blobs);
        let after = start;
        if (fix) after = applyEdit(start, fix.edit);
        else {
          const { edit, blobs: made } = await operate(start, mend!.operation, meshReader(meshes));
          for (const [blob, bytes] of made) meshes.set(blob, bytes);
          after = applyEdit(start, edit);
        }
        const still = findingsOf(after, checkRulesOf(PREFIX_TAGS)).find((finding) => finding.id === id);
        mended[name].push([id, mend?.label ?? fix!.label, still === undefined]);
      }
    }
    const left = Object.entries(mended).flatMap(([name, list]) =>
      list.flatMap(([id, , gone]) => (gone ? [] : [`${name}: ${id}`])),
    );
    expect(left).toEqual([]);
  });

  it('gets new art for three of its pieces, with a report of what changed', async () => {
    const reports: Record<string, string> = {};
    for (const piece of await changedPieces()) {
      const fresh = await takenIn(piece);
      const old = pieces.get(piece.name)!;
      const meshOf = meshReader(new Map([...old.blobs, ...fresh.blobs]));
      const report = compareNewArt(old.document, fresh.document, meshOf);
      reports[piece.name] = report.parts.map(({ name, became }) => `${name} ${became}`).join(', ');
      expect(applyEdit(old.document, report.edit).pivot).toEqual(old.document.pivot);
    }
    expect(reports).toEqual({
      Bollard: 'bollard_low changed',
      'Sluice gate': 'Frame same, Leaf changed, Handwheel same, Stem same, SluiceGate_LOD0 same',
      'Boat cradle': 'base same, side same, chocks new, side.001 gone',
    });
  });

  it('stands up as it is, and what is laid on its back is told to stand up again', () => {
    const quarter: Quat = [Math.SQRT1_2, 0, 0, Math.SQRT1_2];
    const stoodUp: string[] = [];
    for (const [name, { document, blobs }] of pieces) {
      const mesh = artMesh(document, meshReader(blobs));
      expect(likelierUp(mesh).likelier).withContext(name).toBeNull();
      const laid = composeMatrix({ translation: [0, 0, 0], rotation: quarter, scale: [1, 1, 1] });
      const { likelier } = likelierUp(transformMesh(mesh, laid));
      if (!likelier) continue;
      // Up was Y and is Z now. A trolley stands on little of its wheels, and would lie on much of its deck.
      expect(likelier.up)
        .withContext(name)
        .toEqual([0, 0, name === 'Slip trolley' ? -1 : 1]);
      stoodUp.push(name);
    }
    expect(stoodUp).toEqual([
      'Bollard',
      'Quay stair',
      'Sluice gate',
      'Gangway',
      'Slip winch',
      'Boat cradle',
      'Slip trolley',
    ]);
  });

  it('is the same every time', async () => {
    expect(await samplePieces()).toEqual(await samplePieces());
  });
});
