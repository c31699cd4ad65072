import { shapeBounds, shapeCorners, shapePolygons, type Shape, shapeVolume } from '../shape/index.js';
import { deliveredShape, deliveredSides } from './delivered-shape.js';
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
