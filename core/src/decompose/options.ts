import { SHAPE_KINDS, type Shape, type ShapeKind } from '../shape/index.js';
import { DecomposeError } from './decompose-error.js';
import type { LadderMemory } from './ladder-memory.js';

export interface DecomposeOptions {
  /** shapes on the highest rung, 1 to 64. Default 32 */
  maxShapes?: number;
  /** corners of a hull at most, 4 or more. Default 32 */
  maxVertices?: number;
  /** who collides: metres below which detail does not matter. Default: nothing is left out */
  agentDetail?: number;
  /** boxes or hulls that nothing may enter */
  clearances?: readonly Shape[];
  /** whether boxes, spheres, cylinders and capsules are preferred to hulls. Default true */
  primitives?: boolean;
  /** kinds that may be taken beside hulls and boxes. Default: all */
  kinds?: readonly ShapeKind[];
  /** whether shapes may go into each other by more than a tenth of a millimetre. Default true */
  mayCross?: boolean;
  /** only these faces of the mesh. Default: all */
  faces?: Iterable<number>;
  /** what earlier runs found out and this one may use */
  memory?: LadderMemory;
  /** called often, with the share done; what it throws stops the work */
  progress?: (share: number) => void;
}

export type Settings = Required<Omit<DecomposeOptions, 'faces' | 'memory' | 'progress'>>;

export const MAX_RUNG_SHAPES = 64;

/** The options with their defaults. @throws DecomposeError when one makes no sense */
export function checkedOptions(options: DecomposeOptions): Settings {
  const {
    maxShapes = 32,
    maxVertices = 32,
    agentDetail = 0,
    clearances = [],
    primitives = true,
    kinds = SHAPE_KINDS,
    mayCross = true,
  } = options;
  if (!Number.isInteger(maxShapes) || maxShapes < 1 || maxShapes > MAX_RUNG_SHAPES)
    throw new DecomposeError(
      `The number of shapes must be a whole number from 1 to ${MAX_RUNG_SHAPES}, not ${maxShapes}.`,
    );
  if (!Number.isInteger(maxVertices) || maxVertices < 4)
    throw new DecomposeError(`A hull has at least 4 corners; ${maxVertices} cannot be the most.`);
  if (!(agentDetail >= 0) || !Number.isFinite(agentDetail))
    throw new DecomposeError(`The detail that matters must be a length of 0 or more, not ${agentDetail}.`);
  for (const clearance of clearances)
    if (clearance.kind !== 'box' && clearance.kind !== 'hull')
      throw new DecomposeError(`A clearance is a box or a hull, not a ${clearance.kind}.`);
  return { maxShapes, maxVertices, agentDetail, clearances, primitives, kinds, mayCross };
}
