/** What the person typed cannot be done as typed. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}
