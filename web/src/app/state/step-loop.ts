const STEPS_A_SECOND = 60;
/** A page that was away goes on from where it was, and does not catch up. */
const MAX_STEPS_AT_ONCE = 6;

/** Steps of time as they fall due with the frames of the page, asked for one lot after the other. */
export class StepLoop {
  private frame = 0;
  private owed = 0;
  private last = 0;
  private asking = false;

  /**
   * @param pace of real time; null stops it
   * @param advance makes so many steps
   */
  constructor(
    private readonly pace: () => number | null,
    private readonly advance: (steps: number) => Promise<void>,
  ) {}

  start(): void {
    if (this.frame) return;
    this.last = performance.now();
    this.frame = requestAnimationFrame((now) => this.tick(now));
  }

  stop(): void {
    cancelAnimationFrame(this.frame);
    this.frame = 0;
  }

  private tick(now: number): void {
    this.frame = 0;
    const pace = this.pace();
    if (pace === null) return;
    this.owed = Math.min(MAX_STEPS_AT_ONCE, this.owed + ((now - this.last) / 1000) * STEPS_A_SECOND * pace);
    this.last = now;
    const steps = Math.floor(this.owed);
    if (steps > 0 && !this.asking) {
      this.owed -= steps;
      this.asking = true;
      void this.advance(steps).finally(() => (this.asking = false));
    }
    this.frame = requestAnimationFrame((next) => this.tick(next));
  }
}
