import { BlobHasher, blobId, MAX_FILE_BYTES } from '@yard-brace/core';
import type { DataSource, EntityManager } from 'typeorm';
import { Blobs } from '../database/entities.js';
import { HttpProblem } from '../http/problems.js';
import type { DiskSpace } from './disk-space.js';

/** Well under the packet limit of a database with default settings. */
const CHUNK_BYTES = 1 << 20;
const TOUCH_AFTER_MS = 60_000;
/** What was removed can be put back for so long. */
export const BIN_DAYS = 30;

/** Bytes by their SHA-256, stored once, in chunks. */
export class BlobStore {
  constructor(
    private readonly source: DataSource,
    private readonly space: DiskSpace,
  ) {}

  /**
   * Store a stream under the name it claims. While it runs its row has no name; when it fails or does
   * not match, nothing stays. Returns the number of bytes.
   *
   * @throws HttpProblem when the bytes are too many or are not what they claim to be
   */
  async write(claimed: string, stream: AsyncIterable<Uint8Array>): Promise<number> {
    const blobs = this.source.getRepository(Blobs);
    if (await this.keep(claimed)) return checked(claimed, stream);
    await this.space.check();
    const { id } = await blobs.save({ sha256: null, bytes: 0, createdAt: new Date() });
    try {
      const hasher = new BlobHasher();
      let bytes = 0;
      let position = 0;
      let touched = Date.now();
      for await (const chunk of inChunks(counted(stream, MAX_FILE_BYTES))) {
        hasher.add(chunk);
        bytes += chunk.length;
        await this.source.query('INSERT INTO blob_chunk (blob_id, position, content) VALUES (?, ?, ?)', [
          id,
          position++,
          chunk,
        ]);
        // Others may sweep what nobody touches.
        if (Date.now() - touched > TOUCH_AFTER_MS) {
          touched = Date.now();
          await blobs.update(id, { createdAt: new Date() });
          await this.space.check();
        }
      }
      if (hasher.id() !== claimed) throw notAsNamed();
      const { affected } = await blobs.update(id, { sha256: claimed, bytes });
      if (!affected)
        throw new HttpProblem('unavailable', 'The upload took too long and was swept; send it again.');
      return bytes;
    } catch (error) {
      await blobs.delete(id).catch(() => undefined);
      if (isDuplicate(error)) return (await this.sizeOf(claimed)) ?? 0;
      throw error;
    }
  }

  async writeBytes(bytes: Uint8Array): Promise<string> {
    const id = blobId(bytes);
    await this.write(id, oneChunk(bytes));
    return id;
  }

  /** True when the bytes are stored; nothing that is named again is swept for a day. */
  private async keep(sha256: string): Promise<boolean> {
    const { affected } = await this.source.getRepository(Blobs).update({ sha256 }, { createdAt: new Date() });
    return (affected ?? 0) > 0;
  }

  async sizeOf(sha256: string): Promise<number | null> {
    const row = await this.source.getRepository(Blobs).findOneBy({ sha256 });
    return row ? row.bytes : null;
  }

  /** The bytes chunk by chunk. */
  async *read(sha256: string): AsyncGenerator<Buffer> {
    const row = await this.source.getRepository(Blobs).findOneBy({ sha256 });
    if (!row) throw new HttpProblem('not-found', 'These bytes are not stored.');
    for (let position = 0; ; position++) {
      const [chunk] = await this.source.query(
        'SELECT content FROM blob_chunk WHERE blob_id = ? AND position = ?',
        [row.id, position],
      );
      if (!chunk) return;
      yield chunk.content;
    }
  }

  async readBytes(sha256: string): Promise<Uint8Array> {
    const chunks: Buffer[] = [];
    for await (const chunk of this.read(sha256)) chunks.push(chunk);
    return new Uint8Array(Buffer.concat(chunks));
  }

