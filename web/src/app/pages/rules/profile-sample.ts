import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import {
  CONTAINER_NAMES,
  lossesOf,
  lossText,
  nameFaultsOf,
  planDelivery,
  targetProfileSchema,
  waybillOf,
} from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Notices } from '../../state/notices';
import { RulesDraft } from '../../state/rules-draft';
import { Compute } from '../../workers/compute';
import { profileTestSchema } from '../../workers/messages';
import { samplePiece } from '../../workers/sample-piece';

const TONES = { art: 'var(--rule)', shape: 'var(--tide)', fault: 'var(--vermilion)' };

/** What a profile makes of a sample piece: names, files, what it drops; and a test delivery that is read back. */
@Component({
  selector: 'yb-profile-sample',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    @if (laid(); as laid) {
      <h2>A sluice gate, for {{ laid.profile.name }}</h2>
      @for (file of laid.files; track file.name) {
        <p class="file figures">{{ file.name }}</p>
      }
      <ul class="tree" data-testid="sample-names">
        @for (node of laid.nodes; track $index) {
          <li>
            <code class="figures">{{ node.name }}</code>
            @for (shape of node.shapes; track $index) {
              <code class="figures shape">{{ shape.name }}</code>
            }
          </li>
        }
      </ul>
      @for (says of laid.says; track $index) {
        <p class="note">{{ says }}</p>
      }
      <p-button label="Test delivery" size="small" [outlined]="true" (onClick)="test()" />
      @if (tested(); as tested) {
        <p class="verdict" [class.off]="!tested.agreed" data-testid="tested">{{ tested.says }}</p>
      }
      <div class="pictures">
        @for (picture of laid.pictures; track $index) {
          <figure [class.refused]="!picture.taken">
            <svg viewBox="0 0 120 72" role="img" [attr.aria-label]="picture.title">
              @for (outline of picture.outlines; track $index) {
                <polygon
                  [attr.points]="outline.points.join(' ')"
                  [attr.fill]="tones[outline.as]"
                  [attr.stroke]="tones[outline.as]"
                  fill-opacity="0.3"
                />
              }
            </svg>
            <figcaption>
              <b>{{ picture.taken ? 'Taken' : 'Refused' }}: {{ picture.title }}.</b> {{ picture.says }}
            </figcaption>
          </figure>
        }
      </div>
    } @else {
      <p class="faded">The sample is shown when the profile is whole.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      justify-items: start;
    }
    .tree li {
      display: grid;
      padding: 2px 0;
      border-bottom: 1px dotted var(--rule);
    }
    .tree,
    .pictures {
      width: 100%;
    }
    .shape {
      padding-left: 14px;
      color: var(--tide);
    }
    code {
      overflow-wrap: anywhere;
    }
    .note {
      padding: 3px 8px;
      border-left: 3px solid var(--brass);
    }
    .verdict {
      padding: 4px 8px;
      border-left: 4px solid var(--moss);
    }
    .verdict.off {
      border-left-color: var(--vermilion);
    }
    figure {
      display: grid;
      grid-template-columns: 96px 1fr;
      gap: 8px;
      margin: 0 0 6px;
    }
    svg {
      border: 1px solid var(--moss);
      background: var(--card);
    }
    .refused svg {
      border-color: var(--vermilion);
    }
    figcaption {
      font-size: 12px;
    }
  `,
})
export class ProfileSample {
  private readonly rules = inject(RulesDraft);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  /** the profile as it stands on the page */
  readonly profile = input.required<unknown>();
  protected readonly tones = TONES;
  private readonly sample = samplePiece();
  private readonly last = signal<{ profile: unknown; agreed: boolean; says: string } | null>(null);
  private readonly valid = computed(() => targetProfileSchema.safeParse(this.profile()).data ?? null);
  protected readonly laid = computed(() => {
    const profile = this.valid();
    if (!profile) return null;
    const plan = planDelivery(this.sample.document, profile);
    const { allowed, refused } = profile.help;
    return {
      profile,
      pictures: [
        ...allowed.map((picture) => ({ ...picture, taken: true })),
        ...refused.map((picture) => ({ ...picture, taken: false })),
      ],
      files: waybillOf(plan),
      nodes: plan.files.flatMap(({ nodes }) => nodes),
      says: [...nameFaultsOf(plan).says, ...lossesOf(plan).map(lossText)],
    };
  });
  /** what the last test came to, as long as the profile is the same */
  protected readonly tested = computed(() => {
    const last = this.last();
    return last && last.profile === this.valid() ? last : null;
  });

  /** Every format that the profile takes is written and read back, away from the page's own thread. */
  protected async test(): Promise<void> {
    const profile = this.valid();
    if (!profile) return;
    const surfaces = this.rules.rules()?.surfaces ?? [];
    try {
      const result = await this.compute.run((jobs) => jobs.testProfile(profile, surfaces), {
        first: 'Testing the profile',
        quick: true,
      });
      const { points, substituted, off } = profileTestSchema.parse(result);
      const announced = substituted ? `, ${substituted} differ as announced` : '';
      const formats = profile.containers.map((container) => CONTAINER_NAMES[container]).join(', ');
      this.last.set({
        profile,
        agreed: off.length === 0,
        says: off.length
          ? off.join('; ')
          : `Written as ${formats} and read back: ${points} points agree${announced}.`,
      });
    } catch (error) {
      this.notices.error(error);
    }
  }
}
