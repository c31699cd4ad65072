import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import type { Vec3 } from '@yard-brace/core';
import { Picking } from '../../../../../state/picking';
import { ModuleRun } from './module-run';

/** A module laid along a line that is picked point by point. */
@Component({
  selector: 'yb-module-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      <button type="button" class="act" (click)="pick()">Pick points of the line …</button>
      <span class="faded">{{ text() }}</span>
      <button type="button" class="act" [disabled]="line().length < 2" (click)="layAlong()">
        Lay along it
      </button>
    </div>
  `,
})
export class ModuleLine {
  private readonly run = inject(ModuleRun);
  private readonly picking = inject(Picking);
  protected readonly line = signal<readonly Vec3[]>([]);
  protected readonly text = computed(() =>
    this.line().length ? `${this.line().length} points` : 'on the piece, on one beside it, or on the ground',
  );

  protected async pick(): Promise<void> {
    const points: Vec3[] = [];
    for (;;) {
      const next = points.length
        ? 'Pick the next point, or press Escape when the line ends.'
        : 'Pick where the line begins.';
      const picked = await this.picking.ask(next, { ground: true });
      if (!picked) break;
      points.push(picked.at);
      this.line.set([...points]);
    }
  }

  protected layAlong(): void {
    this.run.propose({
      op: 'lay-along',
      parts: this.run.chosen.ids(),
      module: this.run.between(...this.run.reach()),
      line: [...this.line()],
    });
  }
}
