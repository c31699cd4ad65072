import { counted, countText } from '@yard-brace/core';
import type { Tried } from '../../../../state/operations';

/** What a weld would come to, beside its distance. */
export function weldCountText(tried: Tried): string {
  if (!tried) return '';
  if ('refused' in tried) return tried.refused;
  const { outcome } = tried;
  if (outcome.op !== 'weld') return '';
  return `${counted(outcome.before, 'vertex', 'vertices')} become ${countText(outcome.after)}`;
}
