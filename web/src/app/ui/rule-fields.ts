import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { typedValue } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { type RulesPath, RulesDraft } from '../state/rules-draft';
import { Check } from './check';
import { Choice, type Option } from './choice';
import { NumberField } from './number-field';
import type { Field } from './form-fields';

/** Fields of the rules, each with what is wrong with it beside it. */
@Component({
  selector: 'yb-rule-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice, InputText, NumberField, Textarea],
  template: `
    @for (field of fields(); track field.label) {
      <span class="label">{{ field.label }}</span>
      <div class="value">
        @switch (field.as) {
          @case ('number') {
            <yb-number
              [label]="field.label"
              [value]="$any(at(field))"
              [unit]="field.unit ?? ''"
              [digits]="field.digits ?? 4"
              (changed)="set(field, $event)"
            />
          }
          @case ('choice') {
            <yb-choice
              [label]="field.label"
              [options]="numbered(field.options)"
              [value]="chosenOf(field)"
              (chosen)="set(field, field.options[$event]!.value)"
            />
          }
          @case ('flag') {
            <yb-check [label]="field.label" [checked]="at(field) === true" (changed)="set(field, $event)" />
          }
          @case ('value') {
            <input
              pInputText
              pSize="small"
              class="wide figures"
              [attr.aria-label]="field.label"
              [value]="written(field)"
              (change)="set(field, typed(typedText.value))"
              #typedText
            />
          }
          @case ('lines') {
            <textarea
              pTextarea
              rows="2"
              [attr.aria-label]="field.label"
              [value]="lines(field)"
              (change)="setLines(field, area.value)"
              #area
            ></textarea>
          }
          @case ('sentence') {
            <textarea
              pTextarea
              rows="2"
              [attr.aria-label]="field.label"
              [value]="at(field) ?? ''"
              (change)="set(field, oneLine(area.value))"
              #area
            ></textarea>
          }
          @case ('set') {
            <span class="set">
              @for (option of field.options; track option.value) {
                <yb-check
                  [checked]="list(field).includes(option.value)"
                  (changed)="toggle(field, option.value, $event)"
                  >{{ option.label }}</yb-check
                >
              }
            </span>
          }
          @default {
            <input
              pInputText
              pSize="small"
              [class.wide]="field.wide"
              [attr.aria-label]="field.label"
              [value]="at(field) ?? ''"
              (change)="set(field, field.optional && !text.value.trim() ? undefined : text.value)"
              #text
            />
          }
        }
        @if (field.note) {
          <span class="faded note">{{ field.note }}</span>
        }
        @if (issue(field); as says) {
          <p class="wrong" role="alert">{{ says }}</p>
        }
      </div>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 150px minmax(0, 1fr);
      align-items: start;
      gap: 6px 12px;
    }
    @media (max-width: 820px) {
      :host,
      :host(.two) {
        grid-template-columns: minmax(90px, auto) minmax(0, 1fr) !important;
      }
      :host {
        min-width: 0;
      }
    }
    :host(.two) {
      grid-template-columns: 120px minmax(0, 1fr) 120px minmax(0, 1fr);
    }
    .label {
      padding-top: 5px;
      color: var(--faded);
    }
    .value {
      display: flex;
      align-items: center;
      flex-wrap: wrap;
      gap: 4px 10px;
      min-height: 28px;
    }
    .wide,
    textarea {
      width: 100%;
    }
    textarea {
      min-height: 28px;
      padding: 4px 8px;
      line-height: 1.4;
      field-sizing: content;
    }
    .set {
      display: flex;
      flex-wrap: wrap;
      gap: 0 14px;
    }
    .wrong {
      flex-basis: 100%;
      padding: 2px 8px;
      border-left: 4px solid var(--vermilion);
      color: var(--vermilion);
    }
  `,
})
export class RuleFields {
  private readonly rules = inject(RulesDraft);
  readonly place = input.required<RulesPath>();
  readonly fields = input.required<readonly Field[]>();

  /** A sentence wraps as it likes and is one line. */
  protected readonly oneLine = (text: string) => text.replace(/\s*\n\s*/g, ' ').trim();
  protected at(field: Field): unknown {
    return this.rules.at(this.path(field)) ?? field.fallback;
  }

  /** Options by their numbers: nothing, and none, are values that can be chosen, too. */
  protected numbered = (options: readonly Option<unknown>[]): Option<number>[] =>
    options.map(({ label }, value) => ({ label, value }));

  protected chosenOf(field: Field & { as: 'choice' }): number | null {
    const value = this.rules.at(this.path(field));
    const at = field.options.findIndex((option) => option.value === value);
    return at < 0 ? null : at;
  }

  protected issue(field: Field): string | null {
    return this.rules.issueAt(this.path(field), field.as === 'lines' || field.as === 'set');
  }

  /** An emptied text is none: what may be left out is left out. */
  protected set(field: Field, value: unknown): void {
    this.rules.set(this.path(field), value);
  }

  protected readonly typed = typedValue;

  protected written(field: Field): string {
    const value = this.at(field);
    if (value === undefined) return '';
    return typeof value === 'string' ? value : JSON.stringify(value);
  }

  protected list(field: Field): string[] {
    const value = this.at(field);
    return Array.isArray(value) ? (value as string[]) : [];
  }

  protected lines(field: Field): string {
    return this.list(field).join('\n');
  }

  protected setLines(field: Field, text: string): void {
    this.set(
      field,
      text
        .split('\n')
        .map((line) => line.trim())
        .filter(Boolean),
    );
  }

  protected toggle(field: Field & { as: 'set' }, value: string, on: boolean): void {
    const list = this.list(field).filter((each) => each !== value);
    this.set(field, on ? [...list, value] : list);
  }

  private path(field: Field): RulesPath {
    return [...this.place(), ...field.path];
  }
}
