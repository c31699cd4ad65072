import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  numberAttribute,
  signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Yard } from '@yard-brace/contract';
import {
  type Agent,
  FIRST_AGENTS,
  lengthText,
  type Preset,
  profileById,
  yardRulesSchema,
  targetsOf,
} from '@yard-brace/core';
import { Button } from 'primeng/button';
import { Api } from '../../api/api';
import { Notices } from '../../state/notices';
import { RulesDraft } from '../../state/rules-draft';
import { ShelfStore } from '../../state/shelf-store';
import { Choice, type Option } from '../../ui/choice';
import { Header } from '../../ui/header';
import { fileJson, saveText } from '../../ui/text-files';
import { YardPlaces } from '../../ui/yard-places';
import { AgentPicture } from './agent-picture';
import { EffectPanel } from './effect-panel';
import { NamesSample } from './names-sample';
import { ProfileSample } from './profile-sample';
import { ProfileSection } from './profile-section';
import { RecipesSection } from './recipes-section';
import { RuleFields } from '../../ui/rule-fields';
import { RuleList } from './rule-list';
import {
  AGENT_FIELDS,
  BUDGET_FIELDS,
  FOLDER_FIELDS,
  GENERAL_FIELDS,
  NAME_VALUE_FIELDS,
  OPENING_FIELDS,
  PATTERN_FIELDS,
  RESPONSE_FIELDS,
  SECTIONS,
  type SectionId,
  SURFACE_FIELDS,
  trialFields,
  materialNameFields,
} from './sections';
import { TargetsSection } from './targets-section';

/** The rules of a yard as a ledger: sections on the left, one form in the middle, what it means on the right. */
@Component({
  selector: 'yb-rules-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [RulesDraft],
  host: { '(window:beforeunload)': 'closing($event)' },
  imports: [
    AgentPicture,
    Button,
    Choice,
    EffectPanel,
    Header,
    NamesSample,
    ProfileSample,
    ProfileSection,
    RecipesSection,
    RuleFields,
    RuleList,
    TargetsSection,
    YardPlaces,
  ],
  templateUrl: './rules-page.html',
  styleUrl: './rules-page.css',
})
export class RulesPage {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly shelf = inject(ShelfStore);
  protected readonly rules = inject(RulesDraft);
  readonly yardId = input.required({ transform: numberAttribute });
  protected readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  protected readonly sections = SECTIONS;
  protected readonly section = signal<SectionId>('general');
  /** id of the profile whose form is open */
  protected readonly profile = signal<string | null>(null);
  protected readonly others = signal<readonly Yard[]>([]);
  protected readonly fields = {
    agent: AGENT_FIELDS,
    budget: BUDGET_FIELDS,
    folder: FOLDER_FIELDS,
    general: GENERAL_FIELDS,
    nameValue: NAME_VALUE_FIELDS,
    opening: OPENING_FIELDS,
    pattern: PATTERN_FIELDS,
    response: RESPONSE_FIELDS,
    surface: SURFACE_FIELDS,
  };
  protected readonly wrong = computed(() => this.rules.issues().size);
  protected readonly agents = computed((): Option<string | null>[] => [
    { label: 'The middle one', value: null },
    ...((this.rules.at(['agents']) ?? []) as Agent[]).map(({ id, name }) => ({ label: name, value: id })),
  ]);
  protected readonly trialFields = computed(() =>
    trialFields(
      ((this.rules.at(['agents']) ?? []) as Agent[]).map(({ id, name }) => ({ label: name, value: id })),
    ),
  );
  protected readonly shownProfile = computed(() => {
    const id = this.profile();
    const own = ((this.rules.at(['profiles']) ?? []) as { id: string }[]).find(
      (profile) => profile.id === id,
    );
    return own ?? (id === null ? null : (profileById(id) ?? null));
  });
  protected readonly presets = computed(() => (this.rules.at(['presets']) ?? []) as Preset[]);
  protected readonly copies = computed((): Option<number>[] =>
    this.others().map(({ id, name }) => ({ label: name, value: id })),
  );

