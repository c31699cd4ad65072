import { Injectable } from '@angular/core';
import type { Agent, RunStart, TrialContact, Vec3 } from '@yard-brace/core';
import type { WalkableArea, WalkFrame, Way } from '@yard-brace/trial';
import type { Remote } from 'comlink';
import type { TrialJobs } from '../workers/trial.worker';
import { HandRun, type HandRunning } from './hand-run';

/** From where a walk is looked at. */
export const WALK_LOOKS = ['around', 'eyes', 'above'] as const;
export type WalkLook = (typeof WALK_LOOKS)[number];
export const AREA_OVER = ['none', 'shapes', 'art'] as const;
export type AreaOver = (typeof AREA_OVER)[number];

/** A run that is walked again goes straight on, farther than any piece. */
const FAR_METRES = 200;

/** The walk that is under way. */
export interface Walking extends HandRunning {
  agent: Agent;
  frame: WalkFrame;
  contacts: readonly TrialContact[];
  look: WalkLook;
  /** the way to the goal; null without one */
  route: { points: readonly Vec3[]; complete: boolean } | null;
  over: AreaOver;
  area: WalkableArea | null;
}

/** An agent that is steered by a person. */
@Injectable()
export class HandWalkStore extends HandRun<Walking> {
  readonly walking$ = this.state$.asObservable();
  /** the level way that is looked along: "ahead" is that way */
  heading: () => Way = () => [0, -1];

  get walking(): Walking | null {
    return this.state$.value;
  }

  /** Put an agent before the piece. */
  async begin(agent: Agent): Promise<void> {
    const before = this.walking;
    await this.start(async (jobs) => ({
      agent,
      frame: await this.ground.begin(jobs, agent, this.heading()),
      contacts: [],
      running: true,
      pace: before?.pace ?? 'real time',
      look: before?.look ?? 'around',
      route: null,
      over: 'none',
      area: null,
    }));
    if (before && before.over !== 'none') await this.showArea(before.over);
  }

  override end(): void {
    const walking = this.walking;
    super.end();
    if (walking) this.ground.felt(walking.agent, walking.contacts);
  }

  override async startAt(at: Vec3): Promise<void> {
    await this.ask(async (jobs) =>
      this.patch({ frame: await jobs.startWalkAt(at), contacts: [], route: null }),
    );
  }

  override async restart(): Promise<void> {
    await this.ask(async (jobs) =>
      this.patch({ frame: await jobs.restartWalk(), contacts: [], route: null }),
    );
  }

  /** It walks to a place by itself. */
  async goTo(goal: Vec3): Promise<void> {
    await this.ask(async (jobs) => this.set({ route: await jobs.walkTo(goal), running: true }));
  }

  /** A run of a trial walked again: from where it began, straight on. */
  async walkAgain(agent: Agent, { at, way }: RunStart): Promise<void> {
    await this.begin(agent);
    await this.startAt(at);
    const [x, z] = way;
    await this.ask((jobs) => jobs.walkStraight([at[0] + x * FAR_METRES, at[1], at[2] + z * FAR_METRES]));
    this.set({ running: true });
  }

  async showArea(over: AreaOver): Promise<void> {
    if (over === 'none') this.patch({ over, area: null });
    else await this.ask(async (jobs) => this.patch({ over, area: await jobs.walkableArea(over) }));
  }

  protected override async again(): Promise<void> {
    const walking = this.walking;
    if (!walking) return;
    await this.begin(walking.agent);
    await this.startAt(walking.frame.at);
  }

  protected override async advanced(
    jobs: Remote<TrialJobs>,
    steps: number,
  ): Promise<Partial<Walking> | null> {
    const way = this.way();
    const jump = this.steering.takeJump();
    const crouch = this.steering.crouches;
    // Who is steered goes where they are steered to.
    if (way && this.walking?.route) this.patch({ route: null });
    return jobs.advanceWalk(
      Array.from({ length: steps }, (_, i) => ({ way, jump: jump && i === 0, crouch })),
    );
  }

  protected override ended(jobs: Remote<TrialJobs>): Promise<void> {
    return jobs.endWalk();
  }

  private way(): Way | null {
    const { ahead, right } = this.steering;
    if (ahead === 0 && right === 0) return null;
    const [x, z] = this.heading();
    const way = [x * ahead - z * right, z * ahead + x * right] as const;
    const length = Math.hypot(...way);
    return [way[0] / length, way[1] / length];
  }
}
