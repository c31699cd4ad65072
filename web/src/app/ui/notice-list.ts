import { ChangeDetectionStrategy, Component, effect, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MessageService, type ToastMessageOptions } from 'primeng/api';
import { Toast } from 'primeng/toast';
import { Notices } from '../state/notices';

/** What there is to say, at the foot of the page, until it is dismissed. */
@Component({
  selector: 'yb-notices',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Toast],
  template: `
    <p-toast position="bottom-left" [baseZIndex]="1200" (onClose)="dismissed($event.message)">
      <ng-template #message let-message>
        <p class="notice" [class.bad]="message.severity === 'error'">{{ message.detail }}</p>
      </ng-template>
    </p-toast>
  `,
  styles: `
    .notice {
      flex: 1;
      margin: 0;
      overflow-wrap: anywhere;
    }
  `,
})
export class NoticeList {
  private readonly notices = inject(Notices);
  private readonly messages = inject(MessageService);
  private readonly shown = toSignal(this.notices.notices$, { requireSync: true });
  private readonly told = new Set<number>();

  constructor() {
    effect(() => {
      const notices = this.shown();
      const gone = [...this.told].some((id) => !notices.some((notice) => notice.id === id));
      if (gone) {
        this.messages.clear();
        this.told.clear();
      }
      for (const { id, text, bad } of notices) {
        if (this.told.has(id)) continue;
        this.told.add(id);
        this.messages.add({ id, detail: text, severity: bad ? 'error' : 'info', sticky: true });
      }
    });
  }

  protected dismissed({ id }: ToastMessageOptions): void {
    if (typeof id !== 'number') return;
    this.told.delete(id);
    this.notices.dismiss(id);
  }
}
