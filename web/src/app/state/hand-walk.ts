import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Agent, TrialContact, Vec3 } from '@yard-brace/core';
import type { WalkableArea, WalkFrame, WalkInput, Way } from '@yard-brace/trial';
import { BehaviorSubject, Subscription } from 'rxjs';
import type { Remote } from 'comlink';
import type { TrialJobs } from '../workers/trial.worker';
import { Compute } from '../workers/compute';
import { Notices } from './notices';
import { WalkGround } from './walk-ground';

/** From where a walk is looked at. */
export const WALK_LOOKS = ['around', 'eyes', 'above'] as const;
export type WalkLook = (typeof WALK_LOOKS)[number];
export const WALK_PACES = { 'real time': 1, 'a quarter': 0.25 } as const;
export type WalkPace = keyof typeof WALK_PACES;
export const AREA_OVER = ['none', 'shapes', 'art'] as const;
export type AreaOver = (typeof AREA_OVER)[number];

/** The walk that is under way. */
export interface Walking {
  agent: Agent;
  frame: WalkFrame;
  contacts: readonly TrialContact[];
  running: boolean;
  pace: WalkPace;
  look: WalkLook;
  /** the way to the goal; null without one */
  route: { points: readonly Vec3[]; complete: boolean } | null;
  over: AreaOver;
  area: WalkableArea | null;
}

const STEPS_A_SECOND = 60;
/** A page that was away goes on from where it was, and does not catch up. */
const MAX_STEPS_AT_ONCE = 6;

/** An agent that is steered by a person: the engine runs on a worker, one step after the other. */
@Injectable()
export class HandWalkStore implements OnDestroy {
  private readonly ground = inject(WalkGround);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);
  private readonly state$ = new BehaviorSubject<Walking | null>(null);
  readonly walking$ = this.state$.asObservable();
  /** the level way that is looked along: "ahead" is that way */
  heading: () => Way = () => [0, -1];
  private readonly held = new Set<'ahead' | 'back' | 'left' | 'right'>();
  private wantsJump = false;
  private crouches = false;
  private frame = 0;
  private owed = 0;
  private last = 0;
  private asking = false;
  private readonly subscription = new Subscription();

  constructor() {
    this.subscription.add(this.ground.changed$.subscribe(() => void this.again()));
    this.subscription.add(this.ground.left$.subscribe(() => this.end()));
  }

  ngOnDestroy(): void {
    this.subscription.unsubscribe();
    this.end();
  }

  get walking(): Walking | null {
    return this.state$.value;
  }

  /** Put an agent before the piece. */
  async begin(agent: Agent): Promise<void> {
    const before = this.walking;
    try {
      const frame = await this.compute.walk((jobs) => this.ground.begin(jobs, agent, this.heading()));
      this.state$.next({
        agent,
        frame,
        contacts: [],
        running: true,
        pace: before?.pace ?? 'real time',
        look: before?.look ?? 'around',
        route: null,
        over: 'none',
        area: null,
      });
      if (before && before.over !== 'none') await this.showArea(before.over);
      this.loop();
    } catch (error) {
      this.notices.error(error);
    }
  }

  end(): void {
    cancelAnimationFrame(this.frame);
    this.frame = 0;
    this.held.clear();
    if (!this.walking) return;
    this.state$.next(null);
    void this.compute.walk((jobs) => jobs.endWalk()).catch(() => undefined);
  }

  /** From here from now on. */
  async startAt(at: Vec3): Promise<void> {
    await this.ask(async (jobs) =>
      this.patch({ frame: await jobs.startWalkAt(at), contacts: [], route: null }),
    );
  }

  async restart(): Promise<void> {
    await this.ask(async (jobs) =>
      this.patch({ frame: await jobs.restartWalk(), contacts: [], route: null }),
    );
  }

  /** It walks to a place by itself. */
  async goTo(goal: Vec3): Promise<void> {
    await this.ask(async (jobs) => this.patch({ route: await jobs.walkTo(goal), running: true }));
    this.loop();
  }

  /** It walks straight at a place, whatever stands between. */
  async goStraight(goal: Vec3): Promise<void> {
    await this.ask((jobs) => jobs.walkStraight(goal));
    this.set({ running: true });
  }

  async showArea(over: AreaOver): Promise<void> {
    if (over === 'none') this.patch({ over, area: null });
    else await this.ask(async (jobs) => this.patch({ over, area: await jobs.walkableArea(over) }));
  }

  set(change: Partial<Pick<Walking, 'running' | 'pace' | 'look'>>): void {
    this.patch(change);
    if (change.running) this.loop();
  }

  hold(key: 'ahead' | 'back' | 'left' | 'right', down: boolean): void {
    if (down) this.held.add(key);
    else this.held.delete(key);
    if (down && this.walking?.route) this.patch({ route: null });
  }

  jump(): void {
    this.wantsJump = true;
  }

  crouch(down: boolean): void {
    this.crouches = down;
  }

  /** One step of time, while it stands still. */
  async step(): Promise<void> {
    this.patch({ running: false });
    await this.advance(1);
  }

  private async again(): Promise<void> {
    const walking = this.walking;
    if (!walking) return;
    await this.begin(walking.agent);
    await this.startAt(walking.frame.at);
  }

  private loop(): void {
    if (this.frame || !this.walking) return;
    this.last = performance.now();
    const tick = (now: number) => {
      const walking = this.walking;
      this.frame = 0;
      if (!walking?.running) return;
      this.owed = Math.min(
        MAX_STEPS_AT_ONCE,
        this.owed + ((now - this.last) / 1000) * STEPS_A_SECOND * WALK_PACES[walking.pace],
      );
      this.last = now;
      const steps = Math.floor(this.owed);
      if (steps > 0 && !this.asking) {
        this.owed -= steps;
        void this.advance(steps);
      }
      this.frame = requestAnimationFrame(tick);
    };
    this.frame = requestAnimationFrame(tick);
  }

  private async advance(steps: number): Promise<void> {
    const input: WalkInput = { way: this.way(), jump: this.wantsJump, crouch: this.crouches };
    this.wantsJump = false;
    this.asking = true;
    try {
      const inputs = Array.from({ length: steps }, (_, i) => ({ ...input, jump: input.jump && i === 0 }));
      const answer = await this.compute.walk((jobs) => jobs.advanceWalk(inputs));
      if (answer) this.patch(answer);
    } catch (error) {
      this.end();
      this.notices.error(error);
    } finally {
      this.asking = false;
    }
  }

  private way(): Way | null {
    const ahead = Number(this.held.has('ahead')) - Number(this.held.has('back'));
    const right = Number(this.held.has('right')) - Number(this.held.has('left'));
    if (ahead === 0 && right === 0) return null;
    const [x, z] = this.heading();
    const way = [x * ahead - z * right, z * ahead + x * right] as const;
    const length = Math.hypot(...way);
    return [way[0] / length, way[1] / length];
  }

  private async ask(work: (jobs: Remote<TrialJobs>) => Promise<unknown>): Promise<void> {
    if (!this.walking) return;
    try {
      await this.compute.walk(work);
    } catch (error) {
      this.notices.error(error);
    }
  }

  private patch(change: Partial<Walking>): void {
    const walking = this.walking;
    if (walking) this.state$.next({ ...walking, ...change });
  }
}
