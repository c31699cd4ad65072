import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  input,
  type OnDestroy,
  signal,
  viewChild,
} from '@angular/core';
import type ApexCharts from 'apexcharts';
import type { ApexOptions } from 'apexcharts';

/** The looks that every chart shares; what one chart adds is merged over them. */
const LOOKS = {
  animations: { enabled: false },
  toolbar: { show: false },
  zoom: { enabled: false },
  selection: { enabled: false },
  fontFamily: 'JetBrains Mono Variable, monospace',
  foreColor: '#56636A',
  parentHeightOffset: 0,
};

/** A chart of ApexCharts, loaded when it is first shown. */
@Component({
  selector: 'yb-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div #place role="img" [attr.aria-label]="label()"></div>`,
  styles: `
    :host {
      display: block;
      /* The chart takes the width it is given, and never asks for the one it had. */
      contain: inline-size;
    }
  `,
})
export class Chart implements OnDestroy {
  readonly options = input.required<ApexOptions>();
  /** what the chart shows, in words */
  readonly label = input.required<string>();
  /** settled when the chart was first drawn, or will not be because its page has gone */
  readonly drawn: Promise<void>;
  private readonly place = viewChild.required<ElementRef<HTMLElement>>('place');
  private readonly ready = signal<ApexCharts | null>(null);
  private gone = false;

  constructor() {
    this.drawn = new Promise((resolve, reject) => {
      afterNextRender(() => void this.open().then(resolve, reject));
    });
    effect(() => {
      const chart = this.ready();
      const options = this.withLooks();
      if (chart) void chart.updateOptions(options, false, false, false);
    });
  }

  ngOnDestroy(): void {
    this.gone = true;
    this.ready()?.destroy();
  }

  private async open(): Promise<void> {
    const { default: Library } = await import('apexcharts');
    const place = this.place().nativeElement;
    // The library refuses an element that is no longer on a page.
    if (this.gone || !place.isConnected) return;
    const chart = new Library(place, this.withLooks());
    await chart.render();
    if (this.gone) chart.destroy();
    else this.ready.set(chart);
  }

  private withLooks(): ApexOptions {
    const options = this.options();
    const nonce = document.querySelector('yb-root')?.getAttribute('ngCspNonce') ?? undefined;
    return { ...options, chart: { ...LOOKS, nonce, ...options.chart } };
  }
}
