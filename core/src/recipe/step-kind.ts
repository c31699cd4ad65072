import type * as z from 'zod';
import type { PartSelector } from '../piece/index.js';
import type { RecipeWork } from './recipe-work.js';

/** What becomes of a piece that a step does not apply to. */
export const OTHERWISE = ['stop', 'skip'] as const;
export type Otherwise = (typeof OTHERWISE)[number];

/** The parts that a step is done to. */
export interface ChosenParts {
  /** every part of the art */
  all: boolean;
  ids: readonly string[];
}

/** One kind of step: how its parameters are read, and what it does. */
export interface StepKind<Parameters extends z.ZodType = z.ZodType> {
  /** as an order, for a list: “Weld” */
  label: string;
  /** whether it is done to parts; others are done to the piece */
  parts: boolean;
  parameters: Parameters;
  /** where a step does not say it. Default: stop */
  otherwise?: Otherwise;
  /** What was done, in a sentence with its figures; where all is so already, that it is. @throws StepError and the errors of what it calls, with a sentence */
  run(work: RecipeWork, parameters: z.infer<Parameters>, parts: ChosenParts): string | Promise<string>;
}

/** What stands where a step names no parts. */
export const ALL_PARTS: PartSelector = { by: 'all' };

/** A kind under the types of its own parameters, kept among others. */
export const stepKind = <Parameters extends z.ZodType>(kind: StepKind<Parameters>): StepKind =>
  kind as unknown as StepKind;
