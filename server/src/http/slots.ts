/** So many at a time; the others wait in the order they came. */
export class Slots {
  private free: number;
  private readonly waiting: (() => void)[] = [];

  constructor(count: number) {
    this.free = count;
  }

  /** Resolves when there is a slot, with what gives it back; giving it back twice is once. */
  async take(): Promise<() => void> {
    if (this.free > 0) this.free--;
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
    let taken = true;
    return () => {
      if (!taken) return;
      taken = false;
      const next = this.waiting.shift();
      if (next) next();
      else this.free++;
    };
  }
}
