import {
  AssembleError,
  DecomposeError,
  FormatError,
  PlanError,
  ReshapeError,
  WrapError,
} from '@yard-brace/core';
import { UsageError } from './usage-error.js';

/** Errors that carry a sentence for the person. */
const KNOWN = [UsageError, FormatError, WrapError, ReshapeError, DecomposeError, AssembleError, PlanError];

/** What a person is told of an error; null where that is no matter of theirs. */
export const problemOf = (error: unknown): string | null =>
  KNOWN.some((kind) => error instanceof kind) || isFileProblem(error) ? (error as Error).message : null;

const isFileProblem = (error: unknown): error is NodeJS.ErrnoException =>
  error instanceof Error && 'syscall' in error;
