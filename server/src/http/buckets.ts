/** Whoever was not heard of for so long begins anew. */
const FORGOTTEN_AFTER_MS = 3600_000;

/**
 * What each may use of something: so much at once, and so much that comes back a second. (Token buckets.)
 *
 * @param atOnce what one has who did not use any for long
 */
export class Buckets {
  private readonly left = new Map<string, { amount: number; at: number }>();
  private swept: number;

  constructor(
    private readonly atOnce: number,
    private readonly perSecond: number,
    private readonly now: () => number = () => performance.now(),
  ) {
    this.swept = now();
  }

  /** What is left for one. */
  of(who: string): number {
    const known = this.left.get(who);
    if (!known) return this.atOnce;
    return Math.min(this.atOnce, known.amount + ((this.now() - known.at) / 1000) * this.perSecond);
  }

  /** Takes so much; what is not there is owed no further than an empty bucket. */
  take(who: string, amount: number): void {
    const at = this.now();
    this.left.set(who, { amount: Math.max(0, this.of(who) - amount), at });
    if (at - this.swept < FORGOTTEN_AFTER_MS) return;
    this.swept = at;
    for (const [each, { at: last }] of this.left) if (at - last > FORGOTTEN_AFTER_MS) this.left.delete(each);
  }
}
