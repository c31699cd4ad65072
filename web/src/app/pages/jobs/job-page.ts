import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  numberAttribute,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import type { JobItem, JobReport } from '@yard-brace/contract';
import { counted, type Stamp } from '@yard-brace/core';
import { Button } from 'primeng/button';
import { ProgressBar } from 'primeng/progressbar';
import { Api } from '../../api/api';
import { sentenceOf } from '../../api/told';
import { Clock } from '../../state/clock';
import { JobsStore } from '../../state/jobs-store';
import { Notices } from '../../state/notices';
import { ShelfStore } from '../../state/shelf-store';
import { VersionPictures } from '../../state/version-pictures';
import { Ask } from '../../ui/ask';
import { Disclosure } from '../../ui/disclosure';
import { Header } from '../../ui/header';
import { momentText } from '../../ui/moment';
import { StampMark } from '../../ui/stamp';
import { StepReports } from '../../ui/step-reports';
import { YardPlaces } from '../../ui/yard-places';
import { VersionPicture } from './version-picture';

const AGAIN_MS = 1200;
const STAMPS: Record<JobItem['state'], Stamp> = {
  failed: 'stopped',
  running: 'none',
  waiting: 'none',
  done: 'clear',
};

/** What a job made of each of its pieces, failures first; what it did can be tried again and taken back. */
@Component({
  selector: 'yb-job-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [VersionPictures],
  imports: [
    Button,
    Disclosure,
    Header,
    ProgressBar,
    RouterLink,
    StampMark,
    StepReports,
    VersionPicture,
    YardPlaces,
  ],
  templateUrl: './job-page.html',
  styleUrl: './job-page.css',
})
export class JobPage {
  private readonly api = inject(Api);
  private readonly clock = inject(Clock);
  private readonly jobs = inject(JobsStore);
  private readonly notices = inject(Notices);
  private readonly shelf = inject(ShelfStore);
  private readonly ask = inject(Ask);
  private readonly pictures = inject(VersionPictures);
  readonly jobId = input.required({ transform: numberAttribute });
  protected readonly yard = toSignal(this.shelf.yard$, { initialValue: null });
  private readonly report = signal<JobReport | null>(null);
  /** pieces that were listed after the first answer */
  private readonly further = signal<readonly JobItem[]>([]);
  protected readonly missing = signal('');
  protected readonly acting = signal(false);
  protected readonly job = computed(() => this.report()?.job ?? null);
  protected readonly items = computed(() => [...(this.report()?.items ?? []), ...this.further()]);
  protected readonly more = computed(() => Math.max(0, (this.job()?.pieces ?? 0) - this.items().length));
  protected readonly changedAny = computed(() =>
    this.items().some(({ savedVersion, takenBack }) => savedVersion !== null && !takenBack),
  );
  protected readonly stamps = STAMPS;
  protected readonly counted = counted;
  private asked = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.asked++);
    effect(() => {
      const id = this.jobId();
      untracked(() => {
        this.report.set(null);
        this.further.set([]);
        void this.load(id);
      });
    });
  }

  protected percent = (share: number) => Math.round(share * 100);

  protected stateText(): string {
    const { kind, state, pieces, done, failed, waiting, running, startedAt, endedAt } = this.job()!;
    const count =
      kind === 'import'
        ? `${done} of ${counted(pieces, 'file')} imported, ${failed} refused`
        : `${done} of ${counted(pieces, 'piece')} done, ${failed} failed`;
    if (state === 'ended') return `${count}. ${momentText(startedAt)} to ${momentText(endedAt!)}.`;
    if (state === 'stopped') return `${count}, ${waiting} left as they were. Stopped.`;
    return running ? `${count}, ${running} under way, ${waiting} waiting.` : `${count}, ${waiting} waiting.`;
  }

  protected says({ state, says, share }: JobItem): string {
    // It says what it waits for where that is more than its turn.
    if (state === 'waiting') return says ? `waiting. ${says}` : 'waiting';
    return state === 'running' ? `under way, ${this.percent(share)} %` : says;
  }

  protected deliveredText({ deliveries }: JobItem): string {
    return deliveries
      .map(({ target, agreed }) => `delivered for ${target.replaceAll('-', ' ')}${agreed ? '' : ', differs'}`)
      .join(', ');
  }

  protected stop = () => this.act(() => this.jobs.stop(this.jobId()));
  protected goOn = () => this.act(() => this.jobs.goOn(this.jobId()));

  protected tryAgain(positions: readonly number[] | null): Promise<void> {
    return this.act(() => this.jobs.tryAgain(this.jobId(), positions));
  }

  protected async takeBack(positions: readonly number[] | null): Promise<void> {
    if (
      positions === null &&
      !(await this.ask.ask({
        title: 'Take all of it back?',
        text:
          this.job()?.kind === 'import'
            ? 'Every piece that nobody changed since goes into the bin. What was delivered stays delivered.'
            : 'Every piece that nobody changed since is as it was before the job. What was delivered stays delivered.',
        accept: 'Take back',
        reject: 'Keep',
      }))
    )
      return;
    await this.act(async () => {
      const back = await this.api.takeJobBack(this.jobId(), positions);
      if (back.pieces.length) this.notices.say(`${counted(back.pieces.length, 'piece')} taken back.`);
      for (const { name, says } of back.refused.slice(0, 3)) this.notices.say(`${name}: ${says}`, true);
    });
  }

  protected async showMore(): Promise<void> {
    try {
      const { items } = await this.api.jobReport(this.jobId(), this.items().length);
      this.further.update((before) => [...before, ...items]);
    } catch (error) {
      this.notices.error(error);
    }
  }

  /** Every piece stands on the paper, and none without its pictures. */
  protected async print(): Promise<void> {
    this.acting.set(true);
    for (let before = -1; this.more() && this.items().length > before;) {
      before = this.items().length;
      await this.showMore();
    }
    // Those that were listed just now ask for their pictures as they are drawn.
    await new Promise((resolve) => setTimeout(resolve));
    await this.pictures.allDrawn();
    this.acting.set(false);
    await new Promise((resolve) => setTimeout(resolve));
    globalThis.print();
  }

  private async act(work: () => Promise<unknown>): Promise<void> {
    this.acting.set(true);
    try {
      await work();
    } catch (error) {
      this.notices.error(error);
    } finally {
      this.acting.set(false);
      this.further.set([]);
      await this.load(this.jobId());
    }
  }

  private async load(id: number): Promise<void> {
    const asked = ++this.asked;
    try {
      const report = await this.api.jobReport(id, 0);
      if (asked !== this.asked) return;
      this.report.set(report);
      this.jobs.heard(report.job);
      if (this.shelf.yard?.id !== report.job.yard)
        this.shelf.load(report.job.yard).catch((error: unknown) => this.notices.error(error));
      if (report.job.state === 'running')
        this.clock.after(AGAIN_MS, () => {
          if (asked === this.asked) void this.load(id);
        });
    } catch (error) {
      if (asked === this.asked) this.missing.set(sentenceOf(error));
    }
  }
}
