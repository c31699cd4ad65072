import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, lengthText } from '@yard-brace/core';
import { BenchStore } from '../../../../state/bench-store';
import { Notices } from '../../../../state/notices';
import { Picking } from '../../../../state/picking';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { AmountField } from '../../../../ui/amount-field';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { DOOR_METRES } from '../../../../viewport/layers/references-layer';

type Kind = 'figure' | 'stack' | 'tape' | 'picture';

const KINDS: readonly Option<Kind>[] = [
  { label: 'a figure, high', value: 'figure' },
  { label: 'a stack of unit cubes', value: 'stack' },
  { label: 'a tape, long', value: 'tape' },
  { label: 'a picture, high', value: 'picture' },
];
const MAX_CUBES = 100;

/** Known things beside this piece, each where it is put. */
@Component({
  selector: 'yb-references-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AmountField, Check, Choice],
  styles: `
    .file {
      position: relative;
    }
    .file input {
      position: absolute;
      inset: 0;
      opacity: 0;
      cursor: pointer;
    }
  `,
  template: `
    <section class="panel">
      <h3>References beside it</h3>
      <div class="row">
        @for (reference of references(); track reference.id) {
          <yb-check [checked]="stands(reference.id)" (changed)="view.toggleReference(reference.id)"
            >{{ reference.name }} <span class="figures faded">{{ reference.height }}</span></yb-check
          >
        }
      </div>
      <div class="row">
        <yb-choice label="Kind of reference" [options]="kinds" [value]="kind()" (chosen)="kind.set($event)" />
        <yb-amount
          [value]="size()"
          [unit]="kind() === 'stack' ? '' : 'm'"
          [label]="'Size of the reference'"
          [width]="80"
          (changed)="size.set($event)"
        />
        @if (kind() === 'picture') {
          <label class="act file">
            Choose a picture …
            <input
              type="file"
              accept="image/*"
              aria-label="Picture to stand beside"
              (change)="addPicture($event)"
            />
          </label>
        } @else {
          <button type="button" class="act" (click)="add()">Stand it beside</button>
        }
      </div>
      @if (standing().length) {
        <ul class="list">
          @for (reference of standing(); track reference.id) {
            <li>
              <span class="grow">{{ reference.name }}</span>
              <button
                type="button"
                class="act"
                [attr.aria-label]="'Place ' + reference.name"
                (click)="place(reference.id)"
              >
                Place …
              </button>
              <button
                type="button"
                class="quiet-button"
                [attr.aria-label]="'Take ' + reference.name + ' away'"
                (click)="takeAway(reference.id)"
              >
                <span class="pi pi-times" aria-hidden="true"></span>
              </button>
            </li>
          }
        </ul>
      }
    </section>
  `,
})
export class ReferencesPanel {
  private readonly bench = inject(BenchStore);
  private readonly notices = inject(Notices);
  protected readonly view = inject(ViewSettingsStore);
  private readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly piece = toSignal(this.bench.piece$);
  protected readonly references = computed(() => [
    ...(this.piece()?.yard.rules.agents ?? []).map(({ id, name, height }) => ({
      id,
      name,
      height: lengthText(height),
    })),
    { id: 'door', name: 'door', height: lengthText(DOOR_METRES.height) },
    { id: 'cube', name: 'cube', height: lengthText(1) },
  ]);
  protected readonly kinds = KINDS;
  protected readonly kind = signal<Kind>('figure');
  protected readonly size = signal(1.8);
  /** all that stand, each can be put elsewhere */
  protected readonly standing = computed(() => [
    ...this.references().filter(({ id }) => this.stands(id)),
    ...this.settings().typedReferences,
  ]);
  private readonly picking = inject(Picking);
  private added = 0;

  protected stands = (id: string): boolean => this.settings().references.includes(id);

  protected add(): void {
    const [kind, size, id] = [this.kind(), this.size(), `typed-${++this.added}`];
    if (!(size > 0)) return;
    if (kind === 'stack') {
      const cubes = Math.min(MAX_CUBES, Math.max(1, Math.round(size)));
      this.view.addReference({ id, kind, cubes, name: `stack of ${counted(cubes, 'cube')}` });
    } else if (kind === 'tape')
      this.view.addReference({ id, kind, metres: size, name: `tape of ${lengthText(size)}` });
    else if (kind === 'figure')
      this.view.addReference({ id, kind, height: size, name: `figure of ${lengthText(size)}` });
  }

  protected async addPicture(event: Event): Promise<void> {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    const url = URL.createObjectURL(file);
    try {
      const bitmap = await createImageBitmap(file);
      const ratio = bitmap.width / bitmap.height;
      bitmap.close();
      const id = `typed-${++this.added}`;
      this.view.addReference({ id, kind: 'picture', url, ratio, height: this.size(), name: file.name });
    } catch {
      URL.revokeObjectURL(url);
      this.notices.say(`${file.name} is no picture that this browser can show; choose a PNG or JPEG.`, true);
    }
  }

  protected async place(id: string): Promise<void> {
    const picked = await this.picking.ask(
      'Pick where it stands: on the piece, on one beside it, or on the ground.',
      {
        ground: true,
      },
    );
    if (picked) this.view.placeReference(id, picked.at);
  }

  protected takeAway(id: string): void {
    if (this.stands(id)) this.view.toggleReference(id);
    else this.view.removeReference(id);
  }
}
