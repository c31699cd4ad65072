import { computed, inject, Injectable, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  type Container,
  type DeliveryChoices,
  type Loss,
  lossesOf,
  type NameFaults,
  nameFaultsOf,
  type PieceDocument,
  type Plan,
  planDelivery,
  PlanError,
  type Preset,
  settledChoices,
  targetsOf,
  type TargetProfile,
  waybillOf,
  type WaybillFile,
  choicesByRules,
  triedLines,
} from '@yard-brace/core';
import type { ToDeliver } from '../workers/jobs/weigh-delivery';
import { BenchRules } from './bench-rules';
import { BenchStore } from './bench-store';

/** A delivery for one target, as it is laid out before it goes. */
export interface Waybill {
  plan: Plan;
  files: WaybillFile[];
  losses: Loss[];
  faults: NameFaults;
}

/** For which targets the piece on the bench leaves, and what is chosen for each. */
@Injectable()
export class DeliveryChoicesStore {
  private readonly bench = inject(BenchStore);
  private readonly rules = inject(BenchRules);
  private readonly piece = toSignal(this.bench.piece$);
  private readonly document = toSignal(this.bench.document$);
  private readonly measured = toSignal(this.bench.measured$, { requireSync: true });
  private readonly made = signal<Readonly<Record<string, DeliveryChoices>>>({});
  /** ids of targets that are left out */
  private readonly left = signal<ReadonlySet<string>>(new Set());
  private readonly wanted = signal<string | null>(null);
  /** name of a set that is kept beside the one in use */
  private readonly kept = signal<string | null>(null);

  readonly targets = computed((): readonly TargetProfile[] => {
    const piece = this.piece();
    return piece ? targetsOf(piece.yard.rules) : [];
  });
  /** those that the piece leaves for */
  readonly leaving = computed(() => {
    const all = this.targets();
    const chosen = all.filter(({ id }) => !this.left().has(id));
    return all.length === 1 ? all : chosen;
  });
  /** those of them that take its names: nothing is tried for the others */
  readonly ready = computed(() => this.leaving().filter(({ id }) => !this.refusedNames(id)));
  /** the target whose waybill is shown */
  readonly shown = computed(
    () => this.targets().find(({ id }) => id === this.wanted()) ?? this.leaving()[0] ?? this.targets()[0],
  );
  readonly set = computed(() => {
    const name = this.kept();
    return this.document()?.sets.some((set) => set.name === name) ? name : null;
  });
  private readonly plans = computed((): ReadonlyMap<string, Plan | string> => {
    const document = this.document();
    return new Map(
      document ? this.targets().map((profile) => [profile.id, this.planned(document, profile)]) : [],
    );
  });
  private readonly refused = computed(
    () =>
      new Map(
        [...this.plans()].map(([target, plan]) => [
          target,
          typeof plan === 'string' ? 0 : nameFaultsOf(plan).says.length,
        ]),
      ),
  );
  readonly choices = computed(() => this.choicesFor(this.shown()?.id ?? ''));
  /** what goes for the target that is shown; a sentence where it cannot be laid out */
  readonly waybill = computed((): Waybill | string | null => {
    const plan = this.laidOut(this.shown()?.id ?? '');
    if (plan === null || typeof plan === 'string') return plan;
    return { plan, files: waybillOf(plan), losses: lossesOf(plan), faults: nameFaultsOf(plan) };
  });

  /** choices that the yard keeps by a name for the target that is shown */
  readonly presets = computed(
    () => this.piece()?.yard.rules.presets.filter(({ target }) => target === this.shown()?.id) ?? [],
  );

  /** Choose as a preset of the yard says. */
  take({ target, choices }: Preset): void {
    this.made.update((made) => ({ ...made, [target]: choices }));
  }

  /** Keep what is chosen for the target that is shown by a name, for every piece of the yard; one of that name is replaced. */
  async keep(name: string): Promise<void> {
    const target = this.shown()!.id;
    const preset = { name, target, choices: this.made()[target] ?? {} };
    await this.rules.change((rules) => {
      const others = rules.presets.filter((each) => each.name !== name || each.target !== target);
      return { ...rules, presets: [...others, preset] };
    });
  }

  /** The piece laid out for a target; null where it cannot be. */
  planFor(target: string): Plan | null {
    const plan = this.laidOut(target);
    return typeof plan === 'string' ? null : plan;
  }

  /** the plan for one target; a sentence where it cannot be laid out */
  private laidOut(target: string): Plan | string | null {
    return this.plans().get(target) ?? null;
  }

  /** what the delivery that is shown is made of; null where there is nothing to deliver */
  readonly toDeliver = computed((): ToDeliver | null => {
    const [document, profile] = [this.document(), this.shown()];
    if (!document || !profile) return null;
    const tried = triedLines(document, this.piece()!.yard.rules, profile, this.measured());
    return { ...this.madeOf(document, profile), tried };
  });

  private madeOf(document: PieceDocument, profile: TargetProfile): Omit<ToDeliver, 'tried'> {
    const { rules } = this.piece()!.yard;
    const choices = choicesByRules(this.choicesFor(profile.id), rules, document, profile.id);
    return { document, profile, choices, surfaces: rules.surfaces, folders: rules.folders };
  }

  private planned(document: PieceDocument, profile: TargetProfile): Plan | string {
    try {
      const { choices, surfaces } = this.madeOf(document, profile);
      return planDelivery(document, profile, choices, surfaces);
    } catch (error) {
      if (error instanceof PlanError) return error.message;
      throw error;
    }
  }

  choicesFor(target: string): DeliveryChoices {
    const set = this.set();
    return { ...this.made()[target], ...(set === null ? {} : { set }) };
  }

  /** how many of its names a target refuses of what goes */
  refusedNames(target: string): number {
    return this.refused().get(target) ?? 0;
  }

  containerOf(profile: TargetProfile): Container {
    return settledChoices(profile, this.choicesFor(profile.id), this.document()!).container;
  }

  show(target: string): void {
    this.wanted.set(target);
  }

  leave(target: string, leaves: boolean): void {
    const left = new Set(this.left());
    if (leaves) left.delete(target);
    else left.add(target);
    this.left.set(left);
    if (leaves) this.wanted.set(target);
  }

  /** @param change what is chosen anew; undefined goes back to what the profile says */
  choose(change: DeliveryChoices): void {
    const target = this.shown()!.id;
    const next = { ...this.made()[target], ...change };
    for (const key of Object.keys(next) as (keyof DeliveryChoices)[])
      if (next[key] === undefined) delete next[key];
    this.made.update((made) => ({ ...made, [target]: next }));
  }

  takeSet(name: string | null): void {
    this.kept.set(name);
  }
}
