import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  linkedSignal,
  signal,
  type WritableSignal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { bundleName, type Delivery, routes } from '@yard-brace/contract';
import { bytesText, counted, meshNameFrom, type SetForm, sourceKey, targetsOf } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, ApiError } from '../../api/api';
import { Notices } from '../../state/notices';
import { SetOutCheck } from '../../state/set-out-check';
import { SetOutStore } from '../../state/set-out-store';
import { Check } from '../../ui/check';
import { Choice, type Option } from '../../ui/choice';
import { verdictText } from '../deliveries/dispatch-book';

const FORMS: (Option<SetForm> & { says: string })[] = [
  {
    label: 'One file for all',
    value: 'one-file',
    says: 'Every piece is a node where it stands; copies are numbered, mirrored ones are true mirrored geometry.',
  },
  {
    label: 'A file a piece and a list of places',
    value: 'file-a-piece',
    says: 'Each piece once, on its own pivot; where everything stands is in a JSON list and in a glTF scene of instances.',
  },
  {
    label: 'A file a group',
    value: 'grouped',
    says: 'Groups leave in files of their own; what is in no group leaves together.',
  },
];

/** The set-out delivered as it stands: for which target, in which files, and what was read back. */
@Component({
  selector: 'yb-deliver-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Check, Choice, InputText],
  template: `
    <section class="panel" data-testid="deliver-panel">
      <h3>Deliver the set</h3>
      <label
        ><span class="what">For</span>
        <yb-choice
          class="grow"
          label="Target"
          [options]="targets()"
          [value]="target()"
          (chosen)="chosen.set($event)"
      /></label>
      <label
        ><span class="what">As</span>
        <yb-choice class="grow" label="Files" [options]="forms" [value]="form()" (chosen)="form.set($event)"
      /></label>
      <p class="faded">{{ says() }}</p>
      <label
        ><span class="what">Name</span>
        <input
          pInputText
          pSize="small"
          type="text"
          class="grow"
          aria-label="Name of the files"
          [value]="name()"
          #typed
          (change)="typedName.set(typed.value.trim() || null)"
      /></label>
      <p>{{ goes() }}</p>
      @if (errors()) {
        <p class="bad">Meet tells of {{ errors() }} that would stop a level. The set leaves all the same.</p>
      }
      @if (refused()) {
        <p class="bad" role="alert">{{ refused() }}</p>
        <yb-check [checked]="answered()" (changed)="answered.set($event)"
          >placed copies were seen to, deliver all the same</yb-check
        >
      }
      <div class="row">
        <p-button
          [label]="'Deliver ' + count() + ' for ' + targetName()"
          size="small"
          [disabled]="busy() || !any()"
          (onClick)="deliver()"
          data-testid="deliver-set"
        />
      </div>
      @if (left(); as left) {
        <p role="status" [class.bad]="!left.agreed" data-testid="set-verdict">{{ verdict(left) }}</p>
        @for (point of differing(left); track $index) {
          <p class="bad" data-differs>
            {{ point.point }}: expected {{ point.expected }}, found {{ point.found }}
          </p>
        }
        <ul class="list">
          @for (file of left.files; track file.name; let i = $index) {
            <li>
              <a class="grow" [href]="fileOf(left.id, i)" download>{{ file.name }}</a>
              <span class="figures">{{ bytes(file.bytes) }}</span>
            </li>
          }
        </ul>
        <a [href]="bundle(left.id)" [attr.download]="bundleOf(left)">Download all as one bundle</a>
      }
    </section>
  `,
  styles: `
    .what {
      width: 44px;
      color: var(--faded);
    }
    .bad {
      padding-left: 8px;
      border-left: 6px solid var(--vermilion);
    }
    .list a {
      overflow-wrap: anywhere;
    }
  `,
})
export class DeliverPanel {
  private readonly api = inject(Api);
  private readonly store = inject(SetOutStore);
  private readonly notices = inject(Notices);
  private readonly open = toSignal(this.store.open$, { requireSync: true });
  private readonly setOut = toSignal(this.store.setOut$, { initialValue: null });
  private readonly faults = toSignal(inject(SetOutCheck).faults$, { initialValue: [] });
  protected readonly forms = FORMS;
  protected readonly chosen = signal<string | null>(null);
  protected readonly form = signal<SetForm>('one-file');
  protected readonly busy = signal(false);
  protected readonly bytes = bytesText;
  protected readonly fileOf = routes.deliveryFile;
  protected readonly bundle = routes.deliveryBundle;
  /** what is said of one set-out goes with it */
  private readonly id = computed(() => this.open()?.id);
  protected readonly typedName = this.ofSetOut<string | null>(null);
  protected readonly answered = this.ofSetOut(false);
  protected readonly refused = this.ofSetOut('');
  protected readonly left = this.ofSetOut<Delivery | null>(null);
  private readonly profiles = computed(() => {
    const open = this.open();
    return open ? targetsOf(open.yard.rules) : [];
  });
  protected readonly targets = computed(() =>
    this.profiles().map(({ id, name }) => ({ label: name, value: id })),
  );
  protected readonly target = computed(() => this.chosen() ?? this.profiles()[0]?.id ?? null);
  protected readonly targetName = computed(
    () => this.profiles().find(({ id }) => id === this.target())?.name ?? '',
  );
  protected readonly says = computed(() => FORMS.find(({ value }) => value === this.form())!.says);
  protected readonly name = computed(() => this.typedName() ?? meshNameFrom(this.setOut()?.name ?? 'Set'));
  private readonly placements = computed(() => this.setOut()?.placements ?? []);
  protected readonly any = computed(() => this.placements().length > 0);
  protected readonly count = computed(() => counted(this.placements().length, 'piece'));
  protected readonly errors = computed(() => {
    const errors = this.faults().filter(({ words }) => words.severity === 'error').length;
    return errors ? counted(errors, 'fault') : '';
  });
  protected readonly goes = computed(() => {
    const kinds = new Set(this.placements().map(sourceKey)).size;
    return this.any()
      ? `${this.count()} of ${counted(kinds, 'kind')} leave, hidden ones too.`
      : 'Nothing stands here yet.';
  });

  private ofSetOut<T>(first: T): WritableSignal<T> {
    return linkedSignal<number | undefined, T>({ source: this.id, computation: () => first });
  }

  protected async deliver(): Promise<void> {
    const target = this.target();
    if (target === null) return;
    const { id } = this.store.current;
    this.busy.set(true);
    this.refused.set('');
    try {
      const version = await this.store.settled();
      const [first] = await this.api.deliverSet(id, {
        version,
        target,
        form: this.form(),
        name: this.name(),
        choices: {},
        answered: this.answered(),
      });
      // Another set-out may have been opened meanwhile.
      if (this.store.current.id !== id) return;
      this.left.set(first ?? null);
      this.answered.set(false);
    } catch (error) {
      if (error instanceof ApiError && error.code === 'refused') this.refused.set(error.message);
      else this.notices.error(error);
    } finally {
      this.busy.set(false);
    }
  }

  protected verdict({ agreed, comparison }: Delivery): string {
    return verdictText({
      agreed,
      differ: comparison.filter(({ agrees }) => !agrees).length,
      substituted: comparison.filter(({ substituted }) => substituted).length,
    });
  }

  protected bundleOf({ files, choices }: Delivery): string {
    return bundleName(
      files.map((file) => file.name),
      choices,
    );
  }

  protected differing({ comparison }: Delivery) {
    return comparison.filter(({ agrees, substituted }) => !agrees && !substituted);
  }
}
