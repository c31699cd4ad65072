import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { PROFILES, type TargetProfile, targetProfileSchema } from '@yard-brace/core';
import { Notices } from '../../state/notices';
import { RulesDraft } from '../../state/rules-draft';
import { Check } from '../../ui/check';
import { fileJson, saveText } from '../../ui/text-files';

/** Which targets the yard delivers for, in their order; profiles that ship and those of its own. */
@Component({
  selector: 'yb-targets-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Check],
  template: `
    <p class="faded">
      The first target is the default: pieces are judged for it. Profiles that ship stay as they are; a copy
      can be changed.
    </p>
    @if (issue(); as says) {
      <p class="wrong" role="alert">{{ says }}</p>
    }
    <ul class="list" data-testid="profiles">
      @for (profile of profiles(); track profile.id) {
        <li>
          <yb-check
            [label]="'Deliver for ' + profile.name"
            [checked]="targets().includes(profile.id)"
            (changed)="tick(profile.id, $event)"
          />
          <button type="button" class="name" (click)="open.emit(profile.id)">{{ profile.name }}</button>
          <span class="faded grow">{{ place(profile.id) }}</span>
          @if (targets().indexOf(profile.id) > 0) {
            <button type="button" class="quiet-button" (click)="up(profile.id)">Move up</button>
          }
          <button type="button" class="quiet-button" (click)="copy(profile)">Copy</button>
          <button type="button" class="quiet-button" (click)="save(profile)">Save to a file</button>
          @if (isOwn(profile.id)) {
            <button type="button" class="quiet-button" (click)="remove(profile.id)">Remove</button>
          }
        </li>
      }
    </ul>
    <input #file type="file" accept=".json" hidden (change)="load(file)" />
    <button type="button" class="act" (click)="file.click()">Load a profile</button>
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
      justify-items: start;
    }
    ul {
      width: 100%;
    }
    li {
      display: flex;
      align-items: center;
      gap: 10px;
      min-height: 32px;
      border-bottom: 1px dotted var(--rule);
    }
    .name {
      min-height: 24px;
      padding: 0;
      border: 0;
      background: none;
      color: var(--tide);
      font: inherit;
      text-decoration: underline dotted;
      cursor: pointer;
    }
    .grow {
      flex: 1;
    }
    .wrong {
      padding: 2px 8px;
      border-left: 4px solid var(--vermilion);
      color: var(--vermilion);
    }
  `,
})
export class TargetsSection {
  private readonly rules = inject(RulesDraft);
  private readonly notices = inject(Notices);
  readonly open = output<string>();
  private readonly own = computed(() => (this.rules.at(['profiles']) ?? []) as TargetProfile[]);
  protected readonly profiles = computed((): readonly TargetProfile[] => [...PROFILES, ...this.own()]);
  protected readonly targets = computed(() => (this.rules.at(['targets']) ?? []) as string[]);
  protected readonly issue = computed(() => this.rules.issueAt(['targets'], true));

  protected isOwn(id: string): boolean {
    return this.own().some((profile) => profile.id === id);
  }

  protected place(id: string): string {
    const at = this.targets().indexOf(id);
    const where = at === 0 ? 'default target' : at > 0 ? `target ${at + 1}` : '';
    return [this.isOwn(id) ? 'own' : '', where].filter(Boolean).join(', ');
  }

  protected tick(id: string, on: boolean): void {
    const others = this.targets().filter((each) => each !== id);
    this.rules.set(['targets'], on ? [...others, id] : others);
  }

  protected up(id: string): void {
    const list = [...this.targets()];
    const at = list.indexOf(id);
    [list[at - 1], list[at]] = [list[at]!, list[at - 1]!];
    this.rules.set(['targets'], list);
  }

  protected copy(profile: TargetProfile): void {
    this.add({ ...structuredClone(profile), ...this.free(profile) });
  }

  protected save(profile: TargetProfile): void {
    saveText(`${profile.id}.profile.json`, JSON.stringify(profile, null, 2));
  }

  protected remove(id: string): void {
    if (this.targets().includes(id)) {
      this.notices.say('The profile is a target of the yard; untick it first.', true);
      return;
    }
    this.rules.set(
      ['profiles'],
      this.own().filter((profile) => profile.id !== id),
    );
  }

  protected async load(input: HTMLInputElement): Promise<void> {
    const [file] = input.files ?? [];
    input.value = '';
    if (!file) return;
    const value = await fileJson(file);
    const read = targetProfileSchema.safeParse(value);
    if (!read.success) {
      const { path, message } = read.error.issues[0]!;
      this.notices.say(
        `${file.name} is no profile: ${[path.join('.'), message].filter(Boolean).join(': ')}`,
        true,
      );
      return;
    }
    const taken = this.profiles().some(({ id }) => id === read.data.id);
    this.add(taken ? { ...read.data, ...this.free(read.data) } : read.data);
  }

  private add(profile: TargetProfile): void {
    this.rules.set(['profiles'], [...this.own(), profile]);
    this.open.emit(profile.id);
  }

  /** An id and a name that no other profile has. */
  private free({ id, name }: TargetProfile): { id: string; name: string } {
    for (let i = 2; ; i++) {
      const next = `${id.replace(/-\d+$/, '')}-${i}`;
      if (!this.profiles().some((profile) => profile.id === next))
        return { id: next, name: `${name.replace(/ \d+$/, '')} ${i}` };
    }
  }
}
