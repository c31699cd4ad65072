import { FIRST_AGENTS, type Pivot, placeMatrix, quatAbout, type Shape, type Vec3 } from '@yard-brace/core';
import { type LineSegments, Mesh, type Object3D, Raycaster, Vector3 } from 'three';
import { boxRound, crateArt } from '../../testing/crate';
import { heldGeometries } from '../../drawing/art-geometry';
import { ArtLayer } from './art-layer';
import { CutLayer, outlineCorners } from './cut-layer';
import { LensesLayer } from './lenses-layer';
import { HandlesLayer } from './handles-layer';
import { MarksLayer, NO_MARKS } from './marks-layer';
import { NeighboursLayer } from './neighbours-layer';
import { OverlayLayer } from './overlay-layer';
import { PivotLayer } from './pivot-layer';
import { ProxiesLayer } from './proxies-layer';
import { ReferencesLayer } from './references-layer';
import { TrialLayer } from './trial-layer';

const ALL = { hidden: new Set<string>(), alone: null };
const drawnIn = (object: Object3D): Object3D[] => {
  const found: Object3D[] = [];
  object.traverseVisible((each) => {
    if (each instanceof Mesh || (each as LineSegments).isLine) found.push(each);
  });
  return found;
};
/** Straight down from ten metres above a place. */
const down = (x: number, z = 0) => new Raycaster(new Vector3(x, 10, z), new Vector3(0, -1, 0));

/** Where the first tag of a layer stands, seen from above. */
const atOf = (layer: ProxiesLayer): [number, number] => {
  const [x, , z] = layer.places()[0]!.at;
  return [x, z];
};

