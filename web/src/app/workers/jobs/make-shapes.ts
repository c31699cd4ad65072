import {
  applyEdit,
  type Make,
  makeSchema,
  makeShapes as make,
  type PieceDocument,
  type TargetProfile,
  withOpeningsFree,
} from '@yard-brace/core';
import { type FixedSet, type Progress, setRequestSchema, type SetRequest } from '../messages';
import { figuresOf, measuredArt, placedOf } from './art';

/** Shapes made of chosen art, with the figures of the set before and after. */
export async function makeShapes(
  document: PieceDocument,
  profile: TargetProfile,
  wanted: Make,
  request: SetRequest,
  progress: Progress,
): Promise<FixedSet> {
  const options = setRequestSchema.parse(request);
  const placed = await placedOf(document, (share) => progress(share * 0.3, 'Fetching the art'));
  progress(0.3, 'Making shapes');
  const made = await make(document, placed, makeSchema.parse(wanted), options);
  progress(0.7, 'Measuring');
  const art = await measuredArt(document, profile, () => undefined);
  const edit = withOpeningsFree(made, { document, ...art, ...options });
  return {
    edit,
    before: document.proxies.length ? figuresOf(document, art) : null,
    after: figuresOf(applyEdit(document, edit), art),
  };
}
