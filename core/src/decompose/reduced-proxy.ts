import { type Mesh, type ReducedSurface, type ReduceOptions, reduceWhole } from '../mesh/index.js';
import type { Shape } from '../shape/index.js';
import { wrap } from './wrap.js';

export interface ReducedProxyOptions extends ReduceOptions {
  /** the reduced surface itself, or a hull round each connected part of it. Default hulls */
  as?: 'hulls' | 'surface';
  /** corners a hull has at most. Default 32 */
  maxCorners?: number;
}

/**
 * Proxies in a hurry: the art reduced until it only just looks like itself, taken as one surface or, part by
 * part, as hulls.
 *
 * @throws WrapError when there is nothing to wrap or there are far too many parts
 */
export async function reducedProxy(
  mesh: Mesh,
  { as = 'hulls', maxCorners = 32, ...options }: ReducedProxyOptions,
): Promise<{ shapes: Shape[]; reduced: ReducedSurface }> {
  const reduced = await reduceWhole(mesh, options);
  const { positions, indices } = reduced.mesh;
  if (as === 'surface')
    return { shapes: [{ kind: 'surface', points: [...positions], indices: [...indices] }], reduced };
  return { shapes: wrap(reduced.mesh, { kind: 'hull', per: 'shell', maxCorners }).shapes, reduced };
}
