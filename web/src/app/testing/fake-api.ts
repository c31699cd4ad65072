import type {
  Added,
  BinEntry,
  Delivery,
  DeliveryBook,
  DeliveryEntry,
  DeliveryList,
  DeliveryPlace,
  Job,
  JobReport,
  NewImport,
  Piece,
  RulesEffect,
  Saved,
  TakenBack,
  Yard,
  YardRulesState,
  YardWithPieces,
} from '@yard-brace/contract';
import {
  type DeliveryChoices,
  FIRST_RULES,
  type History,
  type HistorySteps,
  type Recipe,
  withSteps,
  type YardRules,
} from '@yard-brace/core';
import { ApiError } from '../api/api';
import { delivered, jobReport, postPiece, savedPost } from './post';

/** A server of one piece that can be away, or be written to by somebody else. */
export class FakeApi {
  version = 1;
  history: History;
  away = false;
  saves = 0;
  added: History[] = [];
  /** histories by version, as the server keeps them */
  readonly kept = new Map<number, History>();
  readonly sent: { steps?: HistorySteps; history?: History }[] = [];
  left: Delivery[] = [];
  shelf: YardWithPieces['shelf'] = [];

  constructor(private readonly first: Piece = postPiece()) {
    this.history = first.history;
    this.kept.set(1, this.history);
  }

  piece = async (id: number): Promise<Piece> => ({
    ...this.first,
    id,
    version: this.version,
    // Two pieces never share a history.
    history: id === 1 ? this.history : structuredClone(this.history),
  });

  pieceAt = async (_id: number, version: number): Promise<History> => {
    const history = this.kept.get(version);
    if (!history) throw new ApiError('not-found', 'not kept any more');
    return history;
  };

  savePiece = async (
    _id: number,
    version: number,
    state: { steps: HistorySteps } | { history: History },
  ): Promise<Saved> => {
    this.saves++;
    this.sent.push(state);
    if (this.away) throw new ApiError('unavailable', 'The database cannot be reached just now.');
    if (version !== this.version) {
      throw new ApiError('conflict', 'Somebody was first.', {
        code: 'conflict',
        message: 'Somebody was first.',
        version: this.version,
        savedAt: '2026-01-01T10:01:00.000Z',
      });
    }
    this.history = 'steps' in state ? withSteps(this.history, state.steps)! : state.history;
    this.kept.set(++this.version, this.history);
    return savedPost(this.version);
  };

  setMeasured = async () => ({ facts: savedPost(1).facts });

  addPiece = async (_yard: number, history: History): Promise<Added> => {
    this.added.push(history);
    return { ...savedPost(1), id: this.added.length + 1, name: 'Post' };
  };

  yard = async (id: number): Promise<YardWithPieces> => ({
    id,
    name: 'Yard',
    pieces: this.shelf.length,
    changedAt: '2026-01-01T10:00:00.000Z',
    rules: FIRST_RULES,
    rulesVersion: 1,
    shelf: this.shelf,
    more: 0,
    changed: 0,
  });

  yards = async (): Promise<Yard[]> => [await this.yard(1)];
  yardsInBin = async (): Promise<BinEntry[]> => [];

  /** The newest first, two at a time. */
  deliveries = async (_piece: number, before = Infinity): Promise<DeliveryList> => {
    const left = this.left.filter(({ id }) => id < before);
    return { deliveries: left.slice(0, 2), more: Math.max(0, left.length - 2) };
  };

  deliver = async (
    piece: number,
    {
      answered: _answered,
      ...wanted
    }: {
      version: number;
      target: string;
      choices?: DeliveryChoices;
      answered?: boolean;
    },
  ): Promise<Delivery> => {
    const made = delivered(this.left.length + 1, piece, wanted);
    this.left = [made, ...this.left];
    return made;
  };

