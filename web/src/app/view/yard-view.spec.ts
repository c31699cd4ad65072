import { faceNeighbours, plainMesh, plainNode, takeIn, type Shape } from '@yard-brace/core';
import type { ArtToDraw } from '../compute/messages';
import { takePicture } from './picture';
import { type TagPlace, YardView } from './yard-view';

const corners = [-1, -1, -1, 1, -1, -1, 1, 1, -1, -1, 1, -1, -1, -1, 1, 1, -1, 1, 1, 1, 1, -1, 1, 1];
const triangles = [
  0, 3, 2, 0, 2, 1, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 2, 3, 7, 2, 7, 6, 0, 4, 7, 0, 7, 3, 1, 2, 6, 1, 6, 5,
];
const mesh = plainMesh(corners, triangles);
const { document: doc } = takeIn(
  {
    unit: { metres: 1, stated: true },
    nodes: [plainNode('Crate', 0)],
    meshes: [{ name: 'Crate', mesh }],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  },
  {
    files: [{ name: 'crate.obj', blob: 'a'.repeat(64), bytes: 1 }],
    meshName: (name) => name,
    target: 'prefix-tags',
  },
);
/** A crate two metres wide that stands ten kilometres from the origin. */
const art = (): ArtToDraw => ({
  origin: [10000, 1, 0],
  positions: Float32Array.from(corners),
  indices: Uint32Array.from(triangles),
  groups: [{ material: -1, start: 0, count: 12 }],
  ink: new Float32Array(),
  part: new Uint32Array(12),
  face: Uint32Array.from({ length: 12 }, (_, i) => i),
  neighbours: Int32Array.from(faceNeighbours(mesh)),
});
const box: Shape = {
  kind: 'box',
  center: [10000, 1, 0],
  halfExtents: [1.2, 1.2, 1.2],
  rotation: [0, 0, 0, 1],
};

describe('YardView', () => {
  let canvas: HTMLCanvasElement;
  let view: YardView;
  let tags: TagPlace[] = [];
  const drawn = () =>
    new Promise<void>(
      (resolve) =>
        (view.onFrame = (places) => {
          tags = places;
          resolve();
        }),
    );

  beforeEach(() => {
    canvas = document.createElement('canvas');
    canvas.style.cssText = 'width: 400px; height: 300px; display: block';
    document.body.append(canvas);
    view = new YardView(canvas, 4);
    view.resize(400, 300);
    view.setArt(art(), doc);
  });
  afterEach(() => {
    view.dispose();
    canvas.remove();
  });

  it('fits the piece and picks it where it is, exactly even far from the origin', async () => {
    await drawn();
    const hit = view.pick(200, 150);
    if (!hit || !('art' in hit)) throw new Error('the art is not in the middle of the view');
    const [x, y, z] = hit.art.at;
    expect(Math.max(Math.abs(x - 10000), Math.abs(y - 1), Math.abs(z))).toBeCloseTo(1, 3);
    expect(view.pick(2, 2)).toBeNull();
  });

  it('picks shapes before the art, and neither when the veil hides it', async () => {
    view.setShapes([{ id: 'a', number: 1, shape: box }]);
    await drawn();
    expect(view.pick(200, 150)).toEqual({ shape: 'a' });
    expect(tags.map((tag) => tag.id)).toEqual(['a']);
    expect(tags[0]!.y).toBeLessThan(150);
    view.setVeil(0);
    await drawn();
    expect(view.pick(200, 150)).toEqual(jasmine.objectContaining({ art: jasmine.anything() }));
    expect(tags).toEqual([]);
    view.setShapes([]);
    view.setVeil(1);
    await drawn();
    expect(view.pick(200, 150)).toBeNull();
  });

  it('takes a picture that shows something', async () => {
    const png = await takePicture(art(), doc);
    const bitmap = await createImageBitmap(new Blob([png], { type: 'image/png' }));
    const paper = new OffscreenCanvas(bitmap.width, bitmap.height).getContext('2d')!;
    paper.drawImage(bitmap, 0, 0);
    const { data } = paper.getImageData(0, 0, bitmap.width, bitmap.height);
    let painted = 0;
    for (let i = 3; i < data.length; i += 4) if (data[i]! > 200) painted++;
    expect(painted / (bitmap.width * bitmap.height)).toBeGreaterThan(0.1);
    expect(data[3]).toBe(0);
  });

  it('looks straight from a side without perspective, and fits', async () => {
    view.lookFrom('front');
    await drawn();
    const hit = view.pick(200, 150);
    expect(hit && 'art' in hit && hit.art.at[2]).toBeCloseTo(1, 5);
    expect(view.sight.direction!.map((v) => Math.round(v) + 0)).toEqual([0, 0, -1]);
    view.lookFrom('free');
    expect(view.sight.direction).toBeNull();
  });

  it('picks through what is cut away, hidden or swung aside', async () => {
    view.lookFrom('front');
    view.setCut({ axis: 2, at: 0.5, flipped: false });
    await drawn();
    const behind = view.pick(200, 150);
    expect(behind && 'art' in behind && behind.art.at[2]).toBeCloseTo(-1, 5);
    expect(view.cutWay(0, 0)).toBe(0);
    view.setCut(null);
    view.showParts(() => 'gone');
    await drawn();
    expect(view.pick(200, 150)).toBeNull();
    view.showParts(null);
    view.swing(() => true, [10000, 1, 0], [0, 1, 0], 45);
    view.swing(null);
    await drawn();
    expect(view.pick(200, 150)).not.toBeNull();
  });

  it('catches vertices, edge middles and faces, and finds the faces in an area', async () => {
    view.lookFrom('front');
    await drawn();
    expect(view.snap(200, 150)!.kind).toMatch(/face|edge/);
    const all = view.facesIn([
      [0, 0],
      [400, 0],
      [400, 300],
      [0, 300],
    ])!;
    expect(all.reduce((sum, f) => sum + f, 0)).toBe(12);
    expect(
      view
        .facesIn([
          [0, 0],
          [3, 0],
          [3, 3],
          [0, 3],
          [0, 1],
        ])!
        .some((f) => f),
    ).toBeFalse();
    view.setChosen(all);
    view.setFaults({ faces: all, edges: new Float32Array(6) });
    view.setReferences([{ kind: 'door' }, { kind: 'cube' }]);
    view.look({ wire: true, facing: true, checker: true });
    await drawn();
    view.setFaults(null);
  });
});
