import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { countText, type Extra } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Check } from './check';

const KINDS: Record<Extra['kind'], string> = {
  piece: 'piece',
  aside: 'set aside',
  shape: 'shape that collides',
};

/** What a file holds beside its art, each to be taken or left out before anything of it is stored. */
@Component({
  selector: 'yb-extras-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Check],
  template: `
    <ul>
      @for (extra of extras(); track extra.id) {
        <li>
          <yb-check [checked]="!left().has(extra.id)" (changed)="take(extra.id, $event)">{{
            extra.name
          }}</yb-check>
          <span class="faded figures">{{ words(extra) }}</span>
        </li>
      }
    </ul>
    <div class="row">
      <button type="button" class="quiet-button" (click)="all()">
        {{ left().size ? 'Tick all' : 'Tick none' }}
      </button>
      <p-button
        label="Import what is ticked"
        size="small"
        [disabled]="!some()"
        (onClick)="chosen.emit(left())"
      />
    </div>
  `,
  styles: `
    :host {
      display: block;
      flex: 1 0 100%;
      padding: 2px 0 6px 14px;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 10px;
      padding: 1px 0;
    }
    .row {
      display: flex;
      justify-content: end;
      align-items: center;
      gap: 12px;
      margin-top: 4px;
    }
  `,
})
export class ExtrasChoice {
  readonly extras = input.required<readonly Extra[]>();
  /** ids of those that are left out */
  readonly chosen = output<ReadonlySet<string>>();
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  /** of several pieces one at least is taken */
  protected readonly some = computed(() => {
    const pieces = this.extras().filter(({ kind }) => kind === 'piece');
    return pieces.length === 0 || pieces.some(({ id }) => !this.left().has(id));
  });

  protected words = ({ kind, triangles }: Extra): string =>
    triangles === null ? KINDS[kind] : `${KINDS[kind]}, ${countText(triangles)} triangles`;

  protected take(id: string, taken: boolean): void {
    const left = new Set(this.left());
    if (taken) left.delete(id);
    else left.add(id);
    this.left.set(left);
  }

  protected all(): void {
    this.left.set(this.left().size ? new Set() : new Set(this.extras().map(({ id }) => id)));
  }
}
