import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import {
  PART_ROLES,
  STEP_KINDS,
  type RecipeStep,
  type StepField,
  stepFields,
  stepKindOf,
  targetsOf,
} from '@yard-brace/core';
import { type RulesPath, RulesDraft } from '../state/rules-draft';
import { Choice, type Option } from './choice';
import { type Field, worded } from './form-fields';
import { RuleFields } from './rule-fields';

/** Every kind of step, to be chosen from. */
export const STEP_OPTIONS: Option<string>[] = Object.entries(STEP_KINDS).map(([value, { label }]) => ({
  label,
  value,
}));
const SELECTORS: Option<string>[] = [
  { label: 'All parts', value: 'all' },
  { label: 'Parts by name', value: 'name' },
  { label: 'Parts that are like this', value: 'where' },
];
const FIRST_SELECTOR: Record<string, unknown> = {
  all: undefined,
  name: { by: 'name', names: [] },
  where: { by: 'where', name: '*' },
};
const NAME_FIELDS: Field[] = [{ label: 'Names', path: ['names'], as: 'lines', note: 'a name on each line' }];
const WHERE_FIELDS: Field[] = [
  {
    label: 'Name',
    path: ['name'],
    as: 'text',
    optional: true,
    note: '* stands for any characters, ? for one',
  },
  { label: 'Material', path: ['material'], as: 'text', optional: true },
  { label: 'Longest side at least', path: ['minMetres'], as: 'value', note: 'm' },
  { label: 'At most', path: ['maxMetres'], as: 'value', note: 'm' },
  { label: 'Shells at least', path: ['minShells'], as: 'value' },
  { label: 'Shells at most', path: ['maxShells'], as: 'value' },
  {
    label: 'Role',
    path: ['role'],
    as: 'choice',
    options: [{ label: 'any', value: undefined }, ...worded(PART_ROLES)],
  },
  { label: 'All others instead', path: ['except'], as: 'flag' },
];
const OTHERWISE: Option<string>[] = [
  { label: 'As usual', value: '' },
  { label: 'Stop, and leave the piece as it was', value: 'stop' },
  { label: 'Skip the step', value: 'skip' },
];

/** One step of a recipe: what it does to which parts, and what becomes of a piece that it does not fit. */
@Component({
  selector: 'yb-step-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, RuleFields],
  template: `
    @if (number(); as number) {
      <div class="row">
        <span class="figures faded">{{ number }}</span>
        <b class="grow">{{ kind()?.label ?? step().op }}</b>
        @if (number > 1) {
          <button type="button" class="quiet-button" (click)="up.emit()">Move up</button>
        }
        <button type="button" class="quiet-button" (click)="removed.emit()">Remove</button>
      </div>
    }
    @if (fields().length) {
      <yb-rule-fields class="two" [place]="parameters()" [fields]="fields()" />
    }
    <div class="row">
      @if (kind()?.parts) {
        <yb-choice
          label="Which parts"
          [options]="selectors"
          [value]="step().parts?.by ?? 'all'"
          (chosen)="selectBy($event)"
        />
      }
      <span class="faded">Where it does not apply</span>
      <yb-choice
        label="Where it does not apply"
        [options]="otherwise"
        [value]="step().otherwise ?? ''"
        (chosen)="set('otherwise', $event || undefined)"
      />
    </div>
    @switch (step().parts?.by) {
      @case ('name') {
        <yb-rule-fields [place]="parts()" [fields]="nameFields" />
      }
      @case ('where') {
        <yb-rule-fields class="two" [place]="parts()" [fields]="whereFields" />
      }
    }
    @if (issue(); as says) {
      <p class="wrong" role="alert">{{ says }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      padding: 8px 0 10px;
      border-bottom: 1px dotted var(--rule);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 10px;
    }
    .grow {
      flex: 1;
    }
    .wrong {
      padding: 2px 8px;
      border-left: 4px solid var(--vermilion);
      color: var(--vermilion);
    }
  `,
})
export class StepForm {
  private readonly rules = inject(RulesDraft);
  readonly place = input.required<RulesPath>();
  /** its place among others; null for a step that stands alone */
  readonly number = input<number | null>(null);
  readonly up = output();
  readonly removed = output();
  protected readonly selectors = SELECTORS;
  protected readonly otherwise = OTHERWISE;
  protected readonly nameFields = NAME_FIELDS;
  protected readonly whereFields = WHERE_FIELDS;
  protected readonly step = computed(() => this.rules.at(this.place()) as RecipeStep);
  protected readonly kind = computed(() => stepKindOf(this.step().op));
  protected readonly parameters = computed(() => [...this.place(), 'parameters']);
  protected readonly parts = computed(() => [...this.place(), 'parts']);
  protected readonly fields = computed(() => stepFields(this.step().op).map((field) => this.fieldOf(field)));
  /** what is wrong with the step itself, and with no field of it */
  protected readonly issue = computed(() =>
    [this.place(), [...this.place(), 'op'], this.parts()]
      .map((place) => this.rules.issueAt(place))
      .find((says) => says !== null),
  );

  protected set(field: string, value: unknown): void {
    this.rules.set([...this.place(), field], value);
  }

  protected selectBy(by: string): void {
    this.set('parts', FIRST_SELECTOR[by]);
  }

  private fieldOf({ name, label, as, unit, options, required, default: fallback }: StepField): Field {
    const own = { label, path: [name], fallback };
    const known = this.known(name);
    if (known) return { ...own, as: 'choice', options: known };
    const usual = fallback === undefined ? 'as usual' : `as usual (${String(fallback)})`;
    const any: Option<unknown>[] = required ? [] : [{ label: usual, value: undefined }];
    switch (as) {
      case 'choice':
        return {
          ...own,
          as,
          options: [...any, ...options.map((value) => ({ label: worded([String(value)])[0]!.label, value }))],
        };
      case 'flag':
        return { ...own, as };
      case 'text':
        return { ...own, as, optional: !required };
      case 'number':
        // A number that may be left out can be emptied.
        return required
          ? { ...own, as, unit, digits: unit ? 6 : 4 }
          : { ...own, as: 'value', ...(unit ? { note: unit } : {}) };
      case 'json':
        return { ...own, as: 'value' };
    }
  }

  /** What a yard has of it. */
  private known(name: string): Option<unknown>[] | null {
    const rules = this.rules.rules();
    if (!rules) return null;
    const of = (list: readonly { id: string; name: string }[]) =>
      list.map(({ id, name }) => ({ label: name, value: id }));
    if (name === 'agent')
      return [
        { label: 'whom the piece is judged for', value: undefined },
        { label: 'nobody (full detail)', value: null },
        ...of(rules.agents),
      ];
    return name === 'target' ? of(targetsOf(rules)) : null;
  }
}
