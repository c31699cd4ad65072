import { createHash, type Hash } from 'node:crypto';
import type { Writable } from 'node:stream';
import { pack, type Pack } from 'tar-stream';
import type { DataSource, QueryRunner } from 'typeorm';
import {
  type ArchiveEnd,
  type ArchiveHead,
  ARCHIVE_VERSION,
  BLOBS,
  END,
  HEAD,
  ROWS,
} from './archive-schema.js';
import { ARCHIVE_TABLES, OF_WHOLE_YARDS, type ArchiveTable, OWN_COLUMNS } from './archive-tables.js';

/** Rows that are read at a time, and bytes of one entry of rows, about. */
const ROWS_AT_ONCE = 200;
const ENTRY_BYTES = 4 * 2 ** 20;
/** Archives of the same yard are the same: no entry has a moment of its own. */
const NO_MOMENT = new Date(0);

export interface WriteArchiveOptions {
  /** ids of yards. Default: everything, with what lies in the bin */
  yards?: readonly number[];
  /** ids of pieces of those yards. Default: all of them, with the set-outs that they stand in */
  pieces?: readonly number[];
}

/**
 * Yards as a tar archive: a head, the bytes by their SHA-256, then rows as JSON lines, and an end that counts both. All of
 * it is as it stood at one moment, however long that takes and whoever saves meanwhile.
 */
export function writeArchive(source: DataSource, options: WriteArchiveOptions = {}): Pack {
  const archive = pack();
  void write(source, archive, options).then(
    () => archive.finalize(),
    (error: Error) => archive.destroy(error),
  );
  return archive;
}

async function write(
  source: DataSource,
  archive: Pack,
  { yards, pieces }: WriteArchiveOptions,
): Promise<void> {
  const runner = source.createQueryRunner();
  await runner.connect();
  try {
    await runner.query('SET TRANSACTION ISOLATION LEVEL REPEATABLE READ');
    await runner.query('START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY');
    const everything = yards === undefined;
    const ids =
      yards ?? (await runner.query('SELECT id FROM yard ORDER BY id')).map(({ id }: { id: number }) => id);
    const names: { name: string }[] = ids.length
      ? await runner.query('SELECT name FROM yard WHERE id IN (?) ORDER BY id', [ids])
      : [];
    const [{ schema }] = await runner.query('SELECT name `schema` FROM migrations ORDER BY id DESC LIMIT 1');
    const head: ArchiveHead = {
      format: 'yard-brace-archive',
      version: ARCHIVE_VERSION,
      schema,
      holds: everything ? 'everything' : 'yards',
      yards: names.map(({ name }) => name),
    };
    await entry(archive, HEAD, JSON.stringify(head));
    const of = { yards: ids.length ? ids : [0], everything, pieces: pieces ?? null };
    const blobs = await writeBlobs(runner, archive, of);
    const rows: ArchiveEnd['rows'] = {};
    const digest = createHash('sha256');
    for (const table of ARCHIVE_TABLES)
      rows[table.name] = await writeRows(runner, archive, digest, table, of);
    const rowsDigest = digest.digest('hex');
    await entry(archive, END, JSON.stringify({ blobs, rows, rowsDigest } satisfies ArchiveEnd));
  } finally {
    await runner.query('ROLLBACK').catch(() => undefined);
    await runner.release();
  }
}

interface Of {
  yards: readonly number[];
  everything: boolean;
  pieces: readonly number[] | null;
}

/** The rows of a table that go, as SQL of `t` with its values. */
function rowsOf({ ofYards, piece }: ArchiveTable, { yards, everything, pieces }: Of): [string, unknown[]] {
  const some = pieces !== null && piece !== null;
  return [some ? `${ofYards} AND ${piece} IN (?)` : ofYards, [yards, everything, ...(some ? [pieces] : [])]];
}

/** The next entry is not begun before this one has gone out: whoever reads slowly is waited for. */
const entry = (archive: Pack, name: string, content: string | Buffer): Promise<void> =>
  new Promise((resolve, reject) => {
    archive.entry({ name, mtime: NO_MOMENT }, content, (error) => (error ? reject(error) : resolve()));
  });

