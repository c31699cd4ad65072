import { shapeBounds, shapeCorners, shapePolygons, type Shape, shapeVolume } from '../shape/index.js';
import { asDelivered, deliveredShape, deliveredSides, proxiesAsDelivered } from './delivered-shape.js';
import type { TargetProfile } from './profile.js';
import { PREFIX_TAGS } from './profiles.js';

const pipe: Shape = {
  kind: 'cylinder',
  center: [0, 0, 0],
  rotation: [0, 0, 0, 1],
  halfHeight: 1,
  bottomRadius: 0.5,
  topRadius: 0.4,
};
const taking = (maxHullVertices: number): TargetProfile => ({
  ...PREFIX_TAGS,
  proxies: { ...PREFIX_TAGS.proxies, maxHullVertices },
});

describe('what a level gets', () => {
  it('is the shape itself, or the hull that takes its place: what is measured is what leaves', () => {
    const box: Shape = { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] };
    expect(asDelivered(PREFIX_TAGS, box)).toBe(box);
    const prism = asDelivered(taking(32), pipe);
    expect([prism.kind, shapeCorners(prism)]).toEqual(['hull', 32]);
    const sheet: Shape = {
      kind: 'surface',
      points: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1],
      indices: [0, 1, 2, 0, 1, 3],
    };
    expect(asDelivered(PREFIX_TAGS, sheet).kind).toBe('hull');
  });
});

describe('a set as a level gets it', () => {
  it('is the same again for the same shapes, and keeps what belongs to them', () => {
    const box: Shape = { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] };
    const set = [
      { id: 'a', shape: box, part: 'n1' },
      { id: 'b', shape: pipe, part: 'n2' },
    ];
    const [first, second] = proxiesAsDelivered(PREFIX_TAGS, set);
    expect(first).toBe(set[0]);
    expect([second!.shape.kind, second!.part]).toEqual(['hull', 'n2']);
    expect(proxiesAsDelivered(PREFIX_TAGS, [{ ...set[1]! }])[0]!.shape).toBe(second!.shape);
    expect(proxiesAsDelivered(taking(8), set)[1]!.shape).not.toBe(second!.shape);
  });
});

describe('a cylinder for a target that knows none', () => {
  it('leaves as a prism with no more corners than a hull may have there, and with its volume', () => {
    for (const most of [8, 12, 16, 32, 33, 64, 255]) {
      const profile = taking(most);
      const { points, faces } = shapePolygons(deliveredShape(profile, pipe), {
        segments: deliveredSides(profile),
      });
      const prism: Shape = { kind: 'hull', points: [...points], faces };
      expect(shapeCorners(prism)).withContext(`${most}`).toBeLessThanOrEqual(most);
      expect(shapeVolume(prism)).withContext(`${most}`).toBeCloseTo(shapeVolume(pipe), 9);
      expect(shapeBounds(prism).max[1]).toBeCloseTo(1, 12);
    }
  });
});
