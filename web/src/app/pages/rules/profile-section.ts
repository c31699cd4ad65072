import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { type Collision, profileById } from '@yard-brace/core';
import { RulesDraft } from '../../state/rules-draft';
import { Choice, type Option } from '../../ui/choice';
import { FRESH_COLLISION, profileGroups, SETTING_FIELDS, WARNING_FIELDS } from './profile-fields';
import { RuleFields } from '../../ui/rule-fields';
import { RuleList } from './rule-list';

const WAYS: Option<Collision['by']>[] = [
  { label: 'Token before the name', value: 'name-prefix' },
  { label: 'Token behind the name', value: 'name-suffix' },
  { label: 'Child node', value: 'child-node' },
  { label: 'Second file', value: 'second-file' },
  { label: 'glTF extension', value: 'gltf-extension' },
  { label: 'USD schema', value: 'usd-schema' },
];

/** Every value of one profile in a form; one that ships is only shown as its sample. */
@Component({
  selector: 'yb-profile-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, RuleFields, RuleList],
  template: `
    <button type="button" class="quiet-button" (click)="closed.emit()">All targets</button>
    @if (at() < 0) {
      <p class="faded">
        “{{ shipped()?.name }}” ships with the product and stays as it is. Copy it to change it; beside this
        is what it does.
      </p>
    } @else {
      @if (issue(); as says) {
        <p class="wrong" role="alert">{{ says }}</p>
      }
      @for (group of groups(); track group.title) {
        <h2>{{ group.title }}</h2>
        @if (group.title === 'Collision') {
          <div class="row">
            <span class="label">Collision is told by</span>
            <yb-choice
              label="Collision is told by"
              [options]="ways"
              [value]="by()"
              (chosen)="tellBy($event)"
            />
          </div>
        }
        <yb-rule-fields [place]="place()" [fields]="group.fields" />
      }
      <h2>Settings on import</h2>
      <yb-rule-list
        [place]="[...place(), 'sheet', 'settings']"
        [fields]="settings"
        [title]="nameOf"
        [fresh]="freshSetting"
        addLabel="Add a setting"
      />
      <h2>Warnings on import</h2>
      <yb-rule-list
        [place]="[...place(), 'sheet', 'warnings']"
        [fields]="warnings"
        [title]="warningOf"
        [fresh]="freshWarning"
        addLabel="Add a warning"
      />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 12px;
      justify-items: stretch;
    }
    .row {
      display: grid;
      grid-template-columns: 150px minmax(0, 1fr);
      gap: 6px 12px;
      align-items: center;
    }
    .label {
      color: var(--faded);
    }
    button {
      justify-self: start;
    }
    h2 {
      margin-top: 6px;
      border-bottom: 1px solid var(--rule);
    }
    .wrong {
      padding: 2px 8px;
      border-left: 4px solid var(--vermilion);
      color: var(--vermilion);
    }
  `,
})
export class ProfileSection {
  private readonly rules = inject(RulesDraft);
  readonly profile = input.required<string>();
  readonly closed = output<void>();
  protected readonly ways = WAYS;
  protected readonly settings = SETTING_FIELDS;
  protected readonly warnings = WARNING_FIELDS;
  protected readonly at = computed(() =>
    ((this.rules.at(['profiles']) ?? []) as { id: string }[]).findIndex(({ id }) => id === this.profile()),
  );
  protected readonly place = computed(() => ['profiles', this.at()]);
  protected readonly shipped = computed(() => profileById(this.profile()));
  protected readonly by = computed(
    () => this.rules.at([...this.place(), 'collision', 'by']) as Collision['by'],
  );
  protected readonly groups = computed(() => profileGroups(this.by()));
  /** what is wrong with the profile as a whole is said above its form, wherever it is */
  protected readonly issue = computed(() => this.rules.issueAt(this.place(), true));
  protected readonly nameOf = ({ name }: { name: string }) => name || 'A setting';
  protected readonly warningOf = ({ says }: { says: string }) => says || 'A warning';
  protected readonly freshSetting = () => ({ name: 'Setting', value: 'on', why: 'It is needed.' });
  protected readonly freshWarning = () => ({ says: 'A warning that appears.', matters: false });

  protected tellBy(by: Collision['by']): void {
    this.rules.set([...this.place(), 'collision'], FRESH_COLLISION[by]);
  }
}
