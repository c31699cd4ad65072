import { counted, lengthText, measuredText } from '../math/figures.js';
import type { Severity } from '../check/index.js';
import type { SetFault } from './set-fault.js';

/** A fault of a set as a person reads it. */
export interface FaultWords {
  severity: Severity;
  /** what is wrong, one sentence */
  says: string;
  /** what goes wrong in the engine if it is ignored */
  why: string;
  /** what its mend does; absent where there is none */
  mend?: string;
}

/** @param nameOf what a placement is called, by its id */
export function faultWords(fault: SetFault, nameOf: (placement: string) => string): FaultWords {
  const a = nameOf(fault.a);
  const b = 'b' in fault ? nameOf(fault.b) : '';
  switch (fault.kind) {
    case 'seam': {
      const size = measuredText(Math.abs(fault.gap));
      const loose = fault.unmatched
        ? ` ${counted(fault.unmatched, 'vertex', 'vertices')} of their ends ${fault.unmatched === 1 ? 'meets' : 'meet'} nothing and cannot be welded.`
        : '';
      const stand = fault.sideways
        ? 'stand off each other sideways by'
        : fault.gap > 0
          ? 'leave a gap of'
          : 'overlap by';
      return {
        severity: 'error',
        says: `${a} and ${b} ${stand} ${size} at ${counted(fault.pairs, 'vertex', 'vertices')}.${loose}`,
        why:
          fault.gap > 0
            ? 'Light and the sky come through the joint, and a wheel or a rolling thing jolts over it.'
            : 'Faces that lie in each other flicker, and shapes that start inside each other push apart.',
        mend: `Move ${b} by ${size} to close it`,
      };
    }
    case 'art-crosses':
      return {
        severity: 'warning',
        says: `${b} goes ${measuredText(fault.metres)} into ${a}.`,
        why: 'What is seen of both is cut off there, and shapes that fit them start in each other and are pushed apart.',
        mend: `Move ${b} by ${measuredText(fault.metres)} out of ${a}`,
      };
    case 'shapes-cross':
      return {
        severity: 'warning',
        says: `Shapes of ${a} and ${b} go into each other by ${measuredText(fault.metres)}.`,
        why: 'Still shapes may cross; where one of them moves, the engine pushes both apart and they shake.',
      };
    case 'shapes-gap':
      return {
        severity: 'warning',
        says: `Shapes of ${a} and ${b} are ${measuredText(fault.metres)} apart where their art meets; a foot dips ${measuredText(fault.dip)} into it.`,
        why: 'Whoever walks or rolls over the joint is shaken by a slot that nobody sees.',
      };
    case 'floats':
      return {
        severity: 'warning',
        says: `${a} floats ${measuredText(fault.metres)} over ${under(fault.on, nameOf)}.`,
        why: 'Its shadow parts from it, and where physics moves it, it drops at the start.',
        mend: `Set it down onto ${under(fault.on, nameOf)}`,
      };
    case 'sinks':
      return {
        severity: fault.on === null ? 'info' : 'warning',
        says: `${a} is sunk ${measuredText(fault.metres)} into ${under(fault.on, nameOf)}.`,
        why: 'What is sunk on purpose may stay; what is not starts inside another shape and is pushed out.',
        mend: `Lift it onto ${under(fault.on, nameOf)}`,
      };
    case 'blocked':
      return {
        severity: 'error',
        says: `${b} stands in ${fault.opening} of ${a}: the ${fault.agent} lacks ${lengthText(fault.metres)}.`,
        why: 'The opening is free on its own, and no route leads through it in the level.',
      };
    case 'mirror-forgotten':
      return {
        severity: 'error',
        says: `${a} has no shapes; it is the mirror image of a piece that has ${counted(fault.shapes, 'shape')}.`,
        why: 'Everybody walks through it, beside a twin that stops them.',
        mend: `Mirror ${counted(fault.shapes, 'shape')} onto it`,
      };
    case 'mirrored':
      return {
        severity: 'info',
        says: `${a} is placed by a scale of −1${fault.count > 1 ? `, as are ${fault.count - 1} more of the piece` : ''}: its hulls are mirrored by the engine.`,
        why: 'Some engines turn mirrored hulls inside out or drop them; a true mirrored piece has shapes of its own.',
      };
    case 'no-shapes':
      return {
        severity: 'warning',
        says: `${a}${fault.count > 1 ? ` and ${fault.count - 1} more of the piece` : ''} ${fault.count > 1 ? 'have' : 'has'} no shapes: nothing collides there.`,
        why: 'Everybody walks through it.',
      };
    case 'removed':
      return {
        severity: 'error',
        says:
          fault.version === null
            ? `The piece of ${a} is no longer in the yard.`
            : `The version of ${a} that stands here is no longer kept; swap it for another.`,
        why: 'Its place is kept, and nothing of it is drawn, tried or delivered.',
      };
  }
}

const under = (on: string | null, nameOf: (placement: string) => string): string =>
  on === null ? 'the ground' : nameOf(on);
