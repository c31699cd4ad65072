import type { PieceDocument } from '../piece/index.js';
import { type Finding, type PieceSurroundings, WORKING_STEPS, type WorkingStep } from './finding.js';

/** Whether something was tried, and nothing that the yard asks for is still to be tried. */
const passedTrials = (own: readonly Finding[], { measured }: PieceSurroundings): boolean =>
  (measured?.trials?.walks.length ?? 0) + (measured?.trials?.bodies.length ?? 0) > 0 &&
  !own.some(({ severity }) => severity === 'info');

/** The state of a step: clear, look here, stopped, or nothing done yet. */
export type Stamp = 'clear' | 'look' | 'stopped' | 'none';
export type Tally = Record<WorkingStep, Stamp>;

/**
 * One stamp a step, from the findings and from what has been done. What was tried and not passed stops its step, and
 * keeps nobody from delivering.
 */
export function stampsOf(
  document: PieceDocument,
  findings: readonly Finding[],
  around: PieceSurroundings = {},
): Tally {
  const stamp = (step: WorkingStep): Stamp => {
    const own = findings.filter((finding) => finding.step === step);
    const severities = own.map((finding) => finding.severity);
    if (severities.includes('error') || own.some(({ fails }) => fails)) return 'stopped';
    if (step === 'proxies' && document.proxies.length === 0) return 'none';
    if (step === 'trial' && !own.some(({ severity }) => severity === 'warning') && !passedTrials(own, around))
      return 'none';
    if (step === 'delivery' && !around.deliveries?.length) return 'none';
    return severities.includes('warning') ? 'look' : 'clear';
  };
  return Object.fromEntries(WORKING_STEPS.map((step) => [step, stamp(step)])) as Tally;
}
