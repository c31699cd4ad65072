import { once } from 'node:events';
import type { MessagePort } from 'node:worker_threads';
import {
  type FileAmongOthers,
  figuresOf,
  FormatError,
  type InputFile,
  ManifestError,
  namedByRules,
  type PieceFigures,
  PutTogetherError,
  readPiece,
  startHistory,
  type YardRules,
} from '@yard-brace/core';

/** A file whose bytes are in the store. */
export interface StoredFile extends FileAmongOthers {
  blob: string;
  /** bytes */
  size: number;
}

export interface FileTask {
  file: StoredFile;
  beside: readonly StoredFile[];
  rules: YardRules;
  /** told of the share that is done, and asked for bytes */
  port: MessagePort;
}

/** What the thread says on its port; bytes are answered as `Answered`. */
export type Asked = { share: number } | { blob: string };
/** null where they are not stored */
export type Answered = { blob: string; bytes: Uint8Array | null };

export type FileTaskResult =
  | {
      /** JSON of the request for a new piece, as a page would send it */
      body: string;
      /** what is stored before that */
      blobs: Map<string, Uint8Array>;
      figures: PieceFigures;
    }
  | { refused: string };

/** Runs on a worker thread: a stored file as a new piece. */
export default async function fileTask({ file, beside, rules, port }: FileTask): Promise<FileTaskResult> {
  const input = (stored: StoredFile) => portFile(stored, port);
  try {
    const { document, blobs } = await readPiece(input(file), beside.map(input), (share) =>
      port.postMessage({ share } satisfies Asked),
    );
    const named = namedByRules(document, rules);
    return {
      body: JSON.stringify({ history: startHistory(named) }),
      blobs: new Map(blobs),
      figures: figuresOf(named, null),
    };
  } catch (error) {
    if (error instanceof FormatError || error instanceof ManifestError || error instanceof PutTogetherError)
      return { refused: error.message };
    throw error;
  }
}

/** Bytes come over the port when they are wanted: of all that stands beside a mesh it names little. */
function portFile({ name, size, blob }: StoredFile, port: MessagePort): InputFile {
  let asked: Promise<Uint8Array> | undefined;
  const bytes = () => (asked ??= ask(name, blob, port));
  return {
    name,
    size,
    bytes,
    async *chunks() {
      yield await bytes();
    },
  };
}

async function ask(name: string, blob: string, port: MessagePort): Promise<Uint8Array> {
  port.postMessage({ blob } satisfies Asked);
  for (;;) {
    const [answer] = (await once(port, 'message')) as [Answered];
    if (answer.blob !== blob) continue;
    if (answer.bytes) return answer.bytes;
    throw new FormatError(name, 'its bytes are not stored any more', 'import it again');
  }
}
