import {
  collidingArt,
  decompose,
  firstLook as lookFirst,
  LadderMemory,
  type PieceDocument,
  type Shape,
  type TargetProfile,
} from '@yard-brace/core';
import { type LadderRequest, ladderRequestSchema, type LadderRun, type Progress } from '../messages';
import { figuresOf, measuredArt, placedOf } from './art';
import { inSteps } from './in-steps';

/** An option that is changed leaves much as it was found out. */
const memory = new LadderMemory();

/** Break the art, or some faces of it, into convex shapes; measure what is there the same way. */
export async function ladder(
  document: PieceDocument,
  profile: TargetProfile,
  request: LadderRequest,
  progress: Progress,
): Promise<LadderRun> {
  const options = ladderRequestSchema.parse(request);
  const placed = await placedOf(document, (share) => progress(share * 0.1, 'Fetching the art'));
  const { mesh } = placed;
  const art = options.faces ? mesh : collidingArt(document, placed).mesh;
  const ladder = await decompose(art, {
    ...options,
    memory,
    // What the target would replace is not proposed.
    kinds: profile.kinds.known,
    progress: inSteps((share) => progress(0.1 + share * 0.85, 'Breaking into shapes')),
  });
  const measured = await measuredArt(document, profile, () => undefined);
  const now = document.proxies.length ? figuresOf(document, measured) : null;
  if (!options.faces) return { ladder, now };
  const others = document.proxies.filter(({ area }) => area === undefined || area !== options.area);
  const whole = ladder.rungs.map(({ shapes }) => {
    const made = shapes.map((shape, i) => ({ id: `rung-${i}`, shape }));
    return figuresOf({ ...document, proxies: [...others, ...made] }, measured);
  });
  return { ladder, now, whole };
}

/** The first few sets, straight across and not measured: what is shown while the ladder is worked out. */
export async function firstLook(document: PieceDocument, request: LadderRequest): Promise<Shape[][]> {
  const options = ladderRequestSchema.parse(request);
  const placed = await placedOf(document, () => undefined);
  const art = options.faces ? placed.mesh : collidingArt(document, placed).mesh;
  return lookFirst(art, options);
}
