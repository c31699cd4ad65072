import type { Mesh } from '../mesh/index.js';
import { type Shape, shapeBounds } from '../shape/index.js';
import { Comparer } from './comparer.js';
import { shapeDistance } from './shape-distance.js';

/** How one proxy lies to the art before and after the art changed; metres. */
export interface ProxyFit {
  /** the most that it stands off the art */
  proxyOutside: { before: number; after: number };
  /** the most that art nearest to it stands out of all proxies */
  artOutside: { before: number; after: number };
  /** deviates more than before by more than the tolerance */
  fits: boolean;
}

type Art = Pick<Mesh, 'positions' | 'indices'>;

/** Which proxies of a set no longer fit when the art they were made for is replaced. */
export function proxyFits(
  before: Art,
  after: Art,
  shapes: readonly Shape[],
  toleranceMetres: number,
): ProxyFit[] {
  const [old, fresh] = [before, after].map((art) => {
    const comparer = new Comparer(art);
    return {
      off: shapes.map((shape) => comparer.compare([shape]).proxyOutside.max),
      art: nearestArtOutside(art, shapes),
    };
  }) as [Fit, Fit];
  return shapes.map((_, i) => {
    const proxyOutside = { before: old.off[i]!, after: fresh.off[i]! };
    const artOutside = { before: old.art[i]!, after: fresh.art[i]! };
    const worse = Math.max(proxyOutside.after - proxyOutside.before, artOutside.after - artOutside.before);
    return { proxyOutside, artOutside, fits: worse <= toleranceMetres };
  });
}

interface Fit {
  off: number[];
  art: number[];
}

/** For each shape how far art that no other shape is nearer to stands out at most. */
function nearestArtOutside({ positions: p, indices }: Art, shapes: readonly Shape[]): number[] {
  const out = shapes.map(() => 0);
  if (!shapes.length) return out;
  const distances = shapes.map(shapeDistance);
  const boxes = shapes.map(shapeBounds);
  const seen = new Uint8Array(p.length / 3);
  for (const v of indices) {
    if (seen[v]) continue;
    seen[v] = 1;
    const [x, y, z] = [p[v * 3]!, p[v * 3 + 1]!, p[v * 3 + 2]!];
    let least = Infinity;
    let nearest = 0;
    for (let i = 0; i < shapes.length && least > 0; i++) {
      const { min, max } = boxes[i]!;
      const away = Math.max(min[0] - x, x - max[0], min[1] - y, y - max[1], min[2] - z, z - max[2]);
      if (away >= least) continue;
      const here = distances[i]!(x, y, z, least);
      if (here >= least) continue;
      least = here;
      nearest = i;
    }
    if (least > out[nearest]! && least !== Infinity) out[nearest] = least;
  }
  return out;
}
