import { MessageChannel } from 'node:worker_threads';
import { besideFiles, type YardRules } from '@yard-brace/core';
import { Piscina } from 'piscina';
import type { DataSource } from 'typeorm';
import { HttpProblem } from '../http/problems.js';
import type { BlobStore } from '../store/blob-store.js';
import type { Asked, FileTask, FileTaskResult, StoredFile } from './file-task.js';

export interface FileReaderParts {
  source: DataSource;
  blobs: BlobStore;
  /** files that are read at a time */
  threads: number;
}

/** Reads files of imports on threads of their own, which ask for the bytes that they want. */
export class FileReader {
  private readonly pool: Piscina<FileTask, FileTaskResult>;

  constructor(private readonly parts: FileReaderParts) {
    this.pool = new Piscina({
      filename: new URL('./file-task.js', import.meta.url).href,
      minThreads: 0,
      maxThreads: parts.threads,
      idleTimeout: 60_000,
    });
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }

  /**
   * What a file of an import is as a new piece, named as the rules say; or the sentence why it is none.
   *
   * @param place of the file in the list of the job
   * @throws HttpProblem when the files of the job are gone
   */
  async read(
    jobId: number,
    place: number,
    rules: YardRules,
    tell: (share: number) => void,
    signal: AbortSignal,
  ): Promise<FileTaskResult> {
    const files = await this.filesOf(jobId);
    const file = files[place];
    if (!file) throw new HttpProblem('not-found', 'Its bytes are not kept any more; import the file again.');
    const { port1, port2 } = new MessageChannel();
    const task: FileTask = { file, beside: besideFiles(file, files), rules, port: port2 };
    const answer = async (asked: Asked) => {
      if ('share' in asked) return tell(asked.share);
      const bytes = await this.bytesOf(asked.blob);
      port1.postMessage({ blob: asked.blob, bytes }, bytes ? [bytes.buffer as ArrayBuffer] : []);
    };
    const halt = new AbortController();
    // That bytes cannot be had just now is no fault of the file: its reading ends without a verdict.
    port1.on('message', (asked: Asked) => void answer(asked).catch((error) => halt.abort(error)));
    try {
      return await this.pool.run(task, {
        transferList: [port2],
        signal: AbortSignal.any([signal, halt.signal]),
      });
    } catch (error) {
      throw halt.signal.aborted ? halt.signal.reason : error;
    } finally {
      port1.close();
    }
  }

  /** Null where they are not stored. */
  private async bytesOf(blob: string): Promise<Uint8Array | null> {
    return this.parts.blobs.readBytes(blob).catch((error) => {
      if (error instanceof HttpProblem && error.code === 'not-found') return null;
      throw error;
    });
  }

  private filesOf(jobId: number): Promise<StoredFile[]> {
    return this.parts.source.query(
      `SELECT f.name, f.path, b.sha256 \`blob\`, b.bytes size FROM job_file f JOIN \`blob\` b ON b.id = f.blob_id
        WHERE f.job_id = ? ORDER BY f.position`,
      [jobId],
    );
  }
}
