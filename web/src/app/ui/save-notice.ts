import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { Button } from 'primeng/button';
import { SavedWork } from '../state/saved-work';
import { Notices } from '../state/notices';
import { momentText } from './moment';
import { savingWhy } from './saving-text';

/** A change that is not saved: why, and what there is to decide. */
@Component({
  selector: 'yb-save-notice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    @if (conflict(); as other) {
      <div class="line" role="alert" data-testid="conflict">
        <span
          >{{ other.message }}
          <span class="faded">The other one was saved {{ momentText(other.savedAt) }}.</span></span
        >
        <p-button label="Load their version" size="small" [outlined]="true" (onClick)="loadTheirs()" />
        <p-button label="Keep mine as a copy" size="small" (onClick)="keepMine()" />
      </div>
    }
    @if (why()) {
      <div class="line" role="alert" data-testid="unsaved">{{ why() }}</div>
    }
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 12px;
      padding: 7px 14px;
      background: var(--card);
      border-bottom: 1px solid var(--ink);
      border-left: 6px solid var(--vermilion);
    }
    .line > span {
      flex: 1;
    }
  `,
})
export class SaveNotice {
  private readonly work = inject(SavedWork);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly saving = toSignal(this.work.saving$, { requireSync: true });
  protected readonly why = computed(() => savingWhy(this.saving()));
  protected readonly conflict = computed(() => {
    const saving = this.saving();
    return saving.state === 'conflict' ? saving.with : null;
  });
  protected readonly momentText = momentText;

  protected async loadTheirs(): Promise<void> {
    await this.work.loadTheirs().catch((error) => this.notices.error(error));
  }

  protected async keepMine(): Promise<void> {
    try {
      await this.router.navigateByUrl(await this.work.keepMineAt());
    } catch (error) {
      this.notices.error(error);
    }
  }
}
