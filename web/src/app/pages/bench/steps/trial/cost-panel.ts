import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { ApexOptions } from 'apexcharts';
import { costText, countText } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { TrialStore } from '../../../../state/trial-store';
import { Chart } from '../../../../ui/chart';
import { type Fact, FactTable } from '../../../../ui/fact-table';

const TIDE = '#17616E';
const BRASS = '#94661C';

/** What copies of the set cost an engine on this machine, beside the art's own triangles. */
@Component({
  selector: 'yb-cost-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Chart, FactTable],
  template: `
    @if (document()?.proxies?.length) {
      <section class="panel" data-testid="cost">
        <h3>What it costs</h3>
        <div class="row">
          <button
            type="button"
            class="act"
            [disabled]="working()"
            (click)="trials.measureCost()"
            data-testid="measure-cost"
          >
            Measure on this machine
          </button>
        </div>
        @if (cost(); as cost) {
          <p data-testid="cost-says">{{ says() }}</p>
          <yb-chart [options]="options()" [label]="says()" />
          <yb-facts [facts]="facts()" />
          @if (!current()) {
            <p class="faded">The shapes have changed since; measure again.</p>
          }
        }
      </section>
    }
  `,
})
export class CostPanel {
  protected readonly trials = inject(TrialStore);
  protected readonly document = toSignal(inject(BenchStore).document$);
  protected readonly working = toSignal(this.trials.working$, { requireSync: true });
  private readonly kept = toSignal(this.trials.cost$, { initialValue: null });
  protected readonly cost = computed(() => this.kept()?.cost ?? null);
  protected readonly current = computed(() => this.kept()?.current ?? true);
  protected readonly says = computed(() => (this.cost() ? costText(this.cost()!) : ''));

  protected readonly facts = computed((): Fact[] =>
    (this.cost()?.shapes ?? []).map(({ copies, build, bytes }) => ({
      name: `${countText(copies)} ${copies === 1 ? 'copy' : 'copies'}`,
      text: `built in ${build.toFixed(1)} ms, ${(bytes / 1e6).toFixed(2)} MB`,
    })),
  );

  protected readonly options = computed((): ApexOptions => {
    const cost = this.cost();
    const copies = (cost?.shapes ?? []).map((point) => point.copies);
    const line = (points: readonly { copies: number; step: number }[]) =>
      copies.map((count) => points.find((point) => point.copies === count)?.step ?? null);
    return {
      chart: { type: 'line', height: 150 },
      series: [
        { name: 'shapes', data: line(cost?.shapes ?? []) },
        { name: 'triangles', data: line(cost?.triangles ?? []) },
      ],
      colors: [TIDE, BRASS],
      stroke: { width: 1.5, curve: 'straight' },
      markers: { size: 3 },
      grid: { borderColor: '#D9D1C1', padding: { top: -14, right: 10, bottom: -4, left: 4 } },
      xaxis: {
        categories: copies.map(String),
        title: { text: 'copies', style: { fontSize: '11px', fontWeight: 400 } },
        labels: { style: { fontSize: '11px' } },
        tooltip: { enabled: false },
      },
      yaxis: {
        min: 0,
        tickAmount: 3,
        labels: { formatter: (value: number) => `${value.toPrecision(2)} ms`, style: { fontSize: '11px' } },
      },
      legend: { position: 'top', horizontalAlign: 'right', fontSize: '11px', offsetY: -4 },
      tooltip: {
        x: { show: false },
        y: { formatter: (value: number) => `${value.toPrecision(2)} ms a step` },
      },
    };
  });
}
