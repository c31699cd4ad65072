import type { RunStart, Vec3 } from '@yard-brace/core';
import { GROUND } from '../still-world.js';
import type { ContactMeter } from './contact-meter.js';
import { STEP_SECONDS, type Stepped, WALK_PACE, type Walker } from './walker.js';

/** Every so many steps it is looked how the art lies to who walks. */
const LOOK_EVERY = 6;
/** So many jolts upwards, or downwards, that follow each other within so many steps shake who walks. */
const SHAKEN_STEPS = 60;
const SHAKEN_JOLTS = 3;

/** A place in a run, with the shape to blame. */
export interface RunPlace {
  at: Vec3;
  shape: number;
  metres: number;
}

interface Jolt extends RunPlace {
  step: number;
}

/** What one run meets: contacts as they come, jolts and slides as they follow each other. */
export class RunWatch {
  private readonly jolts: Jolt[] = [];
  private slid = 0;
  private slidAt: { at: Vec3; shape: number } | null = null;
  private steps = 0;

  constructor(
    private readonly meter: ContactMeter,
    private readonly joltMetres: number,
    private readonly from: RunStart,
  ) {}

  look(walker: Walker, said: Stepped): void {
    const step = this.steps++;
    this.meter.touched(walker, said, this.from);
    if (step % LOOK_EVERY === 0) this.meter.around(walker, said, this.from);
    const place = { at: walker.position, shape: said.ground?.shape ?? GROUND };
    if (Math.abs(said.jolt) > this.joltMetres) this.jolts.push({ step, ...place, metres: said.jolt });
    if (said.slides && said.ground) {
      this.slid += said.moved;
      this.slidAt ??= place;
    }
  }

  /** Jolts that shake: of each series the greatest, and how many there are. */
  shaken(): (RunPlace & { count: number })[] {
    return this.series()
      .filter(({ length }) => length >= SHAKEN_JOLTS)
      .map((series) => {
        const worst = series.reduce((a, b) => (Math.abs(b.metres) > Math.abs(a.metres) + 1e-4 ? b : a));
        const { at, shape, metres } = worst;
        return { at, shape, metres: Math.abs(metres), count: series.length };
      });
  }

  /** Jolts that stand alone: metres that they are higher than what the art has there. */
  stumbles(): RunPlace[] {
    return this.series()
      .filter(({ length }) => length < SHAKEN_JOLTS)
      .flat()
      .map(({ at, shape, metres }) => ({ at, shape, metres: Math.abs(metres) - this.meter.artRise(at) }))
      .filter(({ metres }) => metres > this.joltMetres);
  }

  private series(): Jolt[][] {
    return [1, -1].flatMap((side) => seriesOf(this.jolts.filter(({ metres }) => Math.sign(metres) === side)));
  }

  /** Where it began to slide, and how far it slid; null when it did not. */
  slide(): RunPlace | null {
    return this.slidAt && this.slid > WALK_PACE * STEP_SECONDS ? { ...this.slidAt, metres: this.slid } : null;
  }
}

/** Jolts one soon after the other. */
function seriesOf(jolts: readonly Jolt[]): Jolt[][] {
  const all: Jolt[][] = [];
  for (const jolt of jolts) {
    const last = all.at(-1);
    if (last && jolt.step - last.at(-1)!.step <= SHAKEN_STEPS) last.push(jolt);
    else all.push([jolt]);
  }
  return all;
}
