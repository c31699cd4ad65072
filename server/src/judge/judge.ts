import { createHash } from 'node:crypto';
import { saveHistorySchema, saveStepsSchema } from '@yard-brace/contract';
import {
  blobsOfHistory,
  blobsOfMeshes,
  checkRulesOfYard,
  currentDocument,
  decodeMesh,
  deliveryStates,
  givenNameSchema,
  type History,
  historySchema,
  issueSentence,
  type LastFor,
  MeshCodecError,
  openable,
  type PieceDocument,
  proxyFactsSchema,
  shelfFactsOf,
  singleEdits,
  targetsOf,
  unpackMeshes,
  withSteps,
  type YardRules,
  yardRulesSchema,
} from '@yard-brace/core';
import type * as z from 'zod';

/** A text in a row of its own: known by its hash without being read. */
export interface StoredEdit {
  /** number of its row */
  id: number;
  /** SHA-1 of its text */
  hash: string;
  /** its characters */
  length: number;
}

/** JSON texts of a state. */
export interface StateTexts {
  base: string;
  edits: readonly string[];
}

/** A state as it lies in the database: a base and the edits since. */
export interface StoredState {
  base: StoredEdit;
  edits: readonly StoredEdit[];
  cursor: number;
  /** null while nobody has asked for them: a state that was read before is known by its hashes */
  texts: StateTexts | null;
}

/** A text to be stored in a row of its own. */
export interface FreshText {
  content: string;
  hash: string;
  length: number;
}

/** What is known of a piece beside its document. */
export interface JudgeSurroundings {
  /** JSON of the yard's rules */
  rules: string;
  /** the newest for each target */
  lastDeliveries: readonly LastFor[];
  /** the version that the state has, or will have */
  version: number;
  /** JSON of the last measurement, or null */
  measured: string | null;
}

/** A state that can be opened again, and all that is stored with it. */
export interface Judged {
  /** the version that the request was made from */
  version: number | null;
  name: string;
  /** JSON of the shelf's facts */
  facts: string;
  /** the base to be stored; null where it is the stored one's */
  base: FreshText | null;
  /** which of the stored edits stay, in order */
  kept: number[];
  /** the edits after those */
  fresh: FreshText[];
  cursor: number;
  /** every blob that any state of the history names */
  blobs: string[];
  /** those of them that must be meshes, or packs with these meshes in them */
  meshBlobs: [blob: string, meshes: string[]][];
}

export type Verdict = { refused: string } | Judged;
/** The texts of the stored state are needed after all. */
export type WantsTexts = { wantsTexts: true };

/** A new piece names no version that it was made from. */
const historyBody = saveHistorySchema.partial({ version: true });

/** Parsed states by their content: a save after a save does not read the piece anew. */
const MAX_KNOWN_CHARACTERS = 64 * 2 ** 20;
const known = new Map<string, { history: History; length: number }>();

const sha1 = (text: string): string => createHash('sha1').update(text).digest('hex');
const freshText = (value: unknown): FreshText => {
  const content = JSON.stringify(value);
  return { content, hash: sha1(content), length: content.length };
};

/** The same for two states exactly when their texts are the same. */
const keyOf = (base: { hash: string }, edits: readonly { hash: string }[], cursor: number): string =>
  sha1([base.hash, ...edits.map(({ hash }) => hash), cursor].join());

/** Only what was found good is remembered. */
function remember(key: string, history: History, length: number): void {
  known.delete(key);
  known.set(key, { history, length });
  let total = [...known.values()].reduce((sum, each) => sum + each.length, 0);
  for (const [old, each] of known) {
    if (total <= MAX_KNOWN_CHARACTERS || old === key) break;
    known.delete(old);
    total -= each.length;
  }
}

const lengthOf = (base: { length: number }, edits: readonly { length: number }[]): number =>
  edits.reduce((sum, { length }) => sum + length, base.length);

/** A stored state that opens. */
function read({
  base,
  edits,
  cursor,
  texts,
}: StoredState): { history: History } | WantsTexts | { refused: string } {
  const key = keyOf(base, edits, cursor);
  const found = known.get(key);
  if (found) return found;
  if (texts === null) return { wantsTexts: true };
  const parsed = historySchema.safeParse({
    base: JSON.parse(texts.base),
    edits: texts.edits.map((text) => JSON.parse(text) as unknown),
    cursor,
  });
  if (!parsed.success) return { refused: issueSentence(parsed.error.issues[0]!) };
  const verdict = openable(parsed.data, { json: '', good: parsed.data.base });
  if ('refused' in verdict) return verdict;
  remember(key, parsed.data, lengthOf(base, edits));
  return { history: parsed.data };
}

/** Read a stored state and say what its shelf shows of it; refused when it cannot be opened. */
export function judgeStored(state: StoredState, around: JudgeSurroundings): Verdict | WantsTexts {
  const found = read(state);
  if (!('history' in found)) return found;
  return judged(found.history, { around, stored: state, version: null, before: found.history });
}

/**
 * Judge what a request wants to store: a whole history, or the steps from the stored one. It is read as it
 * will be read when it is opened again, so that what cannot be opened is never stored.
 *
 * @param body JSON of the request
 */
