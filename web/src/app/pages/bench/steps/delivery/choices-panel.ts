import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import {
  artNodes,
  CONTAINER_NAMES,
  counted,
  type DeliveryChoices,
  hasTree,
  joinable,
  MAX_VARIANT,
  type SettledChoices,
  variantName,
} from '@yard-brace/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { BenchStore } from '../../../../state/bench-store';
import { DeliveryChoicesStore } from '../../../../state/delivery-choices';
import { Selection } from '../../../../state/selection';
import { Choice, type Option } from '../../../../ui/choice';
import { Disclosure } from '../../../../ui/disclosure';
import { Deliveries } from './deliveries';

const FILES: Option<SettledChoices['files']>[] = [
  { label: 'One for the piece', value: 'piece' },
  { label: 'One for each part', value: 'part' },
  { label: 'One for each top node, merged', value: 'top-node' },
];
const HIERARCHY: Option<SettledChoices['hierarchy']>[] = [
  { label: 'Kept', value: 'kept' },
  { label: 'Flattened to one mesh', value: 'flattened' },
];
const SOLIDS: Option<SettledChoices['solids']>[] = [
  { label: 'A node each', value: 'node-each' },
  { label: 'Joined in one node', value: 'joined' },
];
const MATERIALS: Option<SettledChoices['materials']>[] = [
  { label: 'Written', value: 'written' },
  { label: 'By name only', value: 'by-name' },
  { label: 'Left out', value: 'left-out' },
];

const VALUES: Option<SettledChoices['constants']>[] = [
  { label: 'As values', value: 'as-values' },
  { label: 'As small pictures', value: 'as-pictures' },
];

const PIVOTS: Option<boolean>[] = [
  { label: 'its own', value: false },
  { label: 'the one for presentation', value: true },
];

/** A choice of the delivery that is shown, with what is in force. */
interface Row {
  label: string;
  key: keyof SettledChoices;
  options: Option<string>[];
}

/** Some were chosen for this delivery before; chosen are those on the bench now. */
type PartsThatLeave = 'all' | 'some' | 'chosen';

