import type { Conflict, Problem } from '@yard-brace/contract';

const STATUS: Record<Problem['code'], number> = {
  'bad-request': 400,
  'not-found': 404,
  conflict: 409,
  'too-large': 413,
  refused: 422,
  broken: 422,
  failed: 500,
  unavailable: 503,
  full: 507,
};

/** A refusal with a sentence for the person; anything else thrown is a fault of ours. */
export class HttpProblem extends Error {
  override readonly name = 'HttpProblem';
  readonly status: number;

  constructor(
    readonly code: Problem['code'],
    message: string,
    readonly more: Partial<Conflict> = {},
  ) {
    super(message);
    this.status = STATUS[code];
  }
}
