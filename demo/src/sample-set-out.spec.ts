import {
  artMesh,
  checkSet,
  FIRST_AGENTS,
  faultWords,
  type Mesh,
  meshReader,
  type PieceDocument,
  placementNames,
  setOutSchema,
  shiftFor,
  shiftedBy,
  sourceKey,
} from '@yard-brace/core';
import { sampleSetOut } from './sample-set-out.js';
import { takenPieces } from './taken-pieces.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

describe('the set-out of the sample yard', () => {
  const documents = new Map<string, PieceDocument>();
  const arts = new Map<string, Mesh>();
  const numbers = new Map<string, number>();

  beforeAll(async () => {
    for await (const { document, blobs } of takenPieces()) {
      const number = numbers.size + 1;
      numbers.set(document.name, number);
      documents.set(`${number}`, document);
      arts.set(`${number}`, artMesh(document, meshReader(blobs)));
    }
  });

  const laidOut = () => sampleSetOut((name) => numbers.get(name)!);
  const check = (setOut = laidOut()) =>
    checkSet({ setOut, documents, artOf: (source) => arts.get(source)!, agents: FIRST_AGENTS });

  it('names pieces that are there, and can be opened again', () => {
    const setOut = laidOut();
    expect(setOutSchema.parse(JSON.parse(JSON.stringify(setOut)))).toEqual(setOut);
    expect(setOut.placements.every((each) => documents.has(sourceKey(each)))).toBeTrue();
  });

  it('has two faults to be found: a gap of 12 mm, and a mirrored corner without shapes', () => {
    const { faults, meeting } = check();
    const stops = faults.filter(({ kind }) => kind !== 'no-shapes');
    expect(stops.map(({ kind }) => kind)).toEqual(['mirror-forgotten', 'seam']);
    expect(meeting).toBe(1);
    const names = placementNames(laidOut(), (each) => documents.get(sourceKey(each))!.name);
    const says = stops.map((fault) => faultWords(fault, (id) => names.get(id)!).says);
    expect(says[0]).toContain('Quay wall corner left has no shapes');
    expect(says[1]).toContain('Quay wall straight 2 and Quay wall straight 3 leave a gap of 12.0 mm');
  });

  it('has no gap any more when the wall is moved by what is told', () => {
    const setOut = laidOut();
    const shift = shiftFor(check().faults.find(({ kind }) => kind === 'seam')!)!;
    const placements = setOut.placements.map((each) =>
      each.id === shift.placement ? shiftedBy([each], shift.by)[0]! : each,
    );
    const { faults, meeting } = check({ ...setOut, placements });
    expect(faults.some(({ kind }) => kind === 'seam')).toBeFalse();
    expect(meeting).toBe(2);
  });
});
