import { ChangeDetectionStrategy, Component, effect, inject, viewChild } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NavigationStart, Router } from '@angular/router';
import { MessageService, type ToastMessageOptions } from 'primeng/api';
import { Toast } from 'primeng/toast';
import { Notices } from '../state/notices';

/** What there is to say, at the foot of the page. */
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
  private readonly toast = viewChild.required(Toast);
  private readonly told = new Set<number>();

  constructor() {
    const router = inject(Router);
    router.events.pipe(takeUntilDestroyed()).subscribe((event) => {
      if (event instanceof NavigationStart && pathOf(event.url) !== pathOf(router.url)) this.notices.leave();
    });
    effect(() => {
      const notices = this.shown();
      const toast = this.toast();
      // One by one: those that stay keep still.
      const stays = ({ id }: { id?: unknown }) => notices.some((notice) => notice.id === id);
      toast.messages = toast.messages?.filter(stays);
      toast.cd.markForCheck();
      for (const { id, text, bad } of notices) {
        if (this.told.has(id)) continue;
        this.told.add(id);
        this.messages.add({ id, detail: text, severity: bad ? 'error' : 'info', sticky: true });
      }
    });
  }

  protected dismissed({ id }: ToastMessageOptions): void {
    if (typeof id === 'number') this.notices.dismiss(id);
  }
}

const pathOf = (url: string): string => url.split(/[?#]/)[0]!;
