import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { Ask, type Question } from './ask';

/** The question that has to be answered now. What loses nothing has the focus. */
@Component({
  selector: 'yb-ask-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Dialog, Button],
  template: `
    <p-dialog
      [role]="role"
      [header]="last().title"
      [modal]="true"
      [draggable]="false"
      [resizable]="false"
      [closeAriaLabel]="last().reject"
      [visible]="open()"
      (visibleChange)="$event || ask.answer(false)"
      [style]="{ maxWidth: '460px' }"
    >
      <p>{{ last().text }}</p>
      <ng-template #footer>
        <p-button
          [label]="last().reject"
          size="small"
          [outlined]="true"
          [autofocus]="true"
          (onClick)="ask.answer(false)"
        />
        <p-button
          [label]="last().accept"
          size="small"
          [severity]="last().destructive ? 'danger' : undefined"
          (onClick)="ask.answer(true)"
        />
      </ng-template>
    </p-dialog>
  `,
})
export class AskDialog {
  protected readonly ask = inject(Ask);
  protected readonly role = 'alertdialog';
  private readonly question = toSignal(this.ask.question$, { requireSync: true });
  protected readonly open = computed(() => this.question() !== null);
  /** the words stay while the dialog goes */
  protected readonly last = linkedSignal<Question | null, Question>({
    source: this.question,
    computation: (question, before) =>
      question ?? before?.value ?? { title: '', text: '', accept: '', reject: '' },
  });
}
