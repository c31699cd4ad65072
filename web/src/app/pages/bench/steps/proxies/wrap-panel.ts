import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artNodes, counted, WRAP_KINDS, type WrapKind } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { BenchStore } from '../../../../state/bench-store';
import { MakeStore } from '../../../../state/make-store';
import { Selection } from '../../../../state/selection';
import { Choice, type Option } from '../../../../ui/choice';
import { Segments } from '../../../../ui/segments';
import { wrapKindName } from './wrap-kind-names';

type Per = 'piece' | 'part' | 'shell';
type Kind = WrapKind | 'suggested';

/** A shape of any kind round the piece, each of its parts or shells, or round chosen faces. */
@Component({
  selector: 'yb-wrap-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Choice, Segments],
  template: `
    <section class="panel">
      <yb-choice
        label="Kind of shape"
        [options]="kinds"
        [value]="kind()"
        (chosen)="kind.set($event ?? kind())"
        data-testid="wrap-kind"
      />
      <yb-segments
        label="One shape around"
        [options]="pers()"
        [value]="per()"
        (chosen)="per.set($event ?? per())"
      />
      <div class="row">
        <span class="grow"></span>
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
  private readonly make = inject(MakeStore);
  private readonly document = toSignal(inject(BenchStore).document$);
  private readonly faces = toSignal(inject(Selection).faces$, { requireSync: true });
  protected readonly working = toSignal(this.make.working$, { requireSync: true });
  protected readonly kind = signal<Kind>('smallest-box');
  protected readonly per = signal<Per>('piece');
  protected readonly kinds: Option<Kind>[] = (['suggested', ...WRAP_KINDS] as const).map((value) => ({
    label: wrapKindName(value),
    value,
  }));
  private readonly shells = computed(() => this.document()?.whole.shells ?? 0);
  private readonly parts = computed(() => artNodes(this.document()?.nodes ?? []).length);
  protected readonly pers = computed((): { label: string; value: Per }[] => {
    const faces = this.faces();
    if (faces)
      return [
        { label: `All ${counted(faces.count, 'face')}`, value: 'piece' },
        { label: 'Each part', value: 'part' },
        { label: 'Each shell', value: 'shell' },
      ];
    return [
      { label: 'Whole piece', value: 'piece' },
      ...(this.parts() > 1
        ? [{ label: `Each of ${counted(this.parts(), 'part')}`, value: 'part' as const }]
        : []),
      { label: `Each of ${counted(this.shells(), 'shell')}`, value: 'shell' },
    ];
  });
  private readonly what = computed(() => {
    const faces = this.faces();
    const per = this.per();
    const all = faces ? counted(faces.count, 'face') : 'the piece';
    if (per === 'piece') return all;
    if (faces) return `${all}, each ${per}`;
    return counted(per === 'part' ? this.parts() : this.shells(), per);
  });
  protected readonly action = computed(() => `Wrap ${this.what()}`);

  protected propose(): void {
    const kind = wrapKindName(this.kind()).toLowerCase();
    void this.make.propose(
      { make: 'wrap', kind: this.kind(), per: this.per(), faces: this.make.faces },
      `Wrapped ${this.what()}: ${kind}.`,
    );
  }
}
