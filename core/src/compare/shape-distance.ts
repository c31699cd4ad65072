import { inverseQuat, rotate, type Vec3 } from '../math/index.js';
import { buildBvh, closestPoint } from '../solid/index.js';
import { type Distance, hullDistance } from '../hull/index.js';
import type { Shape, SurfaceShape } from '../shape/index.js';

/**
 * The distance function of a shape, exact outside; inside it is exact for the round kinds and boxes, and for a
 * hull the depth below its nearest face. A surface has no inside.
 */
export function shapeDistance(shape: Shape): Distance {
  switch (shape.kind) {
    case 'sphere': {
      const [cx, cy, cz] = shape.center;
      return (x, y, z) => Math.hypot(x - cx, y - cy, z - cz) - shape.radius;
    }
    case 'capsule':
      return inOwnFrame(shape, (x, y, z) => {
        const along = Math.max(0, Math.abs(y) - shape.halfLength);
        return Math.sqrt(x * x + along * along + z * z) - shape.radius;
      });
    case 'box': {
      const [hx, hy, hz] = shape.halfExtents;
      return inOwnFrame(shape, (x, y, z) => {
        const [dx, dy, dz] = [Math.abs(x) - hx, Math.abs(y) - hy, Math.abs(z) - hz];
        const out = Math.hypot(Math.max(dx, 0), Math.max(dy, 0), Math.max(dz, 0));
        return out > 0 ? out : Math.max(dx, dy, dz);
      });
    }
    case 'cylinder': {
      const { halfHeight: h, bottomRadius: r, topRadius: s } = shape;
      const slant = Math.hypot(2 * h, r - s);
      return inOwnFrame(shape, (x, y, z) => {
        const aside = Math.sqrt(x * x + z * z);
        // Signed distance to the slanted side's line, and to the two caps; a half plane says it all.
        const side = ((aside - r) * 2 * h + (y + h) * (r - s)) / slant;
        const cap = Math.abs(y) - h;
        if (side <= 0 && cap <= 0) return Math.max(side, cap);
        const t = Math.min(1, Math.max(0, ((aside - r) * (s - r) + (y + h) * 2 * h) / (slant * slant)));
        const toSide = Math.hypot(aside - (r + (s - r) * t), y - (-h + 2 * h * t));
        const toCap = (radius: number, at: number) => Math.hypot(Math.max(0, aside - radius), y - at);
        return Math.min(toSide, toCap(r, -h), toCap(s, h));
      });
    }
    case 'hull':
      return hullDistance(shape.points, shape.faces);
    case 'surface':
      return surfaceDistance(shape);
  }
}

function inOwnFrame(
  { center, rotation }: { center: Vec3; rotation: [number, number, number, number] },
  own: Distance,
): Distance {
  const back = inverseQuat(rotation);
  const [x, y, z] = [rotate(back, [1, 0, 0]), rotate(back, [0, 1, 0]), rotate(back, [0, 0, 1])];
  return (px, py, pz) => {
    const [dx, dy, dz] = [px - center[0], py - center[1], pz - center[2]];
    return own(
      x[0] * dx + y[0] * dy + z[0] * dz,
      x[1] * dx + y[1] * dy + z[1] * dz,
      x[2] * dx + y[2] * dy + z[2] * dz,
    );
  };
}

function surfaceDistance({ points, indices }: SurfaceShape): Distance {
  const bvh = buildBvh({ positions: Float64Array.from(points), indices: Uint32Array.from(indices) });
  return (x, y, z, within) => closestPoint(bvh, [x, y, z], within)?.distance ?? Infinity;
}
