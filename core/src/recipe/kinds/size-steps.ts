import * as z from 'zod';

import { turnAbout, unitNameSchema } from '../../piece/index.js';
import { type StepKind, stepKind } from '../step-kind.js';

const unit = stepKind({
  label: 'Set the unit',
  parts: false,
  parameters: z.strictObject({ unit: unitNameSchema }),
  run(work, { unit }) {
    const { name, confirmed } = work.document.unit;
    if (name === unit && confirmed) return `Its unit is ${unit} already.`;
    work.apply({ kind: 'set-unit', unit });
    return name === unit
      ? `Its unit, ${unit}, is confirmed.`
      : `Its unit is ${unit}; it was read as ${name}.`;
  },
});

const scale = stepKind({
  label: 'Scale the piece',
  parts: false,
  parameters: z.strictObject({ factor: z.number().positive().max(1e6) }),
  run(work, { factor }) {
    work.apply({ kind: 'resize', factor, about: work.document.pivot.position });
    return `It is ${plain(factor)} times as large, about its pivot.`;
  },
});

const plain = (figure: number): string => String(Number(figure.toPrecision(6)));

const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const;

const turn = stepKind({
  label: 'Turn the piece',
  parts: false,
  parameters: z.strictObject({
    axis: z.enum(['x', 'y', 'z']),
    degrees: z.number().min(-360).max(360),
  }),
  run(work, { axis, degrees }) {
    work.apply({
      kind: 'turn',
      turn: turnAbout(AXES[axis], degrees),
      about: work.document.pivot.position,
    });
    return `It is turned by ${plain(degrees)}° about ${axis.toUpperCase()}.`;
  },
});

/** How large the piece is, and which way it stands. */
export const SIZE_STEPS: Readonly<Record<string, StepKind>> = { unit, scale, turn };
