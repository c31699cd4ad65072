import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { expectationOf, meshNameFrom, givenNameSchema } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Notices } from '../../../../state/notices';
import { Selection } from '../../../../state/selection';
import { BenchStore } from '../../../../state/bench-store';
import { FindingList } from '../../finding-list';
import { ShapeGlyph } from '../proxies/shape-glyph';

/** The names the target will read, letter for letter. */
@Component({
  selector: 'yb-names-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, FindingList, ShapeGlyph],
  host: { class: 'step' },
  template: `
    @if (document(); as document) {
      <section class="panel fields">
        <label for="piece-name">Piece</label>
        <input
          pInputText
          pSize="small"
          id="piece-name"
          [ngModel]="pieceName()"
          (ngModelChange)="pieceName.set($event)"
          maxlength="120"
          (blur)="renamePiece()"
          (keydown.enter)="renamePiece()"
        />
        <label for="mesh-name">Mesh</label>
        <input
          pInputText
          pSize="small"
          id="mesh-name"
          class="figures"
          [ngModel]="meshName()"
          (ngModelChange)="meshName.set($event)"
          maxlength="200"
          (blur)="renameMesh()"
          (keydown.enter)="renameMesh()"
        />
        @if (proposed() !== document.meshName) {
          <button
            type="button"
            class="quiet-button"
            (click)="bench.apply({ kind: 'rename-mesh', name: proposed() })"
          >
            Name it {{ proposed() }}
          </button>
        }
      </section>
      <yb-finding-list step="names" />
      <section class="panel">
        <h3>What {{ bench.profile.name }} reads</h3>
        <ul class="names" data-testid="names">
          <li>
            <span class="sign">mesh</span><code class="figures">{{ document.meshName }}</code>
          </li>
          @for (shape of shapes(); track shape.id) {
            <li
              [class.lit]="shape.id === lit()"
              (pointerenter)="selection.point(shape.id)"
              (pointerleave)="selection.point(null)"
            >
              <span class="sign"><yb-shape-glyph [kind]="shape.kind" /></span
              ><code class="figures">{{ shape.name }}</code>
            </li>
          }
        </ul>
      </section>
      <p class="faded">{{ bench.profile.help }}</p>
    }
  `,
  styles: `
    .fields {
      display: grid;
      grid-template-columns: 46px 1fr;
      align-items: center;
      gap: 6px;
    }
    .fields button {
      grid-column: 2;
      justify-self: start;
    }
    .names li {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 25px;
      padding: 0 4px;
      border-bottom: 1px dotted var(--rule);
    }
    .names .lit {
      background: #17616e17;
    }
    .sign {
      width: 34px;
      color: var(--faded);
    }
    code {
      overflow-wrap: anywhere;
    }
  `,
})
export class NamesStep {
  protected readonly bench = inject(BenchStore);
  private readonly notices = inject(Notices);
  protected readonly document = toSignal(this.bench.document$);
  protected readonly selection = inject(Selection);
  protected readonly lit = toSignal(this.selection.pointed$);
  protected readonly pieceName = linkedSignal(() => this.document()?.name ?? '');
  protected readonly meshName = linkedSignal(() => this.document()?.meshName ?? '');
  protected readonly proposed = computed(() => meshNameFrom(this.document()?.name ?? ''));
  protected readonly shapes = computed(() => {
    const document = this.document();
    return document ? expectationOf(document, this.bench.profile).shapes : [];
  });

  protected renamePiece(): void {
    const name = givenNameSchema.safeParse(this.pieceName());
    if (!name.success) {
      this.notices.say(name.error.issues[0]!.message, true);
      this.pieceName.set(this.document()!.name);
    } else if (name.data !== this.document()!.name)
      this.bench.apply({ kind: 'rename-piece', name: name.data });
  }

  /** Any name can be typed: what the target would not take becomes a finding that says so. */
  protected renameMesh(): void {
    const name = this.meshName();
    if (name !== this.document()!.meshName) this.bench.apply({ kind: 'rename-mesh', name });
  }
}
