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
          @for (word of words(); track word.key) {
            <span class="name faded">{{ word.name }}</span>
            @if (word.options.length) {
              <yb-choice
                class="grow"
                [label]="word.label"
                [options]="word.options"
                [value]="word.value ?? null"
                (chosen)="say(word.key, $event)"
              />
            } @else {
              <input
                #field
                pInputText
                pSize="small"
                class="grow"
                maxlength="120"
                [attr.aria-label]="word.label"
                [value]="word.value ?? ''"
                (change)="say(word.key, field.value.trim() || null)"
              />
            }
          }
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
            @if (shared('density') === undefined && usualDensity() !== null) {
              <span class="faded">{{ usualDensity() }} by its surface</span>
            }
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
  private readonly bench = inject(BenchStore);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly rules = computed(() => this.piece()?.yard.rules);
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

  /** what shapes feel like and do, by the yard's own names where it has some, else by any */
  protected readonly words = computed(() => {
    const [surface, response] = [this.shared('surface'), this.shared('response')];
    const surfaces = this.rules()?.surfaces.map(({ name }) => name) ?? [];
    return [
      {
        key: 'surface',
        name: 'Surface',
        label: 'Surface of contact',
        value: surface,
        options: named(surfaces, surface),
      },
      {
        key: 'response',
        name: 'Response',
        label: 'Response',
        value: response,
        options: named(this.rules()?.responses ?? [], response),
      },
    ];
  });
  /** of the yard's surface, where the shape says none of its own */
  protected readonly usualDensity = computed(
    () => this.rules()?.surfaces.find(({ name }) => name === this.shared('surface'))?.density ?? null,
  );

  protected say(key: string, word: string | null): void {
    this.editor.use({ [key]: word });
  }

  /** What all chosen shapes have alike; undefined where they differ. */
  protected shared<Field extends keyof Proxy>(field: Field): Proxy[Field] | undefined {
    const [first, ...others] = this.chosen();
    return first && others.every((other) => other[field] === first[field]) ? first[field] : undefined;
  }
}

/** The yard's names, and one that a shape bears beside them. */
function named(names: readonly string[], own: string | undefined): Option<string | null>[] {
  if (!names.length) return [];
  const foreign = own !== undefined && !names.includes(own) ? [own] : [];
  return [
    { label: 'None', value: null },
    ...names.map((name) => ({ label: name, value: name })),
    ...foreign.map((name) => ({ label: `${name}, not in the rules`, value: name })),
  ];
}
