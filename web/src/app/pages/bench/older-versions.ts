import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import type { Versions } from '@yard-brace/contract';
import { Button } from 'primeng/button';
import { Api } from '../../api/api';
import { Notices } from '../../state/notices';
import { momentText } from '../../ui/moment';

/** The saved states of a piece that cannot be opened as it was last saved, to go back to one. */
@Component({
  selector: 'yb-older-versions',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    <h2>Older versions</h2>
    <ul>
      @for (each of older(); track each.version) {
        <li>
          <span class="figures">{{ momentText(each.savedAt) }}</span>
          <p-button
            label="Go back to this one"
            size="small"
            [outlined]="true"
            (onClick)="restore(each.version)"
          />
        </li>
      } @empty {
        <li class="faded">none is kept; remove the piece on the shelf and import its file again</li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      max-width: 420px;
      margin: 0 auto;
    }
    h2 {
      font-size: 14px;
    }
    li {
      display: flex;
      align-items: center;
      justify-content: space-between;
      padding: 4px 0;
      border-bottom: 1px dotted var(--rule);
    }
  `,
})
export class OlderVersions {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  readonly piece = input.required<number>();
  readonly restored = output();
  private readonly versions = signal<Versions>([]);
  protected readonly older = () => this.versions().slice(1);
  protected readonly momentText = momentText;

  constructor() {
    effect(() => {
      this.api.versions(this.piece()).then(
        (versions) => this.versions.set(versions),
        (error) => this.notices.error(error),
      );
    });
  }

  protected async restore(from: number): Promise<void> {
    try {
      await this.api.restore(this.piece(), this.versions()[0]!.version, from);
      this.restored.emit();
    } catch (error) {
      this.notices.error(error);
    }
  }
}
