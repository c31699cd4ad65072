import { Injectable } from '@angular/core';
import {
  type Added,
  addedListSchema,
  addedSchema,
  type BinEntry,
  binSchema,
  blobSchema,
  type Conflict,
  conflictSchema,
  type Delivery,
  type DeliveryBook,
  deliveryBookSchema,
  type DeliveryList,
  deliveryListSchema,
  type DeliveryPlace,
  type Job,
  importedYardsSchema,
  jobListSchema,
  type JobReport,
  jobReportSchema,
  jobSchema,
  type TakenBack,
  takenBackSchema,
  deliveryPlaceSchema,
  deliverySchema,
  jointDeliveriesSchema,
  measuredSchema,
  newPieceSchema,
  type OpenSetOut,
  openSetOutSchema,
  type SavedSetOut,
  savedSetOutSchema,
  type SaveSetOut,
  type SetOutEntry,
  setOutEntrySchema,
  setOutListSchema,
  type NewImport,
  type Piece,
  pieceSchema,
  type PieceSummary,
  type Problem,
  problemSchema,
  routes,
  type RulesEffect,
  rulesEffectSchema,
  type Saved,
  savedSchema,
  type ShelfChanges,
  shelfChangesSchema,
  shelfPageSchema,
  type Versions,
  versionsSchema,
  type Yard,
  yardListSchema,
  type YardRulesState,
  yardRulesStateSchema,
  yardSchema,
  type YardWithPieces,
  yardWithPiecesSchema,
} from '@yard-brace/contract';
import type {
  DeliveryChoices,
  History,
  HistorySteps,
  ProxyFacts,
  Recipe,
  SetForm,
  SetOut,
  ShelfFacts,
  YardRules,
} from '@yard-brace/core';
import type * as z from 'zod';
import { Told } from './told';

/** A request that was refused or did not get through. `unavailable` may work later; nothing else will. */
export class ApiError extends Told {
  override readonly name = 'ApiError';

  constructor(
    readonly code: Problem['code'],
    message: string,
    readonly conflict?: Conflict,
  ) {
    super(message);
  }
}

