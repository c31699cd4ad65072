import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { NAMED_THINGS, namePattern, type NameValues, PatternError } from '@yard-brace/core';
import { RulesDraft } from '../../state/rules-draft';

const SAMPLE: NameValues = {
  subject: 'sluice gate',
  part: 'leaf',
  variant: '2',
  number: '1',
  kind: 'hull',
  type: 'SM',
  origin: 'slip',
  code: 'SG',
  initials: 'yb',
  date: '20260401',
};

/** What the patterns make of a sample piece. */
@Component({
  selector: 'yb-names-sample',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>A sluice gate</h2>
    <ul data-testid="sample-names">
      @for (row of rows(); track row.thing) {
        <li>
          <span class="faded">{{ row.thing }}</span>
          <code class="figures">{{ row.name }}</code>
        </li>
      }
    </ul>
    <p class="faded">
      Fields: {{ fields }}. Words can be given a style, as in {{ '{' }}subject:pascal{{ '}' }}, snake or
      kebab; counts their digits, as in {{ '{' }}variant:2{{ '}' }}.
    </p>
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    li {
      display: grid;
      grid-template-columns: 70px 1fr;
      padding: 3px 0;
      border-bottom: 1px dotted var(--rule);
    }
    code {
      overflow-wrap: anywhere;
    }
  `,
})
export class NamesSample {
  private readonly rules = inject(RulesDraft);
  protected readonly fields = Object.keys(SAMPLE)
    .map((field) => `{${field}}`)
    .join(', ');
  protected readonly rows = computed(() => {
    const patterns = (this.rules.at(['names']) ?? {}) as Record<string, string>;
    const given = Object.entries((this.rules.at(['nameFields']) ?? {}) as Record<string, string>).filter(
      ([, value]) => value,
    );
    const values = { ...SAMPLE, ...Object.fromEntries(given) };
    return NAMED_THINGS.map((thing) => ({
      thing,
      name: patterns[thing] ? nameBy(patterns[thing], values) : 'as it is',
    }));
  });
}

function nameBy(pattern: string, values: NameValues): string {
  try {
    return namePattern(pattern).format(values);
  } catch (error) {
    if (error instanceof PatternError) return error.message;
    throw error;
  }
}
