import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, type Operation, type OperationOf } from '@yard-brace/core';
import { Operations } from '../../../../state/operations';
import { Selection } from '../../../../state/selection';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';
import { ChooseFaces } from '../../choose-faces';
import { chosenParts } from './chosen-parts';

type Where = 'run' | NonNullable<OperationOf<'mark-edges'>['where']>;

const WHERES: readonly Option<Where>[] = [
  { label: 'the edges that were followed', value: 'run' },
  { label: 'the outline of the chosen faces', value: 'outline' },
  { label: 'all edges above an angle', value: 'angle' },
  { label: 'where materials meet', value: 'materials' },
  { label: 'where UVs part', value: 'uvs' },
];

const DEFAULT_HARD_DEGREES = 30;

/** Hard and smooth edges on top of what is there, normals made anew, and vertices that are alike. */
@Component({
  selector: 'yb-edges-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check, Choice, ChooseFaces, NumberField],
  template: `
    <section class="panel">
      <h3>Hard and smooth edges of {{ chosen.words() }}</h3>
      <yb-choose-faces />
      <div class="row">
        <yb-choice
          class="grow"
          label="Which edges"
          [options]="wheres"
          [value]="where()"
          (chosen)="where.set($event)"
        />
        @if (where() === 'angle') {
          <yb-number
            [value]="degrees()"
            (changed)="degrees.set($event)"
            unit="°"
            label="Edges above"
            [min]="0"
            [max]="180"
            [digits]="1"
            [width]="58"
          />
        }
      </div>
      <div class="row">
        <button type="button" class="act" [disabled]="!ready()" (click)="mark('hard')">Hard</button>
        <button type="button" class="act" [disabled]="!ready()" (click)="mark('smooth')">Smooth</button>
        <span class="faded">{{ hint() }}</span>
      </div>
      <div class="row">
        <yb-check [checked]="settings().hardEdges" (changed)="view.set({ hardEdges: $event })"
          >light hard edges</yb-check
        >
        <yb-check [checked]="settings().turning" (changed)="view.set({ turning: $event })"
          >walk round</yb-check
        >
      </div>
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'normals', parts: chosen.ids(), degrees: degrees() })"
          title="All normals made anew: what was marked before and what came with the file goes"
        >
          Recompute all normals
        </button>
        <span class="labelled"
          >hard above
          <yb-number
            [value]="degrees()"
            (changed)="degrees.set($event)"
            unit="°"
            label="Hard edges above"
            [min]="0"
            [max]="180"
            [digits]="1"
            [width]="58"
        /></span>
      </div>
      <div class="row">
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'vertices', parts: chosen.ids(), to: 'share' })"
          title="Vertices that are the same in everything become one"
        >
          Merge vertices
        </button>
        <button
          type="button"
          class="act"
          (click)="propose({ op: 'vertices', parts: chosen.ids(), to: 'separate' })"
          title="Every face gets vertices of its own"
        >
          Split vertices
        </button>
      </div>
    </section>
  `,
})
export class EdgesPanel {
  private readonly operations = inject(Operations);
  private readonly selection = inject(Selection);
  protected readonly view = inject(ViewSettingsStore);
  protected readonly settings = toSignal(this.view.settings$, { requireSync: true });
  private readonly faces = toSignal(this.selection.faces$, { requireSync: true });
  protected readonly chosen = chosenParts();
  protected readonly wheres = WHERES;
  protected readonly where = signal<Where>('run');
  protected readonly degrees = signal(DEFAULT_HARD_DEGREES);

  /** How many edges were followed. They belong to the chosen faces: with those they go. */
  private followed(): number {
    if (!this.faces()) return 0;
    return this.selection.lastRun.reduce((sum, { sides }) => sum + sides.length, 0);
  }

  protected ready(): boolean {
    if (this.where() === 'run') return this.followed() > 0;
    return this.where() !== 'outline' || this.faces() !== null;
  }

  protected hint(): string {
    if (this.where() === 'run')
      return this.followed()
        ? counted(this.followed(), 'edge') + ' followed'
        : 'Follow edges in the view by Edge; Shift adds a run';
    return this.ready() ? '' : 'Choose faces in the view';
  }

  protected mark(as: 'hard' | 'smooth'): void {
    const where = this.where();
    const parts = this.chosen.ids();
    if (where === 'run') {
      const edges = this.selection.lastRun.map(({ part, sides }) => ({ part, sides }));
      this.propose({ op: 'mark-edges', as, edges });
    } else if (where === 'outline')
      this.propose({ op: 'mark-edges', as, where, faces: this.selection.facesByPart() });
    else this.propose({ op: 'mark-edges', as, where, parts, degrees: this.degrees() });
  }

  protected propose(operation: Operation): void {
    void this.operations.propose(operation);
  }
}
