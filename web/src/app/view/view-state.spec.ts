import { faceNeighbours, plainMesh, plainNode, takeIn, type Mesh } from '@yard-brace/core';
import type { ArtToDraw } from '../compute/messages';
import { snapOnFace } from './snap';
import { ViewState } from './view-state';

/** A strip of four quads along x, the last two folded up, in two materials. */
const points = [0, 1, 2, 3, 4].flatMap((i) => [0, 1].flatMap((j) => (i < 3 ? [i, 0, j] : [2, i - 2, j])));
const indices = [0, 1, 2, 3].flatMap((i) => [2 * i, 2 * i + 1, 2 * i + 2, 2 * i + 1, 2 * i + 3, 2 * i + 2]);
const mesh: Mesh = {
  ...plainMesh(points, indices),
  groups: [
    { material: 0, start: 0, count: 6 },
    { material: 1, start: 6, count: 2 },
  ],
};
const { document } = takeIn(
  {
    unit: { metres: 1, stated: true },
    nodes: [plainNode('Strip', 0)],
    meshes: [{ name: 'Strip', mesh }],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  },
  {
    files: [{ name: 'strip.obj', blob: 'a'.repeat(64), bytes: 1 }],
    meshName: (name) => name,
    target: 'prefix-tags',
  },
);
const art: ArtToDraw = {
  origin: [10, 0, 0],
  positions: Float32Array.from(points),
  indices: Uint32Array.from(indices),
  groups: mesh.groups,
  ink: new Float32Array(),
  part: new Uint32Array(8),
  face: Uint32Array.from({ length: 8 }, (_, i) => i),
  neighbours: Int32Array.from(faceNeighbours(mesh)),
};

describe('ViewState', () => {
  let view: ViewState;
  const chosen = () => [...(view.chosen$.value?.faces ?? [])].join('');
  beforeEach(() => {
    view = new ViewState();
    view.newArt({ art, document });
  });

  it('chooses by face, shell, flat region and material', () => {
    const by = (chooseBy: Parameters<typeof view.set>[0]['chooseBy'], face = 0) => {
      view.set({ chooseBy });
      view.choose(view.facesFrom(face)!, 'only');
      return chosen();
    };
    expect([by('face', 3), by('shell'), by('flat'), by('material', 7)]).toEqual([
      '00010000',
      '11111111',
      '11110000',
      '00000011',
    ]);
  });

  it('adds, takes away, grows, shrinks, inverts and lets go', () => {
    view.choose(view.facesFrom(0)!, 'only');
    view.choose(view.facesFrom(5)!, 'add');
    expect(chosen()).toBe('10000100');
    view.choose(view.facesFrom(0)!, 'take');
    expect(chosen()).toBe('00000100');
    view.change('grow');
    expect(chosen()).toBe('00001110');
    view.change('shrink');
    expect(chosen()).toBe('00000100');
    view.change('invert');
    expect(chosen()).toBe('11111011');
    view.clearChosen();
    expect(view.chosen$.value).toBeNull();
  });

  it('says what a selection measures, and names its faces as operations take them', () => {
    view.set({ chooseBy: 'flat' });
    view.choose(view.facesFrom(0)!, 'only');
    const { count, area, min, max } = view.chosen$.value!;
    expect([count, area, min, max]).toEqual([4, 2, [10, 0, 0], [12, 0, 1]]);
    expect(view.chosenByPart()).toEqual([{ part: 'n1', faces: Uint32Array.of(0, 1, 2, 3) }]);
  });

  it('asks for one thing at a time and forgets an answer that nobody waits for', async () => {
    const first = view.ask('Point at this.');
    const second = view.ask('Point at that.');
    expect(await first).toBeNull();
    expect(view.asked$.value).toBe('Point at that.');
    const picked = {
      kind: 'vertex' as const,
      at: [1, 2, 3] as [number, number, number],
      normal: [0, 1, 0] as [number, number, number],
      edge: [
        [0, 0, 0],
        [1, 0, 0],
      ] as [[number, number, number], [number, number, number]],
      part: 'n1',
    };
    view.pick(picked);
    expect(await second).toBe(picked);
    view.newPiece();
    expect(view.settings.choosing).toBeFalse();
  });

  it('catches the nearest vertex, then the middle of an edge, then the face', () => {
    const onScreen = (p: readonly number[]): [number, number] => [(p[0]! - 10) * 100, p[2]! * 100];
    const at = (x: number, y: number) => snapOnFace(art, 0, [10 + x / 100, 0, y / 100], [x, y], onScreen);
    expect([at(4, 3).kind, at(3, 52).kind, at(30, 30).kind, at(2, 25).kind]).toEqual([
      'vertex',
      'edge middle',
      'face centre',
      'edge',
    ]);
    expect(at(4, 3).at).toEqual([10, 0, 0]);
    expect(at(60, 20).kind).toBe('face');
    expect(at(60, 20).normal.map(Math.abs)).toEqual([0, 1, 0]);
  });
});
