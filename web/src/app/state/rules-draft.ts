import { computed, inject, Injectable, signal } from '@angular/core';
import type { RulesEffect, YardRulesState } from '@yard-brace/contract';
import { type YardRules, yardRulesSchema } from '@yard-brace/core';
import { Api, ApiError } from '../api/api';
import { Notices } from './notices';
import { showYardIn } from './shown-unit';

/** A place in the rules: names of fields and numbers in lists. */
export type RulesPath = readonly (string | number)[];

const EFFECT_AFTER_MS = 400;

/** The rules of a yard while they are changed: nothing is saved that is not valid, and nothing before it is told to. */
@Injectable()
export class RulesDraft {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private yardId = 0;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly saved = signal<YardRulesState | null>(null);
  private readonly value = signal<unknown>(null);
  private readonly told = signal<RulesEffect['pieces'] | null>(null);

  readonly state = this.saved.asReadonly();
  /** the rules as they are on the page, valid or not */
  readonly draft = this.value.asReadonly();
  readonly changed = computed(() => JSON.stringify(this.value()) !== JSON.stringify(this.saved()?.rules));
  private readonly parsed = computed(() => yardRulesSchema.safeParse(this.value()));
  /** null while something of them is wrong */
  readonly rules = computed((): YardRules | null => this.parsed().data ?? null);
  /** what is wrong, by the place that it is said at */
  readonly issues = computed(
    () => new Map(this.parsed().error?.issues.map(({ path, message }) => [path.join('.'), message]) ?? []),
  );
  /** how pieces would stand by these rules; null while that is not known */
  readonly effect = this.told.asReadonly();

  async load(yardId: number): Promise<void> {
    this.yardId = yardId;
    this.take(await this.api.rules(yardId));
  }

  at(path: RulesPath): unknown {
    return path.reduce<unknown>(
      (value, key) => (value as Record<string, unknown> | undefined)?.[key],
      this.value(),
    );
  }

  /** The sentence for a place, or for anything below it. */
  issueAt(path: RulesPath, deep = false): string | null {
    const key = path.join('.');
    const own = this.issues().get(key);
    if (own !== undefined || !deep) return own ?? null;
    return [...this.issues()].find(([place]) => place.startsWith(`${key}.`))?.[1] ?? null;
  }

  set(path: RulesPath, value: unknown): void {
    this.value.update((rules) => withValue(rules, path, value));
    this.askEffect();
  }

  /** Take all of it from elsewhere, to be looked at before it is saved. */
  replace(rules: unknown): void {
    this.value.set(rules);
    this.askEffect();
  }

  discard(): void {
    this.value.set(this.saved()!.rules);
    this.told.set(null);
  }

  async save(): Promise<void> {
    const rules = this.rules();
    if (rules) await this.put(() => this.api.saveRules(this.yardId, this.saved()!.version, rules));
  }

  async undo(): Promise<void> {
    await this.put(() => this.api.undoRules(this.yardId, this.saved()!.version));
  }

  private async put(send: () => Promise<YardRulesState>): Promise<void> {
    try {
      this.take(await send());
    } catch (error) {
      this.notices.error(error);
      // What others saved is shown beside what stands here: nothing of either is lost.
      if (error instanceof ApiError && error.code === 'conflict') {
        const theirs = await this.api.rules(this.yardId);
        this.saved.set(theirs);
      }
    }
  }

  private take(state: YardRulesState): void {
    this.saved.set(state);
    this.value.set(state.rules);
    this.told.set(null);
    showYardIn(state.rules.unit);
  }

  protected askEffect(): void {
    this.told.set(null);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.tellEffect(), EFFECT_AFTER_MS);
  }

  private async tellEffect(): Promise<void> {
    const rules = this.rules();
    if (!rules || !this.changed()) return;
    try {
      const { pieces } = await this.api.tryRules(this.yardId, rules);
      if (this.rules() === rules) this.told.set(pieces);
    } catch {
      // That is said when they are saved; here it is only not known.
    }
  }
}

/** A copy with another value in one place; undefined takes a field away. */
export function withValue(whole: unknown, path: RulesPath, value: unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return value;
  if (Array.isArray(whole)) return whole.map((each, i) => (i === key ? withValue(each, rest, value) : each));
  const { [key]: inner, ...others } = (whole ?? {}) as Record<string | number, unknown>;
  const next = withValue(inner, rest, value);
  if (next === undefined) return others;
  return Object.fromEntries(
    inner === undefined
      ? [...Object.entries(others), [key, next]]
      : Object.entries(whole as object).map(([name, each]) => [name, name === String(key) ? next : each]),
  );
}