  /** Row numbers for names, in their order, held against a sweep. @throws HttpProblem when one is not stored */
  async rowsOf(manager: EntityManager, names: readonly string[]): Promise<number[]> {
    if (names.length === 0) return [];
    const rows: { id: number; sha256: string }[] = await manager.query(
      'SELECT id, sha256 FROM `blob` WHERE sha256 IN (?) ORDER BY id LOCK IN SHARE MODE',
      [names],
    );
    const byName = new Map(rows.map((row) => [row.sha256, row.id]));
    return names.map((name) => {
      const id = byName.get(name);
      if (id === undefined)
        throw new HttpProblem(
          'bad-request',
          `The bytes ${name.slice(0, 12)}… are not stored yet; send them first.`,
        );
      return id;
    });
  }

  /**
   * Uploads that nobody has touched for an hour, which a stopped server left half done, and bytes that nothing has
   * named for a day; before that what has lain in the bin for thirty days, and the files of imports that ended as long
   * ago. One process at a time: the others pass over it.
   */
  async sweep(now = new Date()): Promise<void> {
    const runner = this.source.createQueryRunner();
    try {
      const [{ got }] = await runner.query("SELECT GET_LOCK('yard-brace-sweep', 0) got");
      if (Number(got) !== 1) return;
      const before = (hours: number) => new Date(now.getTime() - hours * 3600 * 1000);
      await runner.query('DELETE FROM `blob` WHERE sha256 IS NULL AND created_at < ?', [before(1)]);
      for (const table of ['piece', 'yard'])
        await runner.query(`DELETE FROM ${table} WHERE removed_at < ?`, [before(24 * BIN_DAYS)]);
      await runner.query('DELETE f FROM job_file f JOIN job j ON j.id = f.job_id WHERE j.ended_at < ?', [
        before(24 * BIN_DAYS),
      ]);
      await runner.query(UNNAMED, [before(24)]);
      await runner.query("DO RELEASE_LOCK('yard-brace-sweep')");
    } finally {
      await runner.release();
    }
  }
}

/** Bytes that no revision, picture, delivery or import names. */
const UNNAMED = `DELETE FROM \`blob\` WHERE created_at < ?
        AND NOT EXISTS (SELECT 1 FROM revision_blob r WHERE r.blob_id = \`blob\`.id)
        AND NOT EXISTS (SELECT 1 FROM piece p WHERE p.picture_id = \`blob\`.id)
        AND NOT EXISTS (SELECT 1 FROM delivery d WHERE d.bundle_id = \`blob\`.id)
        AND NOT EXISTS (SELECT 1 FROM delivery_file f WHERE f.blob_id = \`blob\`.id)
        AND NOT EXISTS (SELECT 1 FROM job_file i WHERE i.blob_id = \`blob\`.id)`;

const isDuplicate = (error: unknown) => (error as { code?: string }).code === 'ER_DUP_ENTRY';

async function* oneChunk(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** Bytes that are stored already come again: they are not stored, and have to be the same. */
async function checked(claimed: string, stream: AsyncIterable<Uint8Array>): Promise<number> {
  const hasher = new BlobHasher();
  let bytes = 0;
  for await (const chunk of counted(stream, MAX_FILE_BYTES)) {
    hasher.add(chunk);
    bytes += chunk.length;
  }
  if (hasher.id() !== claimed) throw notAsNamed();
  return bytes;
}

const notAsNamed = () =>
  new HttpProblem('bad-request', 'The bytes are not what their name says; send them again.');

async function* counted(stream: AsyncIterable<Uint8Array>, limit: number): AsyncGenerator<Uint8Array> {
  let bytes = 0;
  for await (const chunk of stream) {
    bytes += chunk.length;
    if (bytes > limit) throw tooLarge();
    yield chunk;
  }
}

export const tooLarge = () =>
  new HttpProblem(
    'too-large',
    `The file is larger than the limit of ${MAX_FILE_BYTES / 2 ** 20} MB; reduce or split it before importing it.`,
  );

/** The stream cut anew into chunks of the stored size. */
async function* inChunks(stream: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
  let waiting: Buffer[] = [];
  let length = 0;
  for await (const piece of stream) {
    for (let at = 0; at < piece.length;) {
      const part = Buffer.from(piece.subarray(at, at + CHUNK_BYTES - length));
      waiting.push(part);
      length += part.length;
      at += part.length;
      if (length < CHUNK_BYTES) continue;
      yield Buffer.concat(waiting);
      waiting = [];
      length = 0;
    }
  }
  if (length) yield Buffer.concat(waiting);
}
