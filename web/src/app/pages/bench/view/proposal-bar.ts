import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { ArtStore } from '../../../state/art-store';
import { ViewSettingsStore } from '../../../state/view-settings';
import { Proposals } from '../../../state/proposals';

/** The proposal that is shown, wherever it comes from: what it does, its figures beside what is there now, keep or discard. */
@Component({
  selector: 'yb-proposal-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    @if (proposal(); as proposal) {
      <section aria-label="Proposal" data-testid="proposal">
        <div class="line">
          <p role="status"><b>Proposed.</b> {{ proposal.title }}</p>
          @if (before()) {
            <button
              type="button"
              class="act"
              [attr.aria-pressed]="settings().asItIs"
              (click)="view.toggle('asItIs')"
              data-testid="as-it-is"
            >
              Beside as it is
            </button>
          }
          @if (!proposal.provisional) {
            <p-button
              [label]="proposal.keepLabel"
              size="small"
              (onClick)="proposals.keep()"
              data-testid="keep"
            />
          }
          <p-button
            label="Discard"
            size="small"
            [outlined]="true"
            (onClick)="proposals.discard()"
            data-testid="discard"
          />
        </div>
        @if (proposal.figures.length) {
          <dl>
            @for (figure of proposal.figures; track figure.name) {
              <div [attr.data-figure]="figure.name">
                <dt>{{ figure.name }}</dt>
                <dd class="figures">
                  @if (figure.now) {
                    <span class="now">{{ figure.now }}</span> →
                  }
                  <b [class.good]="figure.good">{{ figure.next }}</b>
                </dd>
              </div>
            }
          </dl>
        }
      </section>
    }
  `,
  styles: `
    section {
      display: grid;
      gap: 6px;
      padding: 8px 12px;
      background: var(--card);
      border: 1px solid var(--tide);
      border-left: 4px solid var(--tide);
      border-radius: var(--corner);
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      justify-content: end;
      gap: 6px 10px;
    }
    p {
      flex: 1 1 260px;
    }
    dl {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 18px;
    }
    dt {
      font-size: 11px;
      color: var(--faded);
    }
    dd {
      white-space: nowrap;
    }
    .now {
      color: var(--faded);
    }
    .good {
      color: var(--moss);
    }
  `,
})
export class ProposalBar {
  protected readonly proposals = inject(Proposals);
  protected readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  /** the art as it is, where the proposal changes it */
  protected readonly before = toSignal(inject(ArtStore).before$, { requireSync: true });
  protected readonly proposal = toSignal(this.proposals.proposal$, { requireSync: true });
}