/** How the delivery that is shown is made up; what is not chosen is as the target's profile has it. */
@Component({
  selector: 'yb-choices-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, Disclosure, InputText, Textarea],
  template: `
    @if (settled(); as settled) {
      <section class="panel">
        <yb-disclosure [more]="summary()">
          <div class="choices">
            <span class="faded">Name</span>
            <yb-choice
              label="Name"
              [options]="names()"
              [value]="store.choices().variant ?? null"
              (chosen)="store.choose({ variant: $event ?? undefined })"
            />
            @if (parts().length > 1) {
              <span class="faded">Parts</span>
              <yb-choice
                label="Parts that leave"
                [options]="parts()"
                [value]="leaving()"
                (chosen)="choosePart($event)"
              />
            } @else if (parts()[0]; as all) {
              <span class="faded">Parts</span>
              <span class="faded">{{ all.label }}; choose some in step 2 to deliver only those</span>
            }
            @if (document()?.presentation) {
              <span class="faded">Pivot</span>
              <yb-choice
                label="Pivot that it leaves on"
                [options]="pivots"
                [value]="store.choices().presentation ?? false"
                (chosen)="store.choose({ presentation: $event || undefined })"
              />
            }
            @for (row of rows(); track row.key) {
              <span class="faded">{{ row.label }}</span>
              <yb-choice
                [label]="row.label"
                [options]="row.options"
                [value]="settled[row.key]"
                (chosen)="choose(row.key, $event)"
              />
            }
          </div>
          <div class="choices">
            <span class="faded">Code</span>
            <input
              #code
              pInputText
              pSize="small"
              maxlength="60"
              aria-label="Tracking code"
              [placeholder]="piece()!.yard.rules.nameFields.code ?? ''"
              [value]="store.choices().code ?? ''"
              (change)="store.choose({ code: code.value.trim() || undefined })"
            />
            <span class="faded">Note</span>
            <textarea
              #note
              pTextarea
              rows="2"
              maxlength="2000"
              aria-label="Note for whoever imports it"
              [value]="store.choices().note ?? ''"
              (change)="store.choose({ note: note.value.trim() || undefined })"
            ></textarea>
          </div>
          @if (store.presets().length) {
            <div class="row">
              <span class="faded">Preset</span>
              @for (preset of store.presets(); track preset.name) {
                <button type="button" class="quiet-button" (click)="store.take(preset)">
                  {{ preset.name }}
                </button>
              }
            </div>
          }
          @if (changed()) {
            <div class="row">
              <input
                pInputText
                pSize="small"
                class="grow"
                aria-label="Name of the preset"
                placeholder="Name"
                #name
              />
              <button type="button" class="quiet-button" (click)="keep(name)">Keep as a preset</button>
            </div>
            <button type="button" class="quiet-button" (click)="reset()">As the profile says</button>
          }
        </yb-disclosure>
      </section>
    }
  `,
  styles: `
    .choices + .choices {
      margin-top: 5px;
    }
    .choices {
      display: grid;
      grid-template-columns: 84px 1fr;
      align-items: center;
      gap: 5px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px 10px;
      margin: 6px 0;
    }
    .grow {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class ChoicesPanel {
  protected readonly store = inject(DeliveryChoicesStore);
  private readonly deliveries = inject(Deliveries);
  private readonly bench = inject(BenchStore);
  protected readonly piece = toSignal(this.bench.piece$);
  protected readonly document = toSignal(this.bench.document$);
  protected readonly pivots = PIVOTS;
  private readonly chosen = toSignal(inject(Selection).parts$, { requireSync: true });
  private readonly plan = computed(() => {
    const waybill = this.store.waybill();
    return waybill && typeof waybill !== 'string' ? waybill.plan : null;
  });
  protected readonly settled = computed(() => this.plan()?.choices ?? null);
  protected readonly changed = computed(() => Object.keys(this.store.choices()).some((key) => key !== 'set'));
  protected readonly summary = computed(() => (this.changed() ? 'Choices, changed' : 'Choices'));
  protected readonly rows = computed((): Row[] => {
    const { profile, choices } = this.plan()!;
    const containers = profile.containers.map((value) => ({ label: CONTAINER_NAMES[value], value }));
    const inside = choices.container === 'glb';
    const pictures = [
      inside ? { label: 'Inside the file', value: 'inside' } : { label: 'Beside the file', value: 'beside' },
      { label: 'Left out', value: 'left-out' },
    ];
    return [
      { label: 'Format', key: 'container', options: containers },
      { label: 'Files', key: 'files', options: FILES },
      ...(choices.files === 'piece' && hasTree(choices.container)
        ? [{ label: 'Hierarchy', key: 'hierarchy' as const, options: HIERARCHY }]
        : []),
      ...(joinable(profile) ? [{ label: 'Solids', key: 'solids' as const, options: SOLIDS }] : []),
      { label: 'Materials', key: 'materials', options: MATERIALS },
      ...(choices.materials === 'written'
        ? [{ label: 'Pictures', key: 'pictures' as const, options: pictures }]
        : []),
      ...(choices.pictures === 'left-out'
        ? []
        : [{ label: 'Values', key: 'constants' as const, options: VALUES }]),
    ];
  });

  /** the piece's own name, those of variants that left, and a new one */
  protected readonly names = computed((): Option<number | null>[] => {
    const { meshName } = this.document()!;
    const others = new Set(this.bench.otherMeshNames.map((name) => name.toLowerCase()));
    const target = this.store.shown()!.id;
    const known = this.deliveries.variantsFor(target);
    let fresh = Math.max(1, Number(/_(\d{1,4})$/.exec(meshName)?.[1] ?? 1), ...known) + 1;
    while (fresh < MAX_VARIANT && others.has(variantName(meshName, fresh).toLowerCase())) fresh++;
    return [
      {
        label: this.deliveries.lastFor(target) || known.length ? `${meshName}, again` : meshName,
        value: null,
      },
      ...known.map((value) => ({ label: `${variantName(meshName, value)}, again`, value })),
      { label: `${variantName(meshName, fresh)}, a new variant`, value: fresh },
    ];
  });
  /** all parts, those that are chosen on the bench, and those that were chosen for this delivery */
  protected readonly parts = computed((): Option<PartsThatLeave>[] => {
    const all = artNodes(this.document()!.nodes).length;
    const picked = this.store.choices().parts?.length;
    const chosen = this.chosen().size;
    if (all < 2) return [];
    return [
      { label: `All ${all}`, value: 'all' },
      ...(picked ? [{ label: `${counted(picked, 'part')} of ${all}`, value: 'some' as const }] : []),
      ...(chosen ? [{ label: `The ${counted(chosen, 'part')} chosen now`, value: 'chosen' as const }] : []),
    ];
  });

  protected readonly leaving = computed((): PartsThatLeave => (this.store.choices().parts ? 'some' : 'all'));

  protected choosePart(which: string): void {
    if (which === 'all') this.store.choose({ parts: undefined });
    else if (which === 'chosen') this.store.choose({ parts: [...this.chosen()] });
  }

  protected choose(key: Row['key'], value: string): void {
    this.store.choose({ [key]: value } as DeliveryChoices);
  }

  protected keep(name: HTMLInputElement): void {
    void this.store.keep(name.value);
    name.value = '';
  }

  protected reset(): void {
    const { set: _set, ...made } = this.store.choices();
    this.store.choose(
      Object.fromEntries(Object.keys(made).map((key) => [key, undefined])) as DeliveryChoices,
    );
  }
}
