import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { ApexOptions } from 'apexcharts';
import { shownField } from '@yard-brace/core';
import { shownUnit } from '../../../../state/shown-unit';
import { Chart } from '../../../../ui/chart';

/** One point of the chart. */
export interface LadderPoint {
  shapes: number;
  millimetres: number;
}

const TIDE = '#17616E';
const MOSS = '#41703F';

/** What each further shape buys: deviation over the number of shapes, and the line that is good enough. */
@Component({
  selector: 'yb-ladder-chart',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span class="unit figures" aria-hidden="true">{{ shown().unit }} off</span>
    <yb-chart [options]="options()" [label]="label()" />`,
  styles: `
    :host {
      position: relative;
      display: block;
      min-height: 132px;
    }
    .unit {
      position: absolute;
      z-index: 1;
      top: 2px;
      right: 6px;
      padding-left: 4px;
      font-size: 11px;
      color: var(--faded);
      background: var(--card);
    }
  `,
})
export class LadderChart {
  readonly points = input.required<readonly LadderPoint[]>();
  /** millimetres that whoever collides does not mind; null when nobody was named */
  readonly enough = input<number | null>(null);
  readonly at = input(0);
  readonly turn = output<number>();

  /** the unit of the yard's lengths, and how many of it a millimetre is */
  protected readonly shown = computed(() => shownField('mm', 1, shownUnit()));
  private readonly text = (millimetres: number) => rounded(millimetres * this.shown().factor);

  protected readonly label = computed(
    () =>
      `Deviation by number of shapes: ${this.points()
        .map(({ shapes, millimetres }) => `${shapes}: ${this.text(millimetres)} ${this.shown().unit}`)
        .join(', ')}`,
  );

  protected readonly options = computed(() => this.drawing());

  private drawing(): ApexOptions {
    const points = this.points();
    const enough = this.enough();
    const most = Math.max(...points.map(({ millimetres }) => millimetres), (enough ?? 0) * 1.2, 1e-6);
    return {
      chart: {
        type: 'line',
        height: 132,
        events: {
          markerClick: (_event: unknown, _chart: unknown, { dataPointIndex }: { dataPointIndex: number }) =>
            this.turn.emit(dataPointIndex),
          click: (_event: unknown, _chart: unknown, picked: { dataPointIndex: number }) => {
            if (picked.dataPointIndex >= 0) this.turn.emit(picked.dataPointIndex);
          },
        },
      },
      series: [{ name: 'off', data: points.map(({ millimetres }) => millimetres) }],
      stroke: { width: 1.5, colors: [TIDE], curve: 'straight' },
      markers: {
        size: 3.5,
        colors: ['#FCFAF5'],
        strokeColors: TIDE,
        strokeWidth: 1.5,
        hover: { sizeOffset: 1 },
        discrete: [
          { seriesIndex: 0, dataPointIndex: this.at(), size: 6, fillColor: TIDE, strokeColor: TIDE },
        ],
      },
      grid: {
        borderColor: '#D9D1C1',
        xaxis: { lines: { show: false } },
        padding: { top: -18, right: 14, bottom: -8, left: 6 },
      },
      xaxis: {
        categories: points.map(({ shapes }) => String(shapes)),
        labels: { show: false },
        axisTicks: { show: false },
        axisBorder: { show: false },
        tooltip: { enabled: false },
        crosshairs: { show: false },
      },
      yaxis: {
        min: 0,
        max: roundAbove(most),
        tickAmount: 2,
        labels: {
          formatter: (value: number) => this.text(value),
          style: { fontSize: '11px' },
          offsetX: -8,
        },
      },
      tooltip: {
        custom: ({ dataPointIndex }: { dataPointIndex: number }) => {
          const point = this.points()[dataPointIndex];
          return point
            ? `<span class="ladder-tip">${point.shapes} ${point.shapes === 1 ? 'shape' : 'shapes'}, ${this.text(point.millimetres)} ${this.shown().unit}</span>`
            : '';
        },
      },
      legend: { show: false },
      annotations: {
        yaxis:
          enough === null
            ? []
            : [
                {
                  y: enough,
                  borderColor: MOSS,
                  strokeDashArray: 4,
                  label: {
                    text: 'good enough',
                    position: 'left',
                    textAnchor: 'start',
                    borderWidth: 0,
                    offsetX: 4,
                    offsetY: -2,
                    style: { background: 'transparent', color: MOSS, fontSize: '11px' },
                  },
                },
              ],
      },
    };
  }
}

/** The next round number: 1, 2, 4, 6 or 8 and zeros. */
function roundAbove(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value));
  return ([1, 2, 4, 6, 8, 10].find((step) => step * power >= value) ?? 10) * power;
}

const rounded = (value: number): string =>
  value >= 100
    ? value.toFixed(0)
    : value >= 1 || value === 0
      ? String(Number(value.toFixed(1)))
      : value.toPrecision(2);
