import { createHash } from 'node:crypto';
import { saveHistorySchema, saveStepsSchema } from '@yard-brace/contract';
import {
  agentSchema,
  blobsOfHistory,
  blobsOfMeshes,
  checkRulesOf,
  currentDocument,
  decodeMesh,
  givenNameSchema,
  type History,
  historySchema,
  issueSentence,
  MeshCodecError,
  openable,
  type PieceDocument,
  PREFIX_TAGS,
  profileById,
  proxyFactsSchema,
  shelfFactsOf,
  unpackMeshes,
  usualAgent,
  withSteps,
} from '@yard-brace/core';
import type * as z from 'zod';

/** A state as it lies in the database: JSON texts, the base apart. */
export interface StoredState {
  /** number of the base's row; null for a revision of the first form, whose base is in its own text */
  baseId: number | null;
  /** null while nobody has asked for it: states that were read before are known by the number of their base */
  base: string | null;
  /** characters of the base */
  baseLength: number;
  edits: string;
  cursor: number;
}

/** What is known of a piece beside its document. */
export interface JudgeSurroundings {
  /** JSON of the yard's agents */
  agents: string;
  lastDelivery: { version: number; agreed: boolean } | null;
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
  /** of the state itself; its base is null where that is the stored one's */
  base: string | null;
  edits: string;
  cursor: number;
  /** every blob that any state of the history names */
  blobs: string[];
  /** those of them that must be meshes, or packs with these meshes in them */
  meshBlobs: [blob: string, meshes: string[]][];
}

export type Verdict = { refused: string } | Judged;
/** The text of the base is needed after all. */
export type WantsBase = { wantsBase: true };

/** A new piece names no version that it was made from. */
const historyBody = saveHistorySchema.partial({ version: true });

/** Parsed states by their content: a save after a save does not read the piece anew. */
const MOST_KNOWN_LENGTH = 64 * 2 ** 20;
const known = new Map<string, { history: History; length: number }>();

function keyOf({ baseId, edits, cursor }: StoredState): string | null {
  return baseId === null ? null : `${baseId}:${cursor}:${createHash('sha1').update(edits).digest('hex')}`;
}

/** Only what was found good is remembered. */
function remember(state: StoredState, history: History): void {
  const key = keyOf(state);
  if (key === null) return;
  known.delete(key);
  known.set(key, { history, length: state.baseLength + state.edits.length });
  let total = [...known.values()].reduce((sum, { length }) => sum + length, 0);
  for (const [old, { length }] of known) {
    if (total <= MOST_KNOWN_LENGTH || old === key) break;
    known.delete(old);
    total -= length;
  }
}

/** A stored state that opens. */
function read(state: StoredState): { history: History } | WantsBase | { refused: string } {
  const key = keyOf(state);
  const found = key === null ? undefined : known.get(key);
  if (found) return found;
  if (state.base === null) return { wantsBase: true };
  const parsed = historySchema.safeParse({
    base: JSON.parse(state.base),
    edits: JSON.parse(state.edits),
    cursor: state.cursor,
  });
  if (!parsed.success) return { refused: issueSentence(parsed.error.issues[0]!) };
  const verdict = openable(parsed.data, { json: '', good: parsed.data.base });
  if ('refused' in verdict) return verdict;
  remember(state, parsed.data);
  return { history: parsed.data };
}

/** Read a stored state and say what its shelf shows of it; refused when it cannot be opened. */
export function judgeStored(state: StoredState, around: JudgeSurroundings): Verdict | WantsBase {
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
): Verdict | WantsBase {
  const sent = parsedBody(body);
  if (typeof sent === 'string') return { refused: sent };
  const version = sent.version ?? null;
  if ('history' in sent) return judged(sent.history, { around, stored, version });
  if (!stored) return { refused: 'There is no stored state to add steps to; send the whole piece.' };
  const before = read(stored);
  if ('refused' in before) return { refused: `The stored piece cannot be opened: ${before.refused}` };
  if ('wantsBase' in before) return before;
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
  const sameBase = stored !== null && stored.baseId !== null && before?.base === history.base;
  const edits = JSON.stringify(history.edits);
  const base = sameBase ? null : JSON.stringify(history.base);
  // The base was read by its schema just now, or with the state that this grew out of.
  const good = before ? currentDocument(before) : history.base;
  const verdict = openable(history, { json: (base ?? '') + edits, good });
  if ('refused' in verdict) return verdict;
  const { document } = verdict;
  const given = givenNameSchema.safeParse(document.name);
  if (!given.success && (!before || currentDocument(before).name !== document.name))
    return { refused: given.error.issues[0]!.message };
  if (stored && base === null) remember({ ...stored, edits, cursor: history.cursor }, history);
  return {
    version,
    name: document.name,
    facts: JSON.stringify(factsOf(document, around)),
    base,
    edits,
    cursor: history.cursor,
    blobs: blobsOfHistory(history),
    meshBlobs: meshBlobsOf(history, before),
  };
}

function factsOf(document: PieceDocument, { agents, lastDelivery, version, measured }: JudgeSurroundings) {
  const profile = profileById(document.target) ?? PREFIX_TAGS;
  const agent = usualAgent(agentSchema.array().parse(JSON.parse(agents)));
  return shelfFactsOf(
    document,
    { ...checkRulesOf(profile), ...(agent ? { agent } : {}) },
    {
      lastDelivery,
      version,
      measured: measured === null ? null : proxyFactsSchema.parse(JSON.parse(measured)),
    },
  );
}

/** What was stored before was looked at then. */
function meshBlobsOf({ base, edits }: History, before: History | undefined): Judged['meshBlobs'] {
  const wanted = new Map<string, Set<string>>();
  const fresh = edits.filter((edit) => 'meshes' in edit && !before?.edits.includes(edit));
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
