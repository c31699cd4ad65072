import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted, lengthText, judgedAgent } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { BenchStore } from '../../../../state/bench-store';
import { LadderStore } from '../../../../state/ladder-store';
import { Operations } from '../../../../state/operations';
import { Selection } from '../../../../state/selection';
import { Check } from '../../../../ui/check';
import { Choice, type Option } from '../../../../ui/choice';
import { NumberField } from '../../../../ui/number-field';

/** For whom and how the piece, or some of its faces, is broken into convex shapes. */
@Component({
  selector: 'yb-ladder-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Check, Choice, NumberField],
  template: `
    <section class="panel">
      <div class="row">
        <span>Agent</span>
        <yb-choice
          class="grow"
          label="Agent"
          [options]="agents()"
          [value]="agentId()"
          (chosen)="ladder.setInputs({ agent: $event })"
          data-testid="agent"
        />
      </div>
      <div class="row">
        <span class="labelled"
          >Max shapes
          <yb-number
            [value]="inputs().maxShapes"
            (changed)="ladder.setInputs({ maxShapes: $event })"
            label="Max shapes"
            [min]="1"
            [max]="64"
            [digits]="0"
            [width]="52"
        /></span>
        <span class="labelled"
          >max corners each
          <yb-number
            [value]="inputs().maxVertices"
            (changed)="ladder.setInputs({ maxVertices: $event })"
            label="Max corners of a hull"
            [min]="4"
            [max]="255"
            [digits]="0"
            [width]="52"
        /></span>
      </div>
      <div class="row">
        <yb-check [checked]="inputs().primitives" (changed)="ladder.setInputs({ primitives: $event })"
          >Prefer primitives</yb-check
        >
        <yb-check [checked]="inputs().mayCross" (changed)="ladder.setInputs({ mayCross: $event })"
          >Shapes may overlap</yb-check
        >
      </div>
      <div class="row">
        <span class="faded grow">{{ openings() }}</span>
        <p-button
          [label]="action()"
          size="small"
          [disabled]="working()"
          (onClick)="run()"
          data-testid="break-up"
        />
      </div>
    </section>
  `,
})
export class LadderPanel {
  private readonly bench = inject(BenchStore);
  protected readonly ladder = inject(LadderStore);
  private readonly operations = inject(Operations);
  private readonly document = toSignal(this.bench.document$);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly faces = toSignal(inject(Selection).faces$, { requireSync: true });
  protected readonly working = toSignal(this.ladder.working$, { requireSync: true });
  protected readonly inputs = toSignal(this.ladder.inputs$, { requireSync: true });
  protected readonly agentId = computed(() => {
    const { agent } = this.inputs();
    const [document, agents] = [this.document(), this.piece()?.yard.rules.agents ?? []];
    return agent === undefined ? ((document && judgedAgent(document, agents)?.id) ?? null) : agent;
  });

  protected readonly agents = computed((): Option<string | null>[] => [
    ...(this.piece()?.yard.rules.agents ?? []).map(({ id, name, detail }) => ({
      label: `${name}, ignores below ${lengthText(detail)}`,
      value: id,
    })),
    { label: 'No agent (full detail)', value: null },
  ]);
  protected readonly openings = computed(() => {
    const count = this.document()?.clearances.length ?? 0;
    return count ? `${counted(count, 'opening')} kept free` : 'no openings to keep free';
  });
  protected readonly action = computed(() => {
    const faces = this.faces();
    return faces ? `Break ${counted(faces.count, 'face')} into shapes` : 'Break into shapes';
  });

  protected run(): void {
    const agents = this.piece()?.yard.rules.agents ?? [];
    const chosen = this.faces()?.faces;
    if (chosen && !this.operations.drawnAsItIs()) return;
    const faces = chosen && Uint32Array.from([...chosen.keys()].filter((face) => chosen[face]));
    const { agent: _agent, ...inputs } = this.inputs();
    void this.ladder.run(
      { ...inputs, ...(faces ? { faces } : {}) },
      agents.find(({ id }) => id === this.agentId()) ?? null,
    );
  }
}