/** The server's API; every answer is checked against the contract. */
@Injectable({ providedIn: 'root' })
export class Api {
  yards = (): Promise<Yard[]> => call('GET', routes.yards, yardListSchema);
  createYard = (name: string): Promise<Yard> => call('POST', routes.yards, yardSchema, { name });
  yard = (id: number): Promise<YardWithPieces> => call('GET', routes.yard(id), yardWithPiecesSchema);
  shelfAfter = async (yardId: number, after: { id: number; name: string }): Promise<PieceSummary[]> =>
    (await call('GET', routes.shelfAfter(yardId, after), shelfPageSchema)).pieces;
  shelfSince = (yardId: number, change: number): Promise<ShelfChanges> =>
    call('GET', routes.shelfSince(yardId, change), shelfChangesSchema);
  importYards = (file: Blob): Promise<{ yards: number[] }> =>
    call('POST', routes.archives, importedYardsSchema, file);
  bin = (yardId: number): Promise<BinEntry[]> => call('GET', routes.yardBin(yardId), binSchema);
  yardsInBin = (): Promise<BinEntry[]> => call('GET', routes.bin, binSchema);
  putYardBack = (id: number): Promise<void> => send('POST', routes.yardPutBack(id)).then(() => undefined);
  putPieceBack = (id: number): Promise<void> => send('POST', routes.piecePutBack(id)).then(() => undefined);
  removeYard = (id: number): Promise<void> => send('DELETE', routes.yard(id)).then(() => undefined);
  jobs = (yardId: number): Promise<Job[]> => call('GET', routes.yardJobs(yardId), jobListSchema);
  beginJob = (yardId: number, recipe: Recipe, pieces: readonly number[]): Promise<Job> =>
    call('POST', routes.yardJobs(yardId), jobSchema, { recipe, pieces });
  beginImport = (yardId: number, files: NewImport): Promise<Job> =>
    call('POST', routes.yardImports(yardId), jobSchema, files);
  /** @param from so many pieces were listed before */
  jobReport = (id: number, from: number): Promise<JobReport> =>
    call('GET', routes.jobFrom(id, from), jobReportSchema);
  stopJob = (id: number): Promise<Job> => call('POST', routes.jobStopped(id), jobSchema);
  goOnWithJob = (id: number): Promise<Job> => call('POST', routes.jobGoesOn(id), jobSchema);
  prioritiseJob = (id: number, priority: number): Promise<Job> =>
    call('PUT', routes.jobPriority(id), jobSchema, { priority });
  /** @param positions null for all that failed */
  tryJobAgain = (id: number, positions: readonly number[] | null): Promise<Job> =>
    call('POST', routes.jobTriedAgain(id), jobSchema, { positions });
  /** @param positions null for all of it */
  takeJobBack = (id: number, positions: readonly number[] | null): Promise<TakenBack> =>
    call('POST', routes.jobTakenBack(id), takenBackSchema, { positions });
  rules = (yardId: number): Promise<YardRulesState> =>
    call('GET', routes.yardRules(yardId), yardRulesStateSchema);
  saveRules = (yardId: number, version: number, rules: YardRules): Promise<YardRulesState> =>
    call('PUT', routes.yardRules(yardId), yardRulesStateSchema, { version, rules });
  /** What rules would do to the pieces of a yard. */
  tryRules = (yardId: number, rules: YardRules): Promise<RulesEffect> =>
    call('POST', routes.yardRulesTried(yardId), rulesEffectSchema, { rules });
  undoRules = (yardId: number, version: number): Promise<YardRulesState> =>
    call('POST', routes.yardRulesUndone(yardId), yardRulesStateSchema, { version });
  addPiece = (yardId: number, history: History): Promise<Added> =>
    call('POST', routes.yardPieces(yardId), addedSchema, { history });
  takeApart = (
    pieceId: number,
    version: number,
    histories: readonly History[],
    remove: boolean,
  ): Promise<Added[]> =>
    call('POST', routes.pieceApart(pieceId), addedListSchema, {
      version,
      pieces: histories.map((history) => ({ history })),
      remove,
    });
  setOuts = (yardId: number): Promise<SetOutEntry[]> =>
    call('GET', routes.yardSetOuts(yardId), setOutListSchema);
  addSetOut = (yardId: number, setOut: SetOut): Promise<SetOutEntry> =>
    call('POST', routes.yardSetOuts(yardId), setOutEntrySchema, { setOut });
  setOut = (id: number): Promise<OpenSetOut> => call('GET', routes.setOut(id), openSetOutSchema);
  saveSetOut = (id: number, state: SaveSetOut): Promise<SavedSetOut> =>
    call('PUT', routes.setOut(id), savedSetOutSchema, state);
  /** A set-out as it stands, for a target. */
  deliverSet = (
    id: number,
    wanted: {
      version: number;
      target: string;
      form: SetForm;
      name: string;
      choices: DeliveryChoices;
      answered: boolean;
    },
  ): Promise<Delivery[]> => call('POST', routes.setOutDeliveries(id), jointDeliveriesSchema, wanted);
  removeSetOut = (id: number): Promise<void> => send('DELETE', routes.setOut(id)).then(() => undefined);
  piece = (id: number): Promise<Piece> => call('GET', routes.piece(id), pieceSchema);
  /** Save over a version: what changed since it, or the whole history where that cannot be told. */
  savePiece = (
    id: number,
    version: number,
    state: { steps: HistorySteps } | { history: History },
  ): Promise<Saved> => call('PUT', routes.piece(id), savedSchema, { version, ...state });
  setMeasured = (id: number, measured: ProxyFacts): Promise<{ facts: ShelfFacts }> =>
    call('PUT', routes.pieceMeasured(id), measuredSchema, { measured });
  versions = (id: number): Promise<Versions> => call('GET', routes.pieceVersions(id), versionsSchema);
  /** The history of a kept version. */
  pieceAt = async (id: number, version: number): Promise<History> =>
    (await call('GET', routes.pieceVersion(id, version), newPieceSchema)).history;
  restore = (id: number, version: number, from: number): Promise<Saved> =>
    call('POST', routes.pieceRestored(id), savedSchema, { version, from });
  removePiece = (id: number): Promise<void> => send('DELETE', routes.piece(id)).then(() => undefined);
  /** The newest deliveries, or the newest before one of them. */
  deliveries = (pieceId: number, before?: number): Promise<DeliveryList> =>
    call(
      'GET',
      before === undefined ? routes.pieceDeliveries(pieceId) : routes.deliveriesBefore(pieceId, before),
      deliveryListSchema,
    );
  deliveryPlace = (pieceId: number, target: string): Promise<DeliveryPlace> =>
    call('GET', routes.deliveryPlace(pieceId, target), deliveryPlaceSchema);
  /** The newest deliveries of a yard, or the newest before one of them. */
  deliveryBook = (yardId: number, before?: number): Promise<DeliveryBook> =>
    call(
      'GET',
      before === undefined ? routes.yardDeliveries(yardId) : routes.yardDeliveriesBefore(yardId, before),
      deliveryBookSchema,
    );
  delivery = (id: number): Promise<Delivery> => call('GET', routes.delivery(id), deliverySchema);
  deliver = (
    pieceId: number,
    wanted: { version: number; target: string; choices?: DeliveryChoices; answered?: boolean },
    signal?: AbortSignal,
  ): Promise<Delivery> => call('POST', routes.pieceDeliveries(pieceId), deliverySchema, wanted, signal);

  /** A text file of a delivery, by its place in the list of files. */
  deliveryText = async (id: number, position: number): Promise<string> =>
    (await send('GET', routes.deliveryFile(id, position))).text();

  deliverTogether = (
    yardId: number,
    wanted: {
      pieces: readonly { id: number; version: number }[];
      target: string;
      choices: DeliveryChoices & { together: string };
      answered?: boolean;
    },
  ): Promise<Delivery[]> => call('POST', routes.yardJointDeliveries(yardId), jointDeliveriesSchema, wanted);

  async setPicture(pieceId: number, blob: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    const response = await send('PUT', routes.blob(blob), bytes);
    blobSchema.parse(await response.json());
    await send('PUT', routes.piecePicture(pieceId), { blob });
  }
}

async function call<T extends z.ZodType>(
  method: string,
  path: string,
  schema: T,
  body?: unknown,
  signal?: AbortSignal,
): Promise<z.infer<T>> {
  const response = await send(method, path, body, signal);
  return schema.parse(await response.json());
}

async function send(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<Response> {
  const raw = body instanceof Uint8Array || body instanceof Blob;
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      signal,
      body: raw ? (body as BodyInit) : body === undefined ? undefined : JSON.stringify(body),
      headers: { 'content-type': raw ? 'application/octet-stream' : 'application/json' },
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new ApiError('unavailable', 'The server cannot be reached just now.');
  }
  if (response.ok) return response;
  throw await errorFrom(response);
}

async function errorFrom(response: Response): Promise<ApiError> {
  const text = await response.text();
  try {
    const json: unknown = JSON.parse(text);
    const conflict = conflictSchema.safeParse(json);
    const { code, message } = problemSchema.parse(json);
    return new ApiError(code, message, conflict.success ? conflict.data : undefined);
  } catch {
    return new ApiError('failed', 'The server gave no reason why it refused; try again in a moment.');
  }
}
