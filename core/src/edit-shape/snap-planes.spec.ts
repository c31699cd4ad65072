import { boxMesh } from '../testing/meshes.js';
import { caughtAt, planesOfArt, planesOfShapes } from './index.js';

const along = (planes: { along: number }[]) => planes.map((plane) => Number(plane.along.toFixed(9)));

describe('planes that catch what is dragged', () => {
  it('are the faces of shapes across the way, and only those', () => {
    const box = {
      kind: 'box' as const,
      center: [2, 0, 0] as [number, number, number],
      halfExtents: [0.5, 1, 1] as [number, number, number],
      rotation: [0, 0, 0, 1] as [number, number, number, number],
    };
    const half = Math.SQRT1_2;
    const turned = {
      ...box,
      rotation: [0, half / 2, 0, Math.sqrt(1 - half ** 2 / 4)] as typeof box.rotation,
    };
    const ball = { kind: 'sphere' as const, center: box.center, radius: 1 };
    const planes = planesOfShapes(
      [1, 0, 0],
      [
        { name: 'face of 1', shape: box },
        { name: 'face of 2', shape: turned },
        { name: 'face of 3', shape: ball },
      ],
    );
    expect(along(planes).sort()).toEqual([1.5, 2.5]);
    expect(planes.every(({ name }) => name === 'face of 1')).toBeTrue();
  });

  it('are the flat sides of art, wherever it stands', () => {
    const { positions, indices } = boxMesh([1, 2, 3], [0.5, 0, 0]);
    const planes = planesOfArt([1, 0, 0], { positions, indices, origin: [100, 0, 0] }, 'face of the art');
    expect(along(planes)).toEqual([99.5, 101.5]);
    expect(planesOfArt([1, 0, 0], { positions: [], indices: [], origin: [0, 0, 0] }, 'none')).toEqual([]);
    // Slanted to every side of it.
    const slanted = Math.sqrt(1 / 3);
    expect(
      planesOfArt([slanted, slanted, slanted], { positions, indices, origin: [0, 0, 0] }, 'none'),
    ).toEqual([]);
  });

  it('catch the nearest within reach, and what is there before the grid', () => {
    const planes = [
      { along: 1, name: 'face of 1' },
      { along: 1.02, name: 'face of 2' },
    ];
    expect(caughtAt(1.015, planes, { within: 0.05 })?.name).toBe('face of 2');
    expect(caughtAt(1.3, planes, { within: 0.05 })).toBeNull();
    expect(caughtAt(1.49, planes, { within: 0.05, grid: 0.5, gridName: 'grid 0.50 m' })).toEqual({
      along: 1.5,
      name: 'grid 0.50 m',
    });
    expect(caughtAt(0.99, planes, { within: 0.05, grid: 0.5 })?.name).toBe('face of 1');
  });
});