/** Every blob that a row of those yards names, once. */
async function writeBlobs(runner: QueryRunner, archive: Pack, of: Of): Promise<number> {
  const named = ARCHIVE_TABLES.flatMap((table) => {
    const [rows, values] = rowsOf(table, of);
    return Object.entries(table.names)
      .filter(([, name]) => name === 'blob')
      .map(([column]) => ({ sql: `SELECT t.${column} id FROM ${table.name} t ${rows}`, values }));
  });
  const blobs: { id: number; sha256: string; bytes: number }[] = await runner.query(
    `SELECT DISTINCT b.id, b.sha256, b.bytes FROM \`blob\` b JOIN (${named.map(({ sql }) => sql).join(' UNION ')}) n ON n.id = b.id
      WHERE b.sha256 IS NOT NULL ORDER BY b.sha256`,
    named.flatMap(({ values }) => values),
  );
  for (const { id, sha256, bytes } of blobs) await writeBlob(runner, archive, { id, sha256, bytes });
  return blobs.length;
}

async function writeBlob(
  runner: QueryRunner,
  archive: Pack,
  { id, sha256, bytes }: { id: number; sha256: string; bytes: number },
): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    const sink = archive.entry({ name: BLOBS + sha256, size: bytes, mtime: NO_MOMENT }, (error) =>
      error ? reject(error) : resolve(),
    ) as unknown as Writable;
    const feed = async () => {
      for (let position = 0; ; position++) {
        const [chunk] = await runner.query(
          'SELECT content FROM blob_chunk WHERE blob_id = ? AND position = ?',
          [id, position],
        );
        if (!chunk) {
          sink.end();
          return;
        }
        if (!sink.write(chunk.content)) await new Promise((resolve) => sink.once('drain', resolve));
      }
    };
    feed().catch(reject);
  });
}

async function writeRows(
  runner: QueryRunner,
  archive: Pack,
  digest: Hash,
  table: ArchiveTable,
  of: Of,
): Promise<number> {
  if (of.pieces && OF_WHOLE_YARDS.has(table.name)) return 0;
  const [which, values] = rowsOf(table, of);
  let count = 0;
  let part = 0;
  let lines: string[] = [];
  let bytes = 0;
  const flush = async () => {
    if (!lines.length) return;
    const name = `${ROWS}${table.name}/${String(++part).padStart(5, '0')}.jsonl`;
    const text = `${lines.join('\n')}\n`;
    digest.update(text);
    await entry(archive, name, text);
    lines = [];
    bytes = 0;
  };
  const order = table.order.map((column) => `t.${column}`).join(', ');
  const after = `(${table.order.map((column) => `t.${column}`).join(', ')}) > (${table.order.map(() => '?').join(', ')})`;
  let last: unknown[] | null = null;
  for (;;) {
    const rows: Record<string, unknown>[] = await runner.query(
      `SELECT t.* FROM ${table.name} t ${which} ${last ? `AND ${after}` : ''} ORDER BY ${order} LIMIT ${ROWS_AT_ONCE}`,
      [...values, ...(last ?? [])],
    );
    if (!rows.length) break;
    last = table.order.map((column) => rows.at(-1)![column]);
    const shas = await blobNames(runner, table, rows);
    for (const row of rows) {
      const line = JSON.stringify(told(table, row, shas));
      lines.push(line);
      bytes += line.length;
      count++;
      if (bytes >= ENTRY_BYTES) await flush();
    }
  }
  await flush();
  return count;
}

/** Rows name blobs by their SHA-256. */
async function blobNames(
  runner: QueryRunner,
  { names }: ArchiveTable,
  rows: readonly Record<string, unknown>[],
): Promise<Map<number, string>> {
  const columns = Object.keys(names).filter((column) => names[column] === 'blob');
  const ids = rows.flatMap((row) => columns.flatMap((column) => (row[column] as number | null) ?? []));
  if (!ids.length) return new Map();
  const found: { id: number; sha256: string }[] = await runner.query(
    'SELECT id, sha256 FROM `blob` WHERE id IN (?)',
    [[...new Set(ids)]],
  );
  return new Map(found.map(({ id, sha256 }) => [id, sha256]));
}

function told(
  { name, names }: ArchiveTable,
  row: Readonly<Record<string, unknown>>,
  shas: ReadonlyMap<number, string>,
): Record<string, unknown> {
  const own = OWN_COLUMNS[name] ?? [];
  return Object.fromEntries(
    Object.entries(row)
      .filter(([column]) => !own.includes(column))
      .map(([column, value]) => [
        column,
        names[column] === 'blob' && value !== null ? shas.get(value as number) : value,
      ]),
  );
}
