import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { artNodes, counted, type Proxy, type PROXY_ROLES } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { BenchStore } from '../../../../state/bench-store';
import { ShapeEditor } from '../../../../state/shape-editor';
import { AmountField } from '../../../../ui/amount-field';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';

type Role = (typeof PROXY_ROLES)[number];

/** To whom the chosen shapes belong, and what they do. */
@Component({
  selector: 'yb-shape-use-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Choice, InputText, NumberField],
  template: `
    @if (count()) {
      <section class="panel" data-testid="shape-use">
        <h3>What {{ what() }}</h3>
        <div class="row">
          <span class="name faded">Belongs to</span>
          <yb-choice
            class="grow"
            label="Belongs to"
            [options]="owners()"
            [value]="owner()"
            (chosen)="editor.use({ part: $event })"
          />
        </div>
        <div class="row">
          <span class="name faded">Moved by</span>
          <yb-choice
            class="grow"
            label="Moved by"
            [options]="roles"
            [value]="shared('role') ?? null"
            (chosen)="editor.use({ role: $event })"
          />
        </div>
        <div class="row">
          <span class="name faded">Surface</span>
          <input
            pInputText
            pSize="small"
            class="grow"
            maxlength="120"
            aria-label="Surface of contact"
            [value]="shared('surface') ?? ''"
            (change)="editor.use({ surface: $any($event.target).value.trim() || null })"
          />
          <span class="name faded">Response</span>
          <input
            pInputText
            pSize="small"
            class="grow"
            maxlength="120"
            aria-label="Response"
            [value]="shared('response') ?? ''"
            (change)="editor.use({ response: $any($event.target).value.trim() || null })"
          />
        </div>
        <div class="row">
          <span
            class="name faded"
            title="How far it may stand out of the art on purpose: a slope over steps, a wall that nobody sees"
            >Accepted excess</span
          >
          <yb-amount
            [value]="1000 * (shared('acceptedExcess') ?? 0)"
            unit="mm"
            [digits]="1"
            label="Accepted excess"
            (changed)="editor.use({ acceptedExcess: $event > 0 ? $event / 1000 : null })"
          />
        </div>
        @if (shared('role') === 'simulated') {
          <div class="row">
            <span class="name faded">Density</span>
            <yb-number
              [value]="shared('density') ?? null"
              unit="kg/m³"
              label="Density"
              [min]="0.1"
              [max]="100000"
              [digits]="1"
              [width]="110"
              (changed)="editor.use({ density: $event })"
            />
          </div>
        }
      </section>
    }
  `,
  styles: `
    .name {
      flex: none;
    }
    input {
      min-width: 0;
      width: 60px;
    }
  `,
})
export class ShapeUsePanel {
  protected readonly editor = inject(ShapeEditor);
  private readonly document = toSignal(inject(BenchStore).document$);
  private readonly chosen = toSignal(this.editor.chosen$, { initialValue: [] });
  protected readonly count = computed(() => this.chosen().length);
  protected readonly what = computed(() =>
    this.count() === 1 ? 'the chosen shape is for' : `${counted(this.count(), 'chosen shape')} are for`,
  );
  protected readonly owners = computed((): Option<string | null>[] => {
    const nodes = this.document()?.nodes ?? [];
    return [
      { label: 'The whole piece', value: null },
      ...artNodes(nodes).map((i) => ({ label: nodes[i]!.name, value: nodes[i]!.id })),
    ];
  });
  protected readonly owner = computed(() => this.shared('part') ?? null);
  protected readonly roles: Option<Role | null>[] = [
    { label: 'Nothing: static, as the target has it', value: null },
    { label: 'Nothing: static', value: 'static' },
    { label: 'An animation', value: 'animated' },
    { label: 'The physics: simulated', value: 'simulated' },
  ];

  /** What all chosen shapes have alike; undefined where they differ. */
  protected shared<Field extends keyof Proxy>(field: Field): Proxy[Field] | undefined {
    const [first, ...others] = this.chosen();
    return first && others.every((other) => other[field] === first[field]) ? first[field] : undefined;
  }
}
