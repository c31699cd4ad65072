import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { PROFILES, type ReadBack, readBackSchema, type TargetProfile } from '@yard-brace/core';
import { Notices } from '../../state/notices';
import { Choice } from '../../ui/choice';
import { Compute, Stopped } from '../../workers/compute';
import { ReadBackPanel } from './read-back-panel';

/** Files from anywhere, read back as one of the targets would. */
@Component({
  selector: 'yb-foreign-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Choice, ReadBackPanel],
  template: `
    <section data-testid="foreign">
      <div class="row">
        <h2>Read back {{ names() }}</h2>
        <span class="faded">as</span>
        <yb-choice
          label="As which target"
          [options]="options()"
          [value]="target()"
          (chosen)="read($event!)"
        />
        <span class="gap"></span>
        <button type="button" class="quiet-button" (click)="closed.emit()">Dismiss</button>
      </div>
      @if (report(); as report) {
        <yb-read-back-panel [report]="report" />
      }
    </section>
  `,
  styles: `
    section {
      display: grid;
      gap: 8px;
      padding: 12px 14px;
      border: 1px solid var(--rule);
      background: var(--card);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
    }
    .gap {
      flex: 1;
    }
    h2 {
      font-size: 14px;
    }
  `,
})
export class ForeignPanel {
  private readonly notices = inject(Notices);
  private readonly compute = inject(Compute);
  readonly files = input.required<readonly File[]>();
  /** profiles of the yard's own */
  readonly own = input<readonly TargetProfile[]>([]);
  readonly closed = output<void>();
  protected readonly target = signal<string | null>(null);
  protected readonly report = signal<ReadBack | null>(null);
  protected readonly names = computed(() =>
    this.files()
      .map(({ name }) => name)
      .join(', '),
  );
  private readonly profiles = computed(() => [...PROFILES, ...this.own()]);
  protected readonly options = computed(() =>
    this.profiles().map(({ id, name }) => ({ label: name, value: id })),
  );

  protected async read(id: string): Promise<void> {
    this.target.set(id);
    this.report.set(null);
    const profile = this.profiles().find((each) => each.id === id)!;
    try {
      const report = await this.compute.run(
        (jobs, progress) => jobs.readBackFiles([...this.files()], profile, progress),
        { first: `Reading ${this.names()}` },
      );
      this.report.set(readBackSchema.parse(report));
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
    }
  }
}
