import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { OpenSetOut, Piece, SavedSetOut, SaveSetOut } from '@yard-brace/contract';
import {
  addProxies,
  applyEdit,
  currentSetOut,
  emptySetOut,
  FIRST_RULES,
  type PieceDocument,
  placedAt,
  type Placement,
  type SetCheck,
  type SetOutHistory,
  startHistory,
  startSetOut,
  type Vec3,
  withSetOutSteps,
} from '@yard-brace/core';
import { MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { of } from 'rxjs';
import { Api, ApiError } from '../api/api';
import { Clock } from '../state/clock';
import { Notices } from '../state/notices';
import { SET_OUT_STORES } from '../state/set-out-stores';
import { SetOutStore } from '../state/set-out-store';
import { Compute } from '../workers/compute';
import type { JobSpies } from './bench';
import { TestPage } from './bench';
import { HandClock, settle } from './hand-clock';
import { postDocument, postPiece } from './post';
import { boxRound } from './crate';

export const placed = (id: string, piece: number, at: Vec3, more: Partial<Placement> = {}): Placement => ({
  id,
  piece,
  version: null,
  ...placedAt(at),
  group: null,
  locked: false,
  materials: {},
  ...more,
});

/** A server with pieces and one set-out, that can be away or be written to by somebody else. */
export class FakeSetOutApi {
  jobs = async () => [];
  version = 1;
  history: SetOutHistory;
  away = false;
  readonly pieces = new Map<number, PieceDocument>();
  readonly sent: SaveSetOut[] = [];
  readonly saved: { id: number; document: PieceDocument }[] = [];
  readonly added: PieceDocument[] = [];

  constructor(placements: readonly Placement[]) {
    this.history = startSetOut({ ...emptySetOut('Slip'), placements: [...placements] });
    for (const id of [1, 2, 3]) this.pieces.set(id, { ...postDocument(2), name: `Post ${id}` });
  }

  setOut = async (id: number): Promise<OpenSetOut> => ({
    id,
    yard: { id: 7, name: 'Yard', rules: FIRST_RULES, rulesVersion: 1 },
    version: this.version,
    savedAt: '2026-01-01T10:00:00.000Z',
    history: this.history as OpenSetOut['history'],
  });

  saveSetOut = async (_id: number, state: SaveSetOut): Promise<SavedSetOut> => {
    this.sent.push(state);
    if (this.away) throw new ApiError('unavailable', 'The database cannot be reached just now.');
    if (state.version !== this.version)
      throw new ApiError('conflict', 'Somebody was first.', {
        code: 'conflict',
        message: 'Somebody was first.',
        version: this.version,
        savedAt: '2026-01-01T10:01:00.000Z',
      });
    this.history = 'steps' in state ? withSetOutSteps(this.history, state.steps)! : state.history;
    return { version: ++this.version, savedAt: '2026-01-01T10:02:00.000Z' };
  };

  addSetOut = jasmine
    .createSpy('addSetOut')
    .and.resolveTo({ id: 9, name: '', version: 1, savedAt: '2026-01-01T10:00:00.000Z', placements: 0 });
  deliverSet = jasmine.createSpy('deliverSet');

  piece = async (id: number): Promise<Piece> => {
    const document = this.pieces.get(id);
    if (!document) throw new ApiError('not-found', 'There is no piece; it may have been removed.');
    return { ...postPiece(document), id };
  };

  yard = async () => ({
    shelf: [...this.pieces].map(([id, { name }]) => ({ id, name })),
  });

  pieceAt = async (id: number, version: number) =>
    startHistory({ ...this.pieces.get(id)!, name: `Post ${id}, version ${version}` });

  savePiece = async (
    id: number,
    _version: number,
    state: { history: { base: PieceDocument; edits: never[] } },
  ) => {
    const { base, edits } = state.history;
    const document = edits.reduce(applyEdit, base);
    this.saved.push({ id, document });
    this.pieces.set(id, document);
    return {};
  };

  addPiece = async (_yard: number, history: { base: PieceDocument }) => {
    this.added.push(history.base);
    this.pieces.set(50, history.base);
    return { id: 50 };
  };
}

export interface TestSetOut {
  api: FakeSetOutApi;
  clock: HandClock;
  jobs: JobSpies;
  store: SetOutStore;
  /** the placements as they are */
  placements(): Placement[];
  said(): string;
  get<T>(type: Type<T>): T;
  show<T>(component: Type<T>, inputs?: Record<string, unknown>): Promise<TestPage<T>>;
}

/** A document with one box as its shape. */
export const boxed = (document: PieceDocument): PieceDocument =>
  applyEdit(document, addProxies(document, [boxRound([0.5, 0.5, 0.5], 0.5)]));

/** A set-out that is open: real stores, a server and workers that stand in, a clock that is moved by hand. */
export async function testSetOut(
  placements: readonly Placement[] = [placed('p1', 1, [0, 0, 0]), placed('p2', 1, [4, 0, 0])],
  prepare: (api: FakeSetOutApi) => void = () => undefined,
): Promise<TestSetOut> {
  localStorage.clear();
  const api = new FakeSetOutApi(placements);
  prepare(api);
  const clock = new HandClock();
  const names = [
    'draw',
    'checkSet',
    'isMirrored',
    'operate',
    'walkSet',
    'acrossSet',
    'beginSetWalk',
    'endWalk',
    'beginSetDrive',
    'endDrive',
    'advanceWalk',
    'advanceDrive',
    'startWalkAt',
    'walkStraight',
  ];
  const jobs: JobSpies = Object.fromEntries(
    names.map((name) => [name, jasmine.createSpy(name).and.returnValue(new Promise(() => undefined))]),
  );
  const run = (work: (jobs: JobSpies, progress: () => void) => unknown) => work(jobs, () => undefined);
  TestBed.resetTestingModule().configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      providePrimeNG({}),
      provideRouter([]),
      MessageService,
      ...SET_OUT_STORES,
      { provide: Api, useValue: api },
      { provide: Clock, useValue: clock },
      { provide: Compute, useValue: { run, runTrial: run, walk: run, task: null, task$: of(null) } },
    ],
  });
  const store = TestBed.inject(SetOutStore);
  await store.open(1);
  await settle();
  const notices = TestBed.inject(Notices);
  return {
    api,
    clock,
    jobs,
    store,
    placements: () => store.setOut.placements,
    said: () => notices.notices.at(-1)?.text ?? '',
    get: (type) => TestBed.inject(type),
    show: async (component, inputs = {}) => {
      const fixture = TestBed.createComponent(component);
      for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
      const page = new TestPage(fixture);
      await page.rest();
      return page;
    },
  };
}

/** What a check of the set comes to, for jobs that answer. */
export const checked = (faults: SetCheck['faults'] = []): SetCheck => ({ faults, pairs: 1, meeting: 0 });

export const positionsOf = (history: SetOutHistory): Vec3[] =>
  currentSetOut(history).placements.map(({ position }) => position);