  deliverTogether = async (
    _yard: number,
    {
      pieces,
      ...wanted
    }: {
      pieces: readonly { id: number; version: number }[];
      target: string;
      choices: DeliveryChoices;
      answered?: boolean;
    },
  ): Promise<Delivery[]> =>
    Promise.all(pieces.map(({ id, version }) => this.deliver(id, { version, ...wanted })));

  /** where deliveries would be put */
  placed: DeliveryPlace = { place: null, standing: [] };
  deliveryPlace = async (): Promise<DeliveryPlace> => this.placed;
  /** the deliveries of its yard, the newest first */
  book: DeliveryEntry[] = [];
  deliveryBook = async (): Promise<DeliveryBook> => ({ entries: this.book, more: 0 });
  /** the text of every file of a delivery */
  texts = '';
  deliveryText = async (): Promise<string> => this.texts;
  delivery = async (id: number): Promise<Delivery> => this.left.find((each) => each.id === id)!;

  /** the rules of its yard, and what they would do */
  ruled: YardRulesState = { version: 1, rules: FIRST_RULES, canUndo: false };
  effect: RulesEffect['pieces'] = [];
  rules = async (): Promise<YardRulesState> => this.ruled;
  tryRules = async (): Promise<RulesEffect> => ({ pieces: this.effect });
  saveRules = async (_yard: number, version: number, rules: YardRules): Promise<YardRulesState> => {
    if (version !== this.ruled.version)
      throw new ApiError('conflict', 'The rules were saved somewhere else.');
    return (this.ruled = { version: version + 1, rules, canUndo: true });
  };
  undoRules = async (_yard: number, version: number): Promise<YardRulesState> =>
    (this.ruled = { version: version + 1, rules: FIRST_RULES, canUndo: false });

  /** jobs of its yard, the newest first, with what became of their pieces */
  work: JobReport[] = [];
  jobs = async (): Promise<Job[]> => this.work.map(({ job }) => job);
  begun: { recipe: Recipe; pieces: readonly number[] }[] = [];
  beginJob = async (_yard: number, recipe: Recipe, pieces: readonly number[]): Promise<Job> => {
    this.begun.push({ recipe, pieces });
    const report = jobReport({ id: this.work.length + 1, name: recipe.name, pieces: pieces.length });
    this.work = [report, ...this.work];
    return report.job;
  };
  beginImport = async (_yard: number, files: NewImport): Promise<Job> => {
    this.imports.push(files);
    const pieces = files.meshes.length;
    const report = jobReport({ id: this.work.length + 1, kind: 'import', name: 'Import', pieces });
    this.work = [report, ...this.work];
    return report.job;
  };
  imports: NewImport[] = [];
  jobReport = async (id: number, from: number): Promise<JobReport> => {
    const report = this.work.find(({ job }) => job.id === id)!;
    return from === 0 ? report : { ...report, items: this.further.splice(0) };
  };
  /** items of a report that come after its first answer */
  further: JobReport['items'] = [];
  /** what was asked of jobs */
  asked: unknown[] = [];
  private askJob = async (id: number, what: string, change: Partial<Job>, more?: unknown): Promise<Job> => {
    this.asked.push([what, id, ...(more === undefined ? [] : [more])]);
    this.work = this.work.map((each) =>
      each.job.id === id ? { ...each, job: { ...each.job, ...change } } : each,
    );
    return this.work.find(({ job }) => job.id === id)!.job;
  };
  stopJob = (id: number) => this.askJob(id, 'stop', { state: 'stopped' });
  goOnWithJob = (id: number) => this.askJob(id, 'go on', { state: 'running' });
  prioritiseJob = (id: number, priority: number) => this.askJob(id, 'first', { priority });
  tryJobAgain = (id: number, positions: readonly number[] | null) =>
    this.askJob(id, 'again', { state: 'running' }, positions);
  takeJobBack = async (id: number, positions: readonly number[] | null): Promise<TakenBack> => {
    await this.askJob(id, 'back', {}, positions);
    return { pieces: [...(positions ?? [1])], refused: [] };
  };
}
