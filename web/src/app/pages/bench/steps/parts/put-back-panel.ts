import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { isManifestFile, type Manifest, putBackBy, readManifest } from '@yard-brace/core';
import type { Delivery } from '@yard-brace/contract';
import { Api } from '../../../../api/api';
import { BenchStore } from '../../../../state/bench-store';
import { Notices } from '../../../../state/notices';
import { Operations } from '../../../../state/operations';
import { Choice, type Option } from '../../../../ui/choice';
import { momentText } from '../../../../ui/moment';

/** Parts back where they were when the piece was delivered, by the manifest that went with it. */
@Component({
  selector: 'yb-put-back-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice],
  template: `
    <section class="panel">
      <h3>Put parts back as they were delivered</h3>
      @if (options().length) {
        <yb-choice
          class="grow"
          label="Delivery whose places are taken"
          [options]="options()"
          [value]="taken()"
          (chosen)="chosen.set($event)"
        />
      }
      <div class="row">
        @if (options().length) {
          <button type="button" class="act" (click)="fromDelivery()" data-testid="put-back">Put back</button>
        }
        <input
          #file
          type="file"
          hidden
          accept=".json"
          (change)="fromFile(file)"
          data-testid="manifest-file"
        />
        <button type="button" class="act" (click)="file.click()">From a manifest …</button>
      </div>
    </section>
  `,
})
export class PutBackPanel {
  private readonly bench = inject(BenchStore);
  private readonly api = inject(Api);
  private readonly operations = inject(Operations);
  private readonly notices = inject(Notices);
  private readonly last = toSignal(this.bench.delivered$);
  private readonly deliveries = signal<readonly Delivery[]>([]);
  protected readonly chosen = signal<number | null>(null);
  protected readonly options = computed((): Option<number>[] =>
    this.deliveries().map(({ id, at, target, profile }) => ({
      label: `${momentText(at)}, for ${profile?.name ?? target}`,
      value: id,
    })),
  );
  protected readonly taken = computed(() => this.chosen() ?? this.options()[0]?.value ?? null);

  constructor() {
    effect(() => {
      this.last();
      // Without an answer there is still the file.
      this.api.deliveries(this.bench.piece.id).then(
        ({ deliveries }) => this.deliveries.set(deliveries),
        () => undefined,
      );
    });
  }

  protected async fromDelivery(): Promise<void> {
    const delivery = this.deliveries().find(({ id }) => id === this.taken());
    if (delivery) await this.putBack(() => this.manifestOf(delivery));
  }

  protected async fromFile(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    input.value = '';
    if (file) await this.putBack(async () => readManifest(file.name, await file.text()));
  }

  private async manifestOf({ id, files }: Delivery): Promise<Manifest> {
    const position = files.findIndex(({ name }) => isManifestFile(name));
    return readManifest(files[position]!.name, await this.api.deliveryText(id, position));
  }

  private async putBack(manifestOf: () => Promise<Manifest>): Promise<void> {
    try {
      const manifest = await manifestOf();
      const found = putBackBy(this.bench.document, manifest);
      if (!found)
        return this.notices.say(
          `No part has a name of that manifest, which is of “${manifest.piece}”; choose the one of this piece.`,
          true,
        );
      if (found.missing.length)
        this.notices.say(`The piece has no ${found.missing.map((name) => `“${name}”`).join(', ')} any more.`);
      await this.operations.propose(found.operation);
    } catch (error) {
      this.notices.error(error);
    }
  }
}
