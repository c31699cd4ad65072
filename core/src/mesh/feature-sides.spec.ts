import { boxMesh } from '../testing/meshes.js';
import { tube } from '../testing/solids.js';
import { featureSides, materialOfFaces } from './feature-sides.js';
import { joinMeshes } from './join-meshes.js';
import { plainMesh } from './mesh.js';
import { facesWhere } from './take-faces.js';
import { projectedUvs } from './uv.js';

const degrees = (angle: number) => ({ angleRadians: (angle * Math.PI) / 180 });

describe('edges that a person would call so', () => {
  it('are the twelve of a box by their angle, each once, and none across its flat sides', () => {
    const box = boxMesh([1, 2, 3]);
    expect(featureSides(box, degrees(30)).length).toBe(12);
    expect(featureSides(box, degrees(90)).length).toBe(0);
    expect(featureSides(box, degrees(89.9)).length).toBe(12);
    expect(featureSides(box, {})).toEqual([]);
  });

  it('are the rims of a round bar and not its sides, at the angle between those', () => {
    const bar = tube(
      [
        [0, 0, 0],
        [0, 0, 4],
      ],
      1,
      16,
    );
    // Sixteen sides meet at 22.5 degrees.
    expect(featureSides(bar, degrees(30)).length).toBe(32);
    expect(featureSides(bar, degrees(20)).length).toBe(48);
  });

  it('are where materials meet, where UVs do not, and at open borders', () => {
    const box = boxMesh([1, 1, 1]);
    const two = {
      ...box,
      groups: [
        { material: 0, start: 0, count: 2 },
        { material: 1, start: 2, count: 10 },
      ],
    };
    expect([...materialOfFaces(two)]).toEqual([0, 0, ...Array(10).fill(1)]);
    expect(featureSides(two, { materials: true }).length).toBe(4);
    expect(featureSides(box, { materials: true })).toEqual([]);
    // Laid on from each side, UVs go on over no edge of the box but through its flat sides.
    const laid = projectedUvs(box, 1);
    const torn = featureSides(laid, { uvs: true });
    expect(torn.length).toBeGreaterThan(0);
    expect(torn.every((side) => featureSides(laid, degrees(30)).includes(side))).toBeTrue();
    const open = facesWhere(
      box,
      Uint8Array.from({ length: 12 }, (_, f) => (f < 2 ? 0 : 1)),
    );
    expect(featureSides(open, { borders: true }).length).toBe(4);
    expect(featureSides(box, { borders: true })).toEqual([]);
  });

  it('are told once where kinds agree, in order', () => {
    const one = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]);
    expect(featureSides(one, { borders: true, materials: true, ...degrees(1) })).toEqual([0, 1, 2]);
    const both = featureSides(joinMeshes([boxMesh([1, 1, 1]), one]), { borders: true, ...degrees(30) });
    expect(both).toEqual([...both].sort((a, b) => a - b));
    expect(both.length).toBe(12 + 3);
  });
});
