/** Why a step of a recipe does not apply to a piece, as a sentence for the person. */
export class StepError extends Error {
  override readonly name = 'StepError';
}
