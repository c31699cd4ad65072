import type { ShapeComparison } from '../compare/index.js';
import type { ConvexPart, DecompositionContext } from './convex-part.js';

/** What is filled counts beside standing off as if it lay spread over this share of the size squared. */
const FILLED_AREA_SHARE = 0.03;
/** For an agent, who feels how far a shape stands off, it counts less. */
const AGENT_AREA_SHARE = 0.15;

/** Metres that a filled volume counts beside standing off; a negative one is none. */
export const thicknessOf = (
  volume: number,
  { size, agentDetail }: Pick<DecompositionContext, 'size' | 'agentDetail'>,
): number => Math.max(0, volume) / ((agentDetail > 0 ? AGENT_AREA_SHARE : FILLED_AREA_SHARE) * size ** 2);

/** How far shapes and art stand out of each other at most, metres. */
export const deviationOf = ({ figures }: { figures: ShapeComparison }): number =>
  Math.max(figures.proxyOutside.max, figures.artOutside.max);

/** Below these shares of the art neither is told from nothing. */
const NO_DEVIATION = 1e-4;
const NO_VOLUME = 1e-3;

const product = (deviation: number, volume: number, artVolume: number): number => {
  const art = artVolume || 1;
  return (deviation / Math.cbrt(art) + NO_DEVIATION) * (volume / art + NO_VOLUME);
};

/**
 * What counts as better: how far shapes and art stand out of each other at most, times the volume that is filled or left
 * out, both as shares of the art. No unit; a set that is half as far off, or fills half as much, is as good twice.
 */
export const misfitOf = ({ figures }: { figures: ShapeComparison }): number =>
  product(deviationOf({ figures }), figures.overfill + figures.underfill, figures.artVolume);

export const standOffOf = (state: readonly ConvexPart[]): number =>
  state.reduce((most, piece) => Math.max(most, piece.standOff), 0);

export const filledBy = (state: readonly ConvexPart[]): number =>
  state.reduce((sum, piece) => sum + piece.hullVolume - piece.volume, 0);

/** The same of pieces, before shapes are laid round them. */
export const misfitOfState = (state: readonly ConvexPart[]): number =>
  product(
    standOffOf(state),
    filledBy(state),
    state.reduce((sum, piece) => sum + piece.volume, 0),
  );
