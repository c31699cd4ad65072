import { FIRST_AGENTS, placeMatrix, quatAbout } from '@yard-brace/core';
import { boxRound, canvasOnPage, crateArt } from '../../../testing/crate';
import { NO_MARKS } from '../../../viewport/layers/marks-layer';
import { alike, BenchScene } from './bench-scene';

const MIDDLE = [200, 150] as const;
const SHOWN = { hidden: new Set<string>(), alone: null };

const LOOK = { lit: null, chosen: new Set<string>(), hidden: new Set<string>(), locked: new Set<string>() };

describe('BenchScene', () => {
  let canvas: HTMLCanvasElement;
  let scene: BenchScene;
  const tags = () => scene.proxies.places().map(({ id }) => id);
  const artAt = () => {
    const hit = scene.pick(MIDDLE);
    return hit && 'art' in hit ? hit.art : null;
  };
  beforeEach(() => {
    canvas = canvasOnPage();
    scene = new BenchScene(canvas, 4);
    scene.viewport.resize(400, 300);
    scene.setArt(crateArt(), 1);
  });
  afterEach(() => {
    scene.dispose();
    canvas.remove();
  });

  it('fits the piece and picks it where it is, exactly even far from the origin', () => {
    const [x, y, z] = artAt()!.at;
    expect(Math.max(Math.abs(x - 10000), Math.abs(y - 1), Math.abs(z))).toBeCloseTo(1, 3);
    expect(scene.pick([2, 2])).toBeNull();
  });

  it('picks shapes before the art, and neither when the veil hides it', () => {
    scene.proxies.set([{ id: 'a', number: 1, shape: boxRound([10000, 1, 0], 1.2) }]);
    expect([scene.pick(MIDDLE), tags()]).toEqual([{ shape: 'a' }, ['a']]);
    scene.setLook({ ...LOOK, veil: 0 });
    expect([artAt() !== null, tags()]).toEqual([true, []]);
    scene.proxies.set([]);
    scene.setLook({ ...LOOK, veil: 1 });
    expect(scene.pick(MIDDLE)).toBeNull();
    // Faces can be asked for however faint the veil has made them.
    expect(scene.face(MIDDLE)).not.toBeNull();
  });

  it('looks straight from a side without perspective, and fits', () => {
    scene.viewport.rig.lookFrom('front');
    scene.viewport.fit();
    expect(artAt()!.at[2]).toBeCloseTo(1, 5);
    expect(scene.viewport.rig.sight.direction!.map((v) => Math.round(v) + 0)).toEqual([0, 0, -1]);
    scene.viewport.rig.lookFrom('free');
    expect(scene.viewport.rig.sight.direction).toBeNull();
  });

  it('fits shapes that stand beyond the art as well, but not those that are not drawn', () => {
    const seen = () => {
      const [x, y] = scene.viewport.onScreen([10032, 1, 0]);
      return x > 0 && x < 400 && y > 0 && y < 300;
    };
    scene.viewport.rig.lookFrom('front');
    scene.proxies.set([
      { id: 'near', number: 1, shape: boxRound([10000, 1, 0], 1) },
      { id: 'far', number: 2, shape: boxRound([10030, 1, 0], 2) },
    ]);
    scene.setLook({ ...LOOK, veil: 0.5, hidden: new Set(['far']) });
    scene.fit();
    expect(seen()).toBeFalse();
    scene.setLook({ ...LOOK, veil: 0.5 });
    scene.fit();
    expect(seen()).toBeTrue();
    // A piece that is opened is looked at by itself.
    scene.setArt(crateArt(), 2);
    expect(seen()).toBeFalse();
  });

  it('picks through what is cut away, hidden or swung aside, and catches nothing there either', () => {
    scene.viewport.rig.lookFrom('front');
    scene.viewport.fit();
    scene.setCut({ axis: 2, at: 0.5, flipped: false });
    expect(artAt()!.at[2]).toBeCloseTo(-1, 5);
    scene.setCut(null);
    expect(artAt()!.at[2]).toBeCloseTo(1, 5);
    const [id] = crateArt().document.nodes.map((node) => node.id);
    scene.art.showParts({ ...SHOWN, hidden: new Set([id!]) }, null);
    expect([scene.pick(MIDDLE), scene.snap(MIDDLE)]).toEqual([null, null]);
    scene.art.showParts({ ...SHOWN, alone: new Set(['another']) }, null);
    expect(scene.pick(MIDDLE)).toBeNull();
    // Turned aside about a point far to the right, nothing is left in the middle.
    const turn = quatAbout([0, 1, 0], Math.PI / 2);
    const matrix = placeMatrix({ by: [0, 0, 0], turn, about: [10010, 1, 0] });
    scene.art.showParts(SHOWN, { part: () => true, matrix });
    expect(scene.pick(MIDDLE)).toBeNull();
    scene.art.showParts(SHOWN, null);
    expect(artAt()).not.toBeNull();
  });

  it('catches vertices, edge middles and faces, and finds the faces in an area', () => {
    scene.viewport.rig.lookFrom('front');
    scene.viewport.fit();
    const corner = scene.viewport.onScreen([9999, 2, 1]);
    expect(scene.snap([corner[0] + 3, corner[1] + 3])).toEqual(
      jasmine.objectContaining({ kind: 'vertex', at: [9999, 2, 1], part: 0 }),
    );
    const count = (...area: [number, number][]) =>
      scene.facesIn(area)!.faces.reduce((sum, mark) => sum + mark, 0);
    expect(count([0, 0], [400, 0], [400, 300], [0, 300])).toBe(12);
    expect(count([0, 0], [3, 0], [3, 3], [0, 3])).toBe(0);
  });

  it('another piece is brought into view; the same one goes on being looked at in the same way', () => {
    const eye = () => scene.viewport.rig.sight.eye.map((v) => Math.round(v * 1e3) / 1e3);
    const before = eye();
    scene.setArt(crateArt(), 1);
    expect(eye()).toEqual(before);
    // Moved by a hundred metres: the eye goes along, and looks at it from the same side.
    scene.setArt(crateArt([10100, 1, 0]), 1);
    expect(eye()).toEqual([before[0]! + 100, before[1]!, before[2]!]);
    expect(artAt()!.at[0]).toBeGreaterThan(10098);
    scene.viewport.rig.lookFrom('top');
    scene.setArt(crateArt([0, 0, 0]), 2);
    expect(artAt()!.at[1]).toBeCloseTo(1, 4);
  });

  it('bounds count as alike until they grow or move so far that the view would be wrong', () => {
    const box = (half: number, x = 0) => ({
      min: [x - half, -half, -half] as [number, number, number],
      max: [x + half, half, half] as [number, number, number],
    });
    expect([
      alike(box(1), box(1.2)),
      alike(box(1), box(1.5)),
      alike(box(1), box(0.6)),
      alike(box(1), box(1, 1)),
      alike(box(1), box(1, 3)),
    ]).toEqual([true, false, false, true, false]);
  });

  it('references stand beside the piece on its ground, and are brought into view with it', () => {
    scene.setReferences([{ kind: 'door' }, { kind: 'cube' }, { kind: 'agent', agent: FIRST_AGENTS[0]! }], {
      fit: true,
    });
    const { min, max } = scene.viewport.bounds();
    expect(min[0]).toBe(9999);
    expect(min[1]).toBeCloseTo(0, 6);
    expect(max[0]).toBeGreaterThan(10001 + 0.9 + 1);
    const edge = scene.viewport.onScreen(max);
    expect(edge[0]).toBeLessThan(400);
    scene.setReferences([], { fit: false });
    expect(scene.viewport.bounds().max[0]).toBe(10001);
  });

  it('other pieces share the buffers of the art that stands many times', () => {
    scene.setNeighbours([crateArt([10010, 1, 0]), crateArt([10020, 1, 0])]);
    // They are looked at, never picked.
    expect(scene.pick(scene.viewport.onScreen([10010, 1, 0]) as [number, number])).toBeNull();
    scene.setNeighbours([]);
    expect(artAt()).not.toBeNull();
  });

  it('marks say their words at their places, a cut has corners to hold', () => {
    scene.setMarks({ ...NO_MARKS, labels: [{ text: '2.00 m', at: [10000, 0, 1] }] });
    expect(scene.marks.places()).toEqual([{ id: '0', at: [10000, 0, 1] }]);
    scene.setCut({ axis: 0, at: 0.25, flipped: false });
    expect(scene.cut.places().map(({ at }) => at[0])).toEqual([9999.5, 9999.5, 9999.5, 9999.5]);
    const moves: number[] = [];
    const tool = scene.cutTool(0, (share) => moves.push(share));
    const [from, to] = [scene.viewport.onScreen([10000, 1, 0]), scene.viewport.onScreen([10002, 1, 0])];
    const pointer = (at: readonly [number, number]) => ({
      at,
      pressed: true,
      still: false,
      shift: false,
      alt: false,
    });
    tool.down(pointer(from));
    tool.move(pointer(to));
    expect(moves[0]).toBeCloseTo(1, 1);
  });

  it('a probe finds only places that are seen', () => {
    scene.viewport.rig.lookFrom('front');
    scene.viewport.fit();
    const places = scene.placesOf(() => true);
    expect(places.length).toBe(2);
    for (const place of places) expect(scene.face(place)!.at[2]).toBeCloseTo(1, 4);
    expect(scene.placesOf(() => false)).toEqual([]);
  });
});
