import * as z from 'zod';
import { NO_ROTATION, type Quat, UNITS } from '../../math/index.js';
import { unitNameSchema } from '../document.js';
import { editKind } from './edit-kind.js';
import { grownAndTurned } from './grown-and-turned.js';

/** Pivots, proxies and clearances are in metres and grow with the art. */
export const setUnit = editKind({
  schema: z.object({ kind: z.literal('set-unit'), unit: unitNameSchema }),
  apply(document, { unit }) {
    const factor = UNITS[unit] / UNITS[document.unit.name];
    const grown = grownAndTurned(document, { factor, turn: [...NO_ROTATION] as Quat, about: [0, 0, 0] });
    return {
      ...grown,
      unit: { ...document.unit, name: unit, confirmed: true },
      // The unit carries the factor itself.
      placing: { ...grown.placing, factor: document.placing.factor },
    };
  },
  describe: ({ unit }) => `unit ${unit}`,
});
