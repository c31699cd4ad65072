import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { Option } from '../../../../../ui/choice';
import { Segments } from '../../../../../ui/segments';
import { ModuleBend } from './module-bend';
import { ModuleCut } from './module-cut';
import { ModuleLine } from './module-line';
import { ModuleRepeat } from './module-repeat';
import { ModuleRun } from './module-run';
import { ModuleStretch } from './module-stretch';

type Act = 'cut' | 'repeat' | 'bend' | 'stretch' | 'line';

const ACTS: readonly Option<Act>[] = [
  { label: 'Cut', value: 'cut' },
  { label: 'Repeat', value: 'repeat' },
  { label: 'Bend', value: 'bend' },
  { label: 'Stretch', value: 'stretch' },
  { label: 'Along a line', value: 'line' },
];
const DIRECTIONS: readonly Option<0 | 1 | 2>[] = [
  { label: 'X', value: 0 },
  { label: 'Y', value: 1 },
  { label: 'Z', value: 2 },
];

/** A straight module cut, repeated, bent, stretched, or laid along a line; its shapes go with it. */
@Component({
  selector: 'yb-module-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Segments, ModuleCut, ModuleRepeat, ModuleBend, ModuleStretch, ModuleLine],
  providers: [ModuleRun],
  template: `
    <section class="panel">
      <h3>Module: {{ run.chosen.none() ? 'the piece' : run.chosen.words() }}</h3>
      <div class="row">
        <span>runs along</span>
        <yb-segments
          label="The module runs along"
          [options]="directions"
          [value]="run.axis()"
          (chosen)="$event !== null && run.axis.set($event)"
        />
        <span class="faded figures">{{ run.reachText() }}</span>
      </div>
      <yb-segments
        class="ways"
        label="What is done to the module"
        [options]="acts"
        [value]="act()"
        (chosen)="$event && act.set($event)"
      />
      @switch (act()) {
        @case ('cut') {
          <yb-module-cut class="panel" />
        }
        @case ('repeat') {
          <yb-module-repeat class="panel" />
        }
        @case ('bend') {
          <yb-module-bend class="panel" />
        }
        @case ('stretch') {
          <yb-module-stretch class="panel" />
        }
        @case ('line') {
          <yb-module-line class="panel" />
        }
      }
    </section>
  `,
})
export class ModulePanel {
  protected readonly run = inject(ModuleRun);
  protected readonly acts = ACTS;
  protected readonly directions = DIRECTIONS;
  protected readonly act = signal<Act>('cut');
}
