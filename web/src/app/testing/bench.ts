import { of } from 'rxjs';
import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { Piece } from '@yard-brace/contract';
import { MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { Api } from '../api/api';
import { ArtStore } from '../state/art-store';
import { BenchStore } from '../state/bench-store';
import { BENCH_STORES } from '../state/bench-stores';
import { Clock } from '../state/clock';
import { Notices } from '../state/notices';
import { Proposals } from '../state/proposals';
import { Selection } from '../state/selection';
import { Compute, Stopped } from '../workers/compute';
import { FakeApi } from './fake-api';
import { HandClock, settle } from './hand-clock';
import { postDocument, postPiece } from './post';

/** The jobs of the workers as spies; a job that a spec does not speak of never answers. */
export type JobSpies = Record<string, jasmine.Spy>;

export interface TestBench {
  api: FakeApi;
  clock: HandClock;
  jobs: JobSpies;
  store: BenchStore;
  proposals: Proposals;
  selection: Selection;
  notices: Notices;
  /** the last thing that was said */
  said(): string;
  get<T>(type: Type<T> | (abstract new (...args: never[]) => T)): T;
  /** a step or panel on this bench */
  show<T>(component: Type<T>): Promise<TestPage<T>>;
}

const JOBS = [
  'importFile',
  'storeFiles',
  'newArt',
  'extractPieces',
  'draw',
  'picture',
  'makeShapes',
  'ladder',
  'firstLook',
  'measure',
  'judgeShapes',
  'fixShapes',
  'bareFaces',
  'setPlaces',
  'operate',
  'tryOperation',
  'faults',
  'edgeRun',
  'riddenEdge',
  'runLine',
  'runPlaces',
  'shapeExcess',
  'seenFaces',
  'measuredPivot',
  'wallMetres',
  'uvs',
  'roundAxis',
  'seam',
  'familyMatch',
  'materialUses',
  'hardEdges',
  'uvPaint',
  'comingApart',
  'walk',
  'extent',
  'likelyAxes',
  'shapesAround',
  'openings',
  'testProfile',
  'readBackFiles',
  'weighDelivery',
  'walkTrials',
  'runRecipe',
  'bodyTrial',
  'trialCost',
  'beginWalk',
  'walkableArea',
  'startWalkAt',
  'restartWalk',
  'walkTo',
  'walkStraight',
  'advanceWalk',
  'endWalk',
  'beginDrive',
  'startDriveAt',
  'restartDrive',
  'advanceDrive',
  'endDrive',
];

/**
 * A bench with a piece on it: real stores, a server and workers that stand in, a clock that is moved by hand.
 *
 * @param prepare what jobs answer from the start, as that the piece is drawn
 */
export async function testBench(
  piece: Piece = postPiece(postDocument(2)),
  prepare: (jobs: JobSpies) => void = () => undefined,
): Promise<TestBench> {
  localStorage.clear();
  const api = new FakeApi(piece);
  const clock = new HandClock();
  const jobs: JobSpies = Object.fromEntries(
    JOBS.map((name) => [name, jasmine.createSpy(name).and.returnValue(new Promise(() => undefined))]),
  );
  // The ladder waits a little for its first look.
  jobs['firstLook']!.and.resolveTo([]);
  // Operations wait for each other: one that is not spoken of is stopped at once.
  jobs['operate']!.and.callFake(async () => Promise.reject(new Stopped('Stopped.')));
  prepare(jobs);
  const compute = {
    run: (work: (jobs: JobSpies, progress: () => void) => unknown) => work(jobs, () => undefined),
    runTrial: (work: (jobs: JobSpies, progress: () => void) => unknown) => work(jobs, () => undefined),
    walk: (work: (jobs: JobSpies) => unknown) => work(jobs),
    task: null,
    task$: of(null),
  };
  TestBed.resetTestingModule().configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      providePrimeNG({}),
      provideRouter([]),
      MessageService,
      ...BENCH_STORES,
      { provide: Api, useValue: api },
      { provide: Clock, useValue: clock },
      { provide: Compute, useValue: compute },
    ],
  });
  const store = TestBed.inject(BenchStore);
  // As on the page, where it is there from the start.
  TestBed.inject(ArtStore);
  await store.open(1);
  const notices = TestBed.inject(Notices);
  return {
    api,
    clock,
    jobs,
    store,
    proposals: TestBed.inject(Proposals),
    selection: TestBed.inject(Selection),
    notices,
    said: () => notices.notices.at(-1)?.text ?? '',
    get: (type) => TestBed.inject(type as Type<never>),
    show: async (component) => {
      const page = new TestPage(TestBed.createComponent(component));
      // Long steps make what stands below in the next task.
      await page.rest();
      await new Promise((resolve) => setTimeout(resolve));
      await page.rest();
      return page;
    },
  };
}

/** A shown component, used as a person would. */
export class TestPage<T> {
  readonly element: HTMLElement;

  constructor(readonly fixture: ComponentFixture<T>) {
    this.element = fixture.nativeElement as HTMLElement;
  }

  get text(): string {
    return this.element.textContent ?? '';
  }

  async rest(): Promise<void> {
    await settle();
    await this.fixture.whenStable();
  }

  /** The element that a selector finds. @throws when there is none */
  one<E extends Element = HTMLElement>(selector: string): E {
    const found = this.element.querySelector<E>(selector);
    if (!found) throw new Error(`there is no ${selector} in: ${this.text.slice(0, 300)}`);
    return found;
  }

  all<E extends Element = HTMLElement>(selector: string): E[] {
    return [...this.element.querySelectorAll<E>(selector)];
  }

  has = (selector: string): boolean => this.element.querySelector(selector) !== null;

  /** The button whose words begin like this. */
  button(words: string): HTMLButtonElement {
    const found = this.all<HTMLButtonElement>('button, p-togglebutton').find((each) =>
      (each.textContent ?? '').trim().startsWith(words),
    );
    if (!found) throw new Error(`there is no button “${words}” in: ${this.text.slice(0, 300)}`);
    return found;
  }

  async press(words: string): Promise<void> {
    this.button(words).click();
    await this.rest();
  }

  /** Tick or untick the box whose words hold this. */
  async tick(words: string): Promise<void> {
    const box = this.all('yb-check').find((each) => each.textContent!.includes(words));
    if (!box) throw new Error(`there is no box “${words}”`);
    box.querySelector<HTMLInputElement>('input')!.click();
    await this.rest();
    await new Promise((resolve) => setTimeout(resolve));
    await this.rest();
  }

  /** Type a number into the field of this label, and leave it. */
  async type(label: string, value: string): Promise<void> {
    const field = this.one<HTMLInputElement>(`input[aria-label="${label}"]`);
    field.focus();
    field.value = value;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    field.dispatchEvent(new Event('change', { bubbles: true }));
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', bubbles: true }));
    field.blur();
    await this.rest();
  }

  /** Choose from the list of this label. */
  async choose(label: string, option: string): Promise<void> {
    this.one<HTMLElement>(`[role=combobox][aria-label="${label}"]`).click();
    await this.rest();
    const found = [...document.querySelectorAll<HTMLElement>('[role=option]')].find(
      (each) => each.textContent!.trim() === option,
    );
    if (!found) throw new Error(`“${label}” has no option “${option}”`);
    found.click();
    await this.rest();
  }
}
