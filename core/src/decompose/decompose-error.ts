/** Breaking up that cannot be done as asked, with a sentence for the person. */
export class DecomposeError extends Error {
  override readonly name = 'DecomposeError';
}
