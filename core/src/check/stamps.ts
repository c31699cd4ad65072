import type { PieceDocument } from '../piece/index.js';
import { type Finding, type PieceSurroundings, WORKING_STEPS, type WorkingStep } from './finding.js';

/** The state of a step: clear, look here, stopped, or nothing done yet. */
export type Stamp = 'clear' | 'look' | 'stopped' | 'none';
export type Tally = Record<WorkingStep, Stamp>;

/** One stamp a step, from the findings and from what has been done. */
export function stampsOf(
  document: PieceDocument,
  findings: readonly Finding[],
  around: PieceSurroundings = {},
): Tally {
  const stamp = (step: WorkingStep): Stamp => {
    const severities = findings.filter((finding) => finding.step === step).map((finding) => finding.severity);
    if (severities.includes('error')) return 'stopped';
    if (step === 'proxies' && document.proxies.length === 0) return 'none';
    if (step === 'delivery' && !around.deliveries?.length) return 'none';
    return severities.includes('warning') ? 'look' : 'clear';
  };
  return Object.fromEntries(WORKING_STEPS.map((step) => [step, stamp(step)])) as Tally;
}
