import fc from 'fast-check';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { areaFaces, areaStands, areaWith, facesOfArea, runsOf } from './areas.js';
import { type Area, pieceDocumentSchema } from './document.js';
import { applyEdit } from './edits/index.js';
import { placedArt } from './geometry.js';

const { document, meshOf } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
const part = document.nodes[0]!.id;
const area = (faces: Area['faces'], id = 'a1'): Area => ({
  id,
  name: 'gunwale',
  faces,
  agent: 'gull',
  maxShapes: 8,
  maxVertices: 32,
  primitives: true,
  mayCross: true,
});
const box = {
  kind: 'box' as const,
  center: [0, 0, 0] as [number, number, number],
  halfExtents: [1, 1, 1] as [number, number, number],
  rotation: [0, 0, 0, 1] as [number, number, number, number],
};

describe('areas', () => {
  it('remember faces as runs, whatever they are', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 11 }), { minLength: 1 }), (faces) => {
        const runs = runsOf(faces);
        const again = runs.flatMap((first, i) =>
          i % 2 ? [] : Array.from({ length: runs[i + 1]! }, (_, k) => first + k),
        );
        expect(again).toEqual([...faces].sort((a, b) => a - b));
        const marks = facesOfArea(
          document,
          area(areaFaces(document, [{ part, faces }])),
          placedArt(document, meshOf),
        );
        expect([...marks.keys()].filter((f) => marks[f])).toEqual(again);
      }),
    );
  });

  it('are known again by their faces, and stand as long as their art does', () => {
    const faces = areaFaces(document, [{ part, faces: [0, 1, 2] }]);
    expect(areaWith(document, faces)).toEqual({ id: 'a1', known: null });
    const kept = { ...document, areas: [area(faces)] };
    expect(areaWith(kept, areaFaces(document, [{ part, faces: [2, 1, 0] }])).known).toEqual(area(faces));
    expect(areaWith(kept, areaFaces(document, [{ part, faces: [3] }])).id).toBe('a2');
    expect(areaStands(kept, area(faces))).toBeTrue();
    expect(areaStands(kept, area([{ ...faces[0]!, mesh: 'f'.repeat(64) }]))).toBeFalse();
    expect(areaFaces(document, [{ part: 'gone', faces: [1] }])).toEqual([]);
  });

  it('come with the shapes that were made for them, and are replaced with those alone', () => {
    const faces = areaFaces(document, [{ part, faces: [0, 1] }]);
    const drawn = applyEdit(document, {
      kind: 'put-proxies',
      changed: [{ id: 's1', shape: box }],
      removed: [],
    });
    const first = applyEdit(drawn, {
      kind: 'put-proxies',
      changed: [{ id: 'x', shape: box, area: 'a1' }],
      removed: [],
      area: area(faces),
    });
    expect([first.areas.length, first.proxies.length]).toEqual([1, 2]);
    const again = applyEdit(first, {
      kind: 'put-proxies',
      changed: [{ id: 'y', shape: box, area: 'a1' }],
      removed: ['x'],
      area: { ...area(faces), agent: null },
    });
    expect(again.areas).toEqual([{ ...area(faces), agent: null }]);
    expect(again.proxies.map(({ id }) => id)).toEqual(['s1', 'y']);
    expect(pieceDocumentSchema.parse(JSON.parse(JSON.stringify(again)))).toEqual(again);
    expect(applyEdit(again, { kind: 'set-areas', areas: [] }).areas).toEqual([]);
  });
});