export function judgeSent(
  body: string,
  stored: StoredState | null,
  around: JudgeSurroundings,
): Verdict | WantsTexts {
  const sent = parsedBody(body);
  if (typeof sent === 'string') return { refused: sent };
  const version = sent.version ?? null;
  if ('history' in sent) return judged(sent.history, { around, stored, version });
  if (!stored) return { refused: 'There is no stored state to add steps to; send the whole piece.' };
  const before = read(stored);
  if ('refused' in before) return { refused: `The stored piece cannot be opened: ${before.refused}` };
  if ('wantsTexts' in before) return before;
  const history = withSteps(before.history, sent.steps);
  if (!history) return { refused: 'The steps do not fit the stored piece; send the whole piece.' };
  return judged(history, { around, stored, version, before: before.history });
}

function parsedBody(body: string): z.infer<typeof saveStepsSchema> | z.infer<typeof historyBody> | string {
  let value: unknown;
  try {
    value = JSON.parse(body);
  } catch {
    return 'The request is no JSON; send it again.';
  }
  const schema =
    typeof value === 'object' && value !== null && 'steps' in value ? saveStepsSchema : historyBody;
  const parsed = schema.safeParse(value);
  return parsed.success ? parsed.data : issueSentence(parsed.error.issues[0]!);
}

interface JudgeContext {
  around: JudgeSurroundings;
  /** what it is to replace; null for a new piece */
  stored: StoredState | null;
  version: number | null;
  /** the stored state, where this grew out of it: it is known to open */
  before?: History;
}

function judged(history: History, { around, stored, version, before }: JudgeContext): Verdict {
  const base = stored && before?.base === history.base ? null : freshText(history.base);
  const { kept, fresh } = whatIsNew(history, before);
  // The base was read by its schema just now, or with the state that this grew out of.
  const good = before ? currentDocument(before) : history.base;
  const json = [base, ...fresh].map((text) => text?.content ?? '').join();
  const verdict = openable(history, { json, good });
  if ('refused' in verdict) return verdict;
  const { document } = verdict;
  const given = givenNameSchema.safeParse(document.name);
  if (!given.success && (!before || currentDocument(before).name !== document.name))
    return { refused: given.error.issues[0]!.message };
  const now = { base: base ?? stored!.base, edits: [...kept.map((at) => stored!.edits[at]!), ...fresh] };
  remember(keyOf(now.base, now.edits, history.cursor), history, lengthOf(now.base, now.edits));
  return {
    version,
    name: document.name,
    facts: JSON.stringify(factsOf(document, around)),
    base,
    kept,
    fresh,
    cursor: history.cursor,
    blobs: blobsOfHistory(history),
    meshBlobs: meshBlobsOf(history, before),
  };
}

/** Which of the stored edits stay, and what follows them: a history grows at its end and is folded at its start. */
function whatIsNew({ edits }: History, before: History | undefined): Pick<Judged, 'kept' | 'fresh'> {
  const first = before && edits[0] ? before.edits.indexOf(edits[0]) : -1;
  const kept: number[] = [];
  if (first >= 0)
    while (kept.length < edits.length && before!.edits[first + kept.length] === edits[kept.length])
      kept.push(first + kept.length);
  return { kept, fresh: edits.slice(kept.length).map(freshText) };
}

/** Rules come as the same text for piece after piece of a yard. */
let lastRules: { text: string; rules: YardRules } | undefined;

function rulesFrom(text: string): YardRules {
  if (lastRules?.text !== text) lastRules = { text, rules: yardRulesSchema.parse(JSON.parse(text)) };
  return lastRules.rules;
}

function factsOf(
  document: PieceDocument,
  { rules: text, lastDeliveries, version, measured }: JudgeSurroundings,
) {
  const rules = rulesFrom(text);
  return shelfFactsOf(document, checkRulesOfYard(document, rules), {
    targets: targetsOf(rules).map(({ name }) => name),
    deliveries: deliveryStates(document, rules, lastDeliveries, version),
    measured: measured === null ? null : proxyFactsSchema.parse(JSON.parse(measured)),
  });
}

/** What was stored before was looked at then. */
function meshBlobsOf({ base, edits }: History, before: History | undefined): Judged['meshBlobs'] {
  const wanted = new Map<string, Set<string>>();
  const fresh = edits
    .filter((edit) => !before?.edits.includes(edit))
    .flatMap(singleEdits)
    .filter((edit) => 'meshes' in edit);
  for (const { meshes } of [...(before ? [] : [base]), ...fresh] as Pick<PieceDocument, 'meshes'>[]) {
    for (const blob of blobsOfMeshes(meshes)) wanted.set(blob, wanted.get(blob) ?? new Set());
    for (const [id, { pack }] of Object.entries(meshes)) wanted.get(pack ?? id)!.add(id);
  }
  return [...wanted].map(([blob, ids]) => [blob, [...ids]]);
}

/** What is wrong with stored bytes that a document names as a mesh or as a pack of meshes; null when nothing is. */
export function meshFault(blob: string, meshes: readonly string[], bytes: Uint8Array): string | null {
  try {
    const pack = unpackMeshes(bytes);
    const missing = pack ? meshes.find((id) => !pack.has(id)) : meshes.find((id) => id !== blob);
    if (missing)
      return `The bytes ${blob.slice(0, 12)}… do not hold the mesh ${missing.slice(0, 12)}…; send them again.`;
    for (const part of pack?.values() ?? [bytes]) decodeMesh(part);
    return null;
  } catch (error) {
    if (!(error instanceof MeshCodecError)) throw error;
    return `The bytes ${blob.slice(0, 12)}… are no mesh (${error.message}); send the piece again.`;
  }
}
