import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { Notices } from '../../state/notices';
import { type RulesPath, RulesDraft } from '../../state/rules-draft';
import type { Field } from '../../ui/form-fields';
import { RuleFields } from '../../ui/rule-fields';

/** A list of the rules whose members are alike: each with its fields, and can be copied and removed. */
@Component({
  selector: 'yb-rule-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RuleFields],
  template: `
    @for (member of members(); track $index; let i = $index) {
      <section class="member">
        <div class="row">
          <b class="grow">{{ title()(member) }}</b>
          @if (copied(); as copied) {
            <button type="button" class="quiet-button" (click)="add(copied(member))">Copy</button>
          }
          <button type="button" class="quiet-button" (click)="remove(i)">Remove</button>
        </div>
        <yb-rule-fields [class.two]="two()" [place]="[...place(), i]" [fields]="fields()" />
      </section>
    } @empty {
      <p class="faded">{{ empty() }}</p>
    }
    <button type="button" class="act" (click)="add(fresh()())">{{ addLabel() }}</button>
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
      justify-items: stretch;
    }
    .member {
      padding-bottom: 10px;
      border-bottom: 1px solid var(--rule);
    }
    .row {
      display: flex;
      align-items: center;
      gap: 12px;
      margin-bottom: 4px;
    }
    .grow {
      flex: 1;
    }
    .act {
      justify-self: start;
    }
  `,
})
export class RuleList {
  private readonly rules = inject(RulesDraft);
  private readonly notices = inject(Notices);
  readonly place = input.required<RulesPath>();
  readonly fields = input.required<readonly Field[]>();
  /** whether fields stand two in a line */
  readonly two = input(false);
  readonly title = input.required<(member: never) => string>();
  readonly fresh = input.required<() => unknown>();
  readonly copied = input<((member: never) => unknown) | null>(null);
  readonly addLabel = input.required<string>();
  readonly empty = input('None.');
  /** why a member cannot be removed; null when it can */
  readonly used = input<(member: never) => string | null>(() => null);

  protected members(): never[] {
    const value = this.rules.at(this.place());
    return Array.isArray(value) ? (value as never[]) : [];
  }

  protected add(member: unknown): void {
    this.rules.set(this.place(), [...this.members(), member]);
  }

  protected remove(i: number): void {
    const why = this.used()(this.members()[i]!);
    if (why) this.notices.say(why, true);
    else
      this.rules.set(
        this.place(),
        this.members().filter((_, k) => k !== i),
      );
  }
}
