import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { BenchStore } from '../../../../state/bench-store';
import { WrapStore, wrapText } from '../../../../state/wrap-store';
import { Check } from '../../../../ui/check';
import { NumberField } from '../../../../ui/number-field';
import { Segments } from '../../../../ui/segments';

/** Boxes or hulls round the piece or each of its shells. */
@Component({
  selector: 'yb-wrap-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Check, NumberField, Segments],
  template: `
    <section class="panel">
      <h3>Or wrap it</h3>
      <div class="row">
        <yb-segments
          label="Kind of shape"
          [options]="kinds"
          [value]="kind()"
          (chosen)="kind.set($event ?? kind())"
        />
        <yb-segments
          label="One shape around"
          [options]="pers()"
          [value]="per()"
          (chosen)="per.set($event ?? per())"
        />
      </div>
      <div class="row">
        @if (kind() === 'hull') {
          <span class="labelled grow"
            >Max corners
            <yb-number
              [value]="maxCorners()"
              (changed)="maxCorners.set($event)"
              label="Max corners"
              [min]="4"
              [max]="255"
              [digits]="0"
              [width]="58"
          /></span>
        } @else {
          <yb-check class="grow" [checked]="turned()" (changed)="turned.set($event)"
            >rotated to fit closer</yb-check
          >
        }
        <p-button
          [label]="action()"
          size="small"
          [disabled]="working()"
          (onClick)="propose()"
          data-testid="propose"
        />
      </div>
    </section>
  `,
})
export class WrapPanel {
  private readonly wrap = inject(WrapStore);
  private readonly document = toSignal(inject(BenchStore).document$);
  protected readonly working = toSignal(this.wrap.working$, { requireSync: true });
  protected readonly kind = signal<'box' | 'hull'>('box');
  protected readonly per = signal<'piece' | 'shell'>('piece');
  protected readonly turned = signal(true);
  protected readonly maxCorners = signal(64);
  protected readonly kinds: { label: string; value: 'box' | 'hull' }[] = [
    { label: 'Box', value: 'box' },
    { label: 'Hull', value: 'hull' },
  ];
  private readonly shells = computed(() => this.document()?.whole.shells ?? 0);
  protected readonly pers = computed((): { label: string; value: 'piece' | 'shell' }[] => [
    { label: 'Whole piece', value: 'piece' },
    { label: `Each of ${counted(this.shells(), 'shell')}`, value: 'shell' },
  ]);
  protected readonly action = computed(
    () => `Wrap ${wrapText({ kind: this.kind(), per: this.per() }, this.shells())}`,
  );

  protected propose(): void {
    void this.wrap.propose({
      kind: this.kind(),
      per: this.per(),
      turned: this.turned(),
      maxCorners: this.maxCorners(),
    });
  }
}