describe('layers', () => {
  let changes = 0;
  const changed = () => void changes++;
  beforeEach(() => (changes = 0));

  it('art: bounds, faces under a ray, what is hidden is not there, and nothing is left when it goes', () => {
    const layer = new ArtLayer(changed);
    layer.set(crateArt([5, 1, 0]));
    expect(layer.bounds()).toEqual({ min: [4, 0, -1], max: [6, 2, 1] });
    expect(layer.pick(down(5.5))).toEqual(
      jasmine.objectContaining({ part: 0, material: -1, at: [5.5, 2, 0] }),
    );
    expect(layer.pick(down(9))).toBeNull();
    layer.fade(0);
    expect([layer.pick(down(5)), layer.pickFace(down(5))!.part]).toEqual([null, 0]);
    layer.fade(1);
    const id = crateArt().document.nodes[0]!.id;
    layer.showParts({ ...ALL, hidden: new Set([id]) }, null);
    expect(layer.pickFace(down(5))).toBeNull();
    layer.showParts({ ...ALL, alone: new Set([id]) }, null);
    expect(layer.pickFace(down(5))).not.toBeNull();
    layer.set(null);
    expect([layer.bounds(), layer.pick(down(5)), drawnIn(layer.object).length]).toEqual([null, null, 0]);
    expect(changes).toBeGreaterThan(0);
  });

  it('art: a rough surface stands for what is drawn as it is, and is never picked', () => {
    const layer = new ArtLayer(changed);
    const crate = crateArt([0, 1, 0], 'rough');
    const rough = { indices: crate.art.indices.slice(0, 3), groups: [{ material: -1, start: 0, count: 1 }] };
    layer.set({ ...crate, art: { ...crate.art, rough } });
    const triangles = () => (drawnIn(layer.object)[0] as Mesh).geometry.index!.count / 3;
    expect(triangles()).toBe(12);
    layer.roughen(true);
    expect([triangles(), layer.pick(down(0.5))!.at]).toEqual([1, [0.5, 2, 0]]);
    layer.roughen(false);
    expect(triangles()).toBe(12);
    // What is partly hidden has no such surface.
    layer.showParts({ ...ALL, hidden: new Set([crate.document.nodes[0]!.id]) }, null);
    layer.roughen(true);
    expect(triangles()).toBe(0);
    layer.dispose();
    expect(heldGeometries()).toBe(0);
  });

  it('art keeps its cut and its veil when other art comes', () => {
    const layer = new ArtLayer(changed);
    layer.set(crateArt([0, 1, 0]));
    layer.cut(new CutLayer(changed).set({ axis: 1, at: 0.5, flipped: false }, layer.bounds()));
    const cutAt = layer.pick(down(0.5))!.at[1];
    layer.set(crateArt([0, 1, 0]));
    expect(layer.pick(down(0.5))!.at[1]).toBe(cutAt);
    layer.cut(null);
    expect(layer.pick(down(0.5))!.at[1]).toBe(2);
  });

  it('art is painted only by figures of its own vertices', () => {
    const layer = new ArtLayer(changed);
    layer.set(crateArt());
    const vertices = (count: number) => ({
      vertices: new Float32Array(count),
      scale: 0.04,
    });
    expect([layer.paint(vertices(8)), layer.paint(vertices(9)), layer.paint(null)]).toEqual([
      true,
      false,
      false,
    ]);
  });

  it('proxies: what is hidden or locked is passed by, and shapes move with their part', () => {
    const layer = new ProxiesLayer(changed);
    layer.set([{ id: 'a', number: 1, shape: boxRound([0, 0, 0], 1) }]);
    const look = {
      strength: 1,
      lit: null,
      chosen: new Set<string>(),
      hidden: new Set<string>(),
      locked: new Set<string>(),
      outlined: false,
    };
    expect(layer.pick(down(0.5))).toBe('a');
    layer.show({ ...look, locked: new Set(['a']) });
    expect([layer.pick(down(0.5)), layer.places().length, layer.middles().length]).toEqual([null, 1, 0]);
    layer.show({ ...look, hidden: new Set(['a']) });
    expect([layer.pick(down(0.5)), layer.places().length]).toEqual([null, 0]);
    layer.show(look);
    const turn = quatAbout([0, 1, 0], Math.PI / 2);
    layer.move({ ids: new Set(['a']), matrix: placeMatrix({ by: [0, 0, 0], turn, about: [10, 0, 0] }) });
    expect(layer.pick(down(0.5))).toBeNull();
    // Its tag goes along.
    expect(layer.pick(down(...atOf(layer)))).toBe('a');
    layer.move(null);
    expect([layer.pick(down(0.5)), atOf(layer)]).toEqual(['a', [0, 0]]);
  });

  it('proxies: what is dragged is drawn as it is then, and as it was when that is over', () => {
    const layer = new ProxiesLayer(changed);
    layer.set([
      { id: 'low', number: 1, shape: boxRound([0, 0, 0], 1) },
      { id: 'high', number: 2, shape: boxRound([0.5, 3, 0], 1) },
    ]);
    const drawn = () => drawnIn(layer.object).map((each) => (each as Mesh).geometry.getAttribute('position'));
    const before = drawn();
    layer.preview(new Map([['high', boxRound([9, 3, 0], 1)]]));
    expect([layer.pick(down(0.8)), layer.pick(down(9))]).toEqual(['low', 'high']);
    // What is dragged is written over where it was; one of another kind has other vertices.
    expect(drawn()).toEqual(before);
    const ball: Shape = { kind: 'sphere', center: [9, 3, 0], radius: 1 };
    layer.preview(new Map([['high', ball]]));
    expect([layer.pick(down(0.8)), layer.pick(down(9.9)), layer.pick(down(9.9, 0.9))]).toEqual([
      'low',
      'high',
      null,
    ]);
    expect(drawn()[0]!.count).not.toBe(before[0]!.count);
    layer.preview(null);
    expect([layer.pick(down(0.8)), layer.pick(down(9))]).toEqual(['high', null]);
    layer.dispose();
  });

  it('proxies: hundreds of them are drawn in two calls, each in its own look', () => {
    const layer = new ProxiesLayer(changed);
    const ids = Array.from({ length: 500 }, (_, i) => `shape${i}`);
    layer.set(ids.map((id, i) => ({ id, number: i + 1, shape: boxRound([i * 3, 0, 1e6], 1) })));
    expect(drawnIn(layer.object).length).toBe(2);
    // A million metres away, each still stands where it is.
    expect([1, 1.4, 499 * 3 + 0.9].map((x) => layer.pick(down(x, 1e6)))).toEqual([
      'shape0',
      null,
      'shape499',
    ]);
    const opacities = () => {
      const color = (layer.object.children[0] as Mesh).geometry.getAttribute('color');
      return [0, color.count / 2, color.count - 1].map((v) => +color.getW(v).toFixed(2));
    };
    const look = { strength: 1, hidden: new Set<string>(), locked: new Set<string>(), outlined: false };
    layer.show({ ...look, lit: 'shape250', chosen: new Set(['shape499']) });
    expect(opacities()).toEqual([0.12, 0.55, 0.34]);
    layer.show({ ...look, lit: null, chosen: new Set(), hidden: new Set(ids.slice(1)) });
    expect((layer.object.children[0] as Mesh).geometry.index!.count).toBe(36);
    layer.show({ ...look, lit: null, chosen: new Set(), hidden: new Set(ids) });
    expect(drawnIn(layer.object)).toEqual([]);
  });

  it('tabs stand off their faces by as many pixels, however near one looks', () => {
    const layer = new HandlesLayer(changed);
    const towardsEye = (): Vec3 => [0, 0, 5];
    layer.set([{ id: '+y', at: [5, 2, 0], normal: [0, 1, 0], moves: 'face' }]);
    layer.beforeFrame({ metresPerPixel: () => 0.01, towardsEye });
    expect(layer.places()).toEqual([{ id: '+y', at: [5, 2.2, 0] }]);
    layer.beforeFrame({ metresPerPixel: () => 0.001, towardsEye });
    expect(layer.places()[0]!.at[1]).toBeCloseTo(2.02, 12);
    expect(layer.object.visible).toBeTrue();
    // Of a hull with many sides only those that look here.
    layer.set(
      Array.from({ length: 12 }, (_, i) => {
        const normal: Vec3 = [Math.cos(i / 2), 0, Math.sin(i / 2)];
        return { id: `face${i}`, at: normal, normal, moves: 'face' as const };
      }),
    );
    layer.beforeFrame({ metresPerPixel: () => 0.01, towardsEye });
    expect(layer.places().map(({ id }) => id)).toEqual([1, 2, 3, 4, 5, 6].map((i) => `face${i}`));
    layer.set([]);
    layer.beforeFrame({ metresPerPixel: () => 0.01, towardsEye });
    expect([layer.places(), layer.object.visible]).toEqual([[], false]);
    layer.dispose();
  });

  it('proxies: the nearest shape under a ray, tags, nothing when the veil has hidden them', () => {
    const layer = new ProxiesLayer(changed);
    layer.set([
      { id: 'low', number: 1, shape: boxRound([0, 0, 0], 1) },
      { id: 'high', number: 2, shape: boxRound([0.5, 3, 0], 1) },
    ]);
    expect([layer.pick(down(-0.8)), layer.pick(down(0.8)), layer.pick(down(4))]).toEqual([
      'low',
      'high',
      null,
    ]);
    expect(layer.places().map(({ id }) => id)).toEqual(['low', 'high']);
    layer.show({
      strength: 0,
      lit: null,
      chosen: new Set(),
      hidden: new Set(),
      locked: new Set(),
      outlined: false,
    });
    expect([layer.pick(down(0)), layer.places()]).toEqual([null, []]);
    layer.show({
      strength: 1,
      lit: 'gone',
      chosen: new Set(),
      hidden: new Set(),
      locked: new Set(),
      outlined: false,
    });
    expect(layer.pick(down(0.8))).toBe('high');
    layer.set([]);
    expect(drawnIn(layer.object)).toEqual([]);
    layer.dispose();
  });

  it('the same art many times is drawn from the same buffers, and they stay as long as one is shown', () => {
    const layer = new NeighboursLayer(changed);
    layer.set([crateArt([0, 0, 0], 'shared'), crateArt([0, 0, 0], 'shared')]);
    const geometries = () => new Set(drawnIn(layer.object).map((each) => (each as Mesh).geometry));
    const meshes = drawnIn(layer.object).filter((each) => each instanceof Mesh);
    expect(meshes.length).toBe(2);
    const [kept] = meshes.map((each) => (each as Mesh).geometry);
    expect(geometries().size).toBeLessThan(drawnIn(layer.object).length);
    let disposed = false;
    kept!.addEventListener('dispose', () => (disposed = true));
    layer.set([crateArt([0, 0, 0], 'shared')]);
    expect(disposed).toBeFalse();
    layer.dispose();
    expect(disposed).toBeTrue();
  });

  it('a cut is outlined a little outside the bounds, in its plane', () => {
    const corners = outlineCorners({ axis: 0, at: 0.75, flipped: false }, { min: [0, 0, 0], max: [4, 2, 1] });
    expect(corners.map(([x]) => x)).toEqual([3, 3, 3, 3]);
    for (const [, y, z] of corners) expect(y < 0 || y > 2 || z < 0 || z > 1).toBeTrue();
    const layer = new CutLayer(changed);
    const plane = layer.set({ axis: 0, at: 0.75, flipped: false }, { min: [0, 0, 0], max: [4, 2, 1] })!;
    expect(plane.distanceToPoint(new Vector3(3, 1, 1))).toBeCloseTo(0, 9);
    expect(layer.places().length).toBe(4);
    expect([layer.set(null, null), layer.places()]).toEqual([null, []]);
  });

  it('references stand on the ground of the piece, to its right, as wide and high as they are', () => {
    const layer = new ReferencesLayer(changed);
    const piece = { min: [0, 5, 0], max: [2, 6, 2] } as const;
    layer.set([{ kind: 'cube' }], { min: [...piece.min], max: [...piece.max] });
    const { min, max } = layer.bounds()!;
    expect([max[0] - min[0], max[1] - min[1], min[1]].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      1, 1, 5,
    ]);
    expect(min[0]).toBeGreaterThan(2);
    const [agent] = FIRST_AGENTS;
    layer.set([{ kind: 'agent', agent: agent! }], { min: [...piece.min], max: [...piece.max] });
    expect(layer.bounds()!.max[1] - 5).toBeCloseTo(agent!.height, 6);
    layer.set([], null);
    expect(layer.bounds()).toBeNull();
  });

  it('an overlay draws the faces it is given where the art is, and edges as lines', () => {
    const layer = new OverlayLayer('#17616E', 0.5, changed);
    layer.show(crateArt([3, 0, 0]).art, [0, 1], new Float32Array(6));
    expect([layer.painted, drawnIn(layer.object).length, layer.object.position.x]).toEqual([2, 2, 3]);
    layer.show(null, null);
    expect(drawnIn(layer.object).length).toBe(0);
  });

  it('pivots, hinges, tapes, points, clearances and words are drawn, and go with their marks', () => {
    const pivot: Pivot = { position: [1, 0, 0], rotation: [0, 0, 0, 1], anchor: 'numeric', locked: false };
    const layer = new MarksLayer(changed);
    layer.set(
      {
        ...NO_MARKS,
        pivots: [{ pivot, lit: true }],
        hinge: { at: [1, 0, 0], axis: [0, 1, 0], reach: 2 },
        tapes: [
          [
            [0, 0, 0],
            [1, 0, 0],
          ],
        ],
        points: [[0, 0, 0]],
        ridden: [
          [
            [0, 0, 0],
            [1, 0, 0],
            [2, 0, 1],
          ],
        ],
        labels: [{ text: '1.00 m', at: [0.5, 0, 0] }],
      },
      0.02,
    );
    // A cross of three axes with its point; a line with two ends; a tape with two ends; a point; a line with two ends.
    expect(drawnIn(layer.object).length).toBe(4 + 3 + 3 + 1 + 3);
    expect(layer.places()).toEqual([{ id: '0', at: [0.5, 0, 0] }]);
    layer.set(NO_MARKS, 0.02);
    expect([drawnIn(layer.object).length, layer.places()]).toEqual([0, []]);
  });

  it('the pivot is as large on the screen from near and from far', () => {
    const layer = new PivotLayer(changed);
    layer.set({ position: [1, 2, 3], rotation: [0, 0, 0, 1] });
    const sizeAt = (pixel: number) => {
      layer.beforeFrame({ metresPerPixel: () => pixel, towardsEye: () => [0, 0, 1] });
      return layer.object.scale.x;
    };
    expect(sizeAt(0.02) / sizeAt(0.01)).toBeCloseTo(2, 9);
    layer.set(null);
    expect(layer.object.visible).toBeFalse();
  });

  it('what shapes share is drawn as a lens each, and goes with them', () => {
    const layer = new LensesLayer(changed);
    const points = [10000, 0, 0, 10001, 0, 0, 10000, 1, 0, 10000, 0, 1];
    const faces = [
      [0, 2, 1],
      [0, 1, 3],
      [1, 2, 3],
      [0, 3, 2],
    ];
    layer.set([
      { points, faces },
      { points, faces },
    ]);
    expect([layer.object.children.length, drawnIn(layer.object).length]).toEqual([2, 4]);
    expect(layer.object.children[0]!.position.toArray()).toEqual([10000.5, 0.5, 0.5]);
    layer.set([]);
    expect(layer.object.children.length).toBe(0);
    layer.dispose();
  });

  it('trial: a figure of its true size where it walks, the ground once, flags at their places', () => {
    const layer = new TrialLayer(changed);
    const [, agent] = FIRST_AGENTS;
    const nothing = { walker: null, trolley: null, area: null, route: null, flags: [] };
    layer.set({ ...nothing, walker: { agent: agent!, at: [2, 0, 1], height: 1.8 } });
    expect(layer.bounds()).toEqual({ min: [1.65, 0, 0.65], max: [2.35, 1.8, 1.35] });
    const figure = drawnIn(layer.object);
    layer.set({ ...nothing, walker: { agent: agent!, at: [3, 0.5, 1], height: 1.8 } });
    // A step moves what is drawn, and draws nothing anew.
    expect(drawnIn(layer.object)).toEqual(figure);
    expect(layer.bounds()!.min[1]).toBe(0.5);
    // Whoever stands still is not drawn again.
    const before = changes;
    layer.set({ ...nothing, walker: { agent: agent!, at: [3 + 1e-6, 0.5, 1], height: 1.8 } });
    expect(changes).toBe(before);
    const area = {
      positions: Float64Array.from([1e6, 0, 0, 1e6 + 1, 0, 0, 1e6, 0, 1, 1e6 + 1, 0, 1]),
      indices: Uint32Array.from([0, 2, 1, 1, 2, 3]),
    };
    layer.set({ ...nothing, area, flags: [{ id: 'a', at: [1, 2, 3] }] });
    expect(layer.places()).toEqual([{ id: 'a', at: [1, 2, 3] }]);
    const [wash, ink] = drawnIn(layer.object) as [Mesh, LineSegments];
    expect(wash.geometry.getIndex()!.count).toBe(6);
    // The border is inked: four sides, and not the diagonal that both triangles share.
    expect(ink.geometry.getAttribute('position').count).toBe(8);
    expect(wash.parent!.position.x).toBe(1e6);
    layer.set(nothing);
    expect([drawnIn(layer.object).length, layer.bounds()]).toEqual([0, null]);
  });

  it('trial: a trolley of its measures where it is driven, turned as it is', () => {
    const layer = new TrialLayer(changed);
    const trolley = { track: 0.8, wheelbase: 1.1, wheelRadius: 0.15, clearance: 0.12 };
    const nothing = { walker: null, trolley: null, area: null, route: null, flags: [] };
    layer.set({ ...nothing, trolley: { trolley, at: [2, 0.2, 1], turned: [0, 1, 0, 0] } });
    const drawn = drawnIn(layer.object) as Mesh[];
    const { geometry, parent } = drawn[0]!;
    geometry.computeBoundingBox();
    const { min, max } = geometry.boundingBox!;
    // Its wheels stand out by half their width, and on the ground.
    expect(max.x - min.x).toBeCloseTo(0.8 + 0.075, 6);
    expect(max.z - min.z).toBeCloseTo(1.1 + 0.3, 6);
    expect(min.y).toBeCloseTo(-(0.12 + 0.045), 6);
    expect([parent!.position.toArray(), parent!.quaternion.toArray()]).toEqual([
      [2, 0.2, 1],
      [0, 1, 0, 0],
    ]);
    layer.set({ ...nothing, trolley: { trolley, at: [3, 0.2, 1], turned: [0, 0, 0, 1] } });
    expect(drawnIn(layer.object)).toEqual(drawn);
    layer.set(nothing);
    expect(drawnIn(layer.object)).toEqual([]);
  });
});
