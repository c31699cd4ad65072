import { type Comparison, substitutionsIn, counted } from '@yard-brace/core';

/** What a read-back came to, in one sentence; "exactly" only when every point agrees. */
export function verdictOf(comparison: Comparison, agreed: boolean): string {
  const points = counted(comparison.length, 'point');
  const off = comparison.filter((point) => !point.agrees).length;
  if (!agreed) return `${off} of ${points} differ.`;
  if (off === 0) return `An importer gets exactly what was drawn: ${points} compared, all agree.`;
  const places = counted(substitutionsIn(comparison).length, 'point');
  return `An importer gets what was drawn, but for kinds that the target does not know: ${places} of ${comparison.length} differ by what stands for them.`;
}
