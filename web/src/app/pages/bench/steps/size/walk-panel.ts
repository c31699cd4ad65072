import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type Agent, artKey, lengthText, type Walkable } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Operations } from '../../../../state/operations';
import { type Fact, FactTable } from '../../../../ui/fact-table';

/** Steps and slopes of the art and of its shapes, and who walks up them. */
@Component({
  selector: 'yb-walk-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FactTable],
  template: `
    @if (facts().length) {
      <section class="panel">
        <h3>Steps and slopes</h3>
        <yb-facts [facts]="facts()" [heads]="['Where one walks', 'art', 'shapes']" [wraps]="true" />
      </section>
    }
  `,
})
export class WalkPanel {
  private readonly bench = inject(BenchStore);
  private readonly operations = inject(Operations);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly found = signal<{ art: Walkable; shapes: Walkable | null } | null>(null);
  private readonly key = computed(() => {
    const document = this.document();
    return document ? { art: artKey(document), proxies: document.proxies } : null;
  });
  protected readonly facts = computed(() => {
    const found = this.found();
    return found ? walkFacts(found.art, found.shapes, this.piece()?.yard.rules.agents ?? []) : [];
  });

  constructor() {
    effect(() => {
      if (this.key()) untracked(() => void this.measure());
    });
  }

  private async measure(): Promise<void> {
    const key = this.key();
    const found = await this.operations.walk();
    if (key === this.key()) this.found.set(found);
  }
}

/** None for a piece that nobody walks up. */
export function walkFacts(art: Walkable, shapes: Walkable | null, agents: readonly Agent[]): Fact[] {
  const figures: Fact[] = [];
  const either = (pick: (walk: Walkable) => string | null, name: string) => {
    const [now, text] = [pick(art), shapes && pick(shapes)];
    if (now || text) figures.push({ name, now: now ?? 'none', text: text ?? (shapes ? 'none' : '—') });
  };
  either(({ stairs }) => stairs && `${stairs.steps} of ${lengthText(stairs.rise)}`, 'steps');
  either(({ stairs }) => stairs && lengthText(stairs.run), 'run of a step');
  either(({ slopeDegrees }) => (slopeDegrees === null ? null : `${slopeDegrees}°`), 'slope');
  if (!figures.length) return [];
  const says = (walk: Walkable | null, agent: Agent) => {
    if (!walk) return '—';
    const fault = faultFor(walk, agent);
    return fault ? `✕ ${fault}` : '✓ walks up';
  };
  return [
    ...figures,
    ...agents.map((agent) => ({
      name: agent.name,
      now: says(art, agent),
      text: says(shapes, agent),
      bad: shapes !== null && faultFor(shapes, agent) !== null,
    })),
  ];
}

function faultFor({ stairs, slopeDegrees }: Walkable, { step, slopeDegrees: most }: Agent): string | null {
  if (stairs && stairs.rise > step + 1e-6) return `${lengthText(stairs.rise - step)} too high`;
  if (slopeDegrees !== null && slopeDegrees > most) return `${slopeDegrees - most}° too steep`;
  return null;
}