  protected readonly nameOf = ({ name }: { name: string }) => name;
  protected readonly sizeOf = ({ upToMetres }: { upToMetres: number }) => `Up to ${lengthText(upToMetres)}`;
  protected readonly freshAgent = () => this.agentFrom(FIRST_AGENTS[1]!);
  protected readonly copiedAgent = (agent: Agent) => this.agentFrom(agent);
  protected readonly freshBudget = () => ({ upToMetres: 1000, shapes: 64, corners: 2048 });
  protected readonly slotOf = ({ slot, own, part }: { slot: string; own: string; part?: string }) =>
    `${slot}${part ? ` of ${part}` : ''} → ${own}`;
  protected readonly materialFields = computed(() => {
    const rules = this.rules.rules();
    return materialNameFields(
      rules ? targetsOf(rules).map(({ id, name }) => ({ label: name, value: id })) : [],
    );
  });
  protected readonly freshMaterialName = () => ({
    slot: 'slot',
    target: this.rules.rules()?.targets[0] ?? '',
    own: 'material',
  });
  protected readonly freshSurface = () => ({ name: 'Surface', friction: 0.6, restitution: 0 });
  protected readonly agentUsed = ({ id }: Agent): string | null =>
    this.rules.at(['agent']) === id
      ? 'Pieces are judged for this agent; choose another one first.'
      : ((this.rules.at(['trials', 'walkers']) ?? []) as string[]).includes(id)
        ? 'This agent walks at every piece; take it off the trials first.'
        : null;

  constructor() {
    effect(() => {
      const id = this.yardId();
      this.rules.load(id).catch((error: unknown) => this.notices.error(error));
      this.shelf.load(id).catch((error: unknown) => this.notices.error(error));
      this.api.yards().then(
        (yards) => this.others.set(yards.filter((yard) => yard.id !== id)),
        () => undefined,
      );
    });
  }

  protected openSection(id: SectionId): void {
    this.section.set(id);
    this.profile.set(null);
  }

  protected issuesIn(id: SectionId): boolean {
    const places: Record<SectionId, string[]> = {
      general: ['gridMetres', 'unit', 'weldMetres', 'pixelsPerMetre', 'bakedPixelsPerMetre', 'agent'],
      agents: ['agents'],
      openings: ['openings'],
      budgets: ['budgets'],
      surfaces: ['surfaces', 'responses'],
      materials: ['materialNames'],
      trials: ['trials'],
      targets: ['targets', 'profiles', 'presets'],
      names: ['names', 'nameFields'],
      folders: ['folders'],
      recipes: ['recipes'],
    };
    return places[id].some((place) => this.rules.issueAt([place], true) !== null);
  }

  protected removePreset(at: number): void {
    this.rules.set(
      ['presets'],
      this.presets().filter((_, i) => i !== at),
    );
  }

  protected save(): void {
    void this.rules.save();
  }

  protected toFile(): void {
    saveText(`${this.yard()?.name ?? 'yard'}.rules.json`, JSON.stringify(this.rules.draft(), null, 2));
  }

  protected async fromFile(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    const read = yardRulesSchema.safeParse(await fileJson(file));
    if (read.success) this.rules.replace(read.data);
    else {
      const { path, message } = read.error.issues[0]!;
      const place = path.length ? `${path.join('.')}: ` : '';
      this.notices.say(`${file.name} holds no rules of a yard: ${place}${message}`, true);
    }
  }

  protected copyFrom(yard: number): void {
    this.api.rules(yard).then(
      ({ rules }) => this.rules.replace(rules),
      (error: unknown) => this.notices.error(error),
    );
  }

  protected closing(event: BeforeUnloadEvent): void {
    if (this.rules.changed()) event.preventDefault();
  }

  /** A copy with an id and a name of its own. */
  private agentFrom(agent: Agent): Agent {
    const all = (this.rules.at(['agents']) ?? []) as Agent[];
    for (let i = 2; ; i++) {
      const [id, name] = [`${agent.id.replace(/-\d+$/, '')}-${i}`, `${agent.name.replace(/ \d+$/, '')} ${i}`];
      if (!all.some((each) => each.id === id || each.name === name)) return { ...agent, id, name };
    }
  }
}
