import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { meshNameBy, meshNameFrom, givenNameSchema } from '@yard-brace/core';
import { InputText } from 'primeng/inputtext';
import { Notices } from '../../../../state/notices';
import { BenchStore } from '../../../../state/bench-store';
import { FindingList } from '../../finding-list';
import { RenamePanel } from './rename-panel';
import { TargetNamesPanel } from './target-names-panel';

/** The names the target will read, letter for letter. */
@Component({
  selector: 'yb-names-step',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, FindingList, RenamePanel, TargetNamesPanel],
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
      <yb-rename-panel />
      <yb-target-names-panel />
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
  `,
})
export class NamesStep {
  protected readonly bench = inject(BenchStore);
  private readonly notices = inject(Notices);
  protected readonly document = toSignal(this.bench.document$);
  protected readonly pieceName = linkedSignal(() => this.document()?.name ?? '');
  protected readonly meshName = linkedSignal(() => this.document()?.meshName ?? '');
  /** by the yard's pattern for meshes, where it has one that can be filled */
  protected readonly proposed = computed(() => {
    const name = this.document()?.name ?? '';
    return this.document() ? meshNameBy(this.bench.rules, name) : meshNameFrom(name);
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
