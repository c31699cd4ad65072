import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { yardRulesSchema, setOutSchema, setOutEditSchema, issueSentence } from '@yard-brace/core';
import { extract } from 'tar-stream';
import type { DataSource, QueryRunner } from 'typeorm';
import * as z from 'zod';
import { HttpProblem } from '../http/problems.js';
import type { BlobStore } from '../store/blob-store.js';
import {
  type ArchiveEnd,
  archiveEndSchema,
  type ArchiveHead,
  archiveHeadSchema,
  ARCHIVE_VERSION,
  BLOBS,
  END,
  HEAD,
  ROWS,
} from './archive-schema.js';
import { ARCHIVE_TABLES, type ArchiveTable, MOMENTS } from './archive-tables.js';

/** Bytes of one entry that is read whole. */
const MAX_ENTRY_BYTES = 256 * 2 ** 20;

export interface ReadArchiveOptions {
  source: DataSource;
  blobs: BlobStore;
  /** rows keep their numbers, so that every address stays what it was: into a database that holds nothing */
  keepNumbers?: boolean;
}

/** What came of an archive. */
export interface ReadArchive {
  head: ArchiveHead;
  /** ids that its yards have now */
  yards: number[];
  counts: ArchiveEnd;
}

/**
 * Takes the yards of an archive into a database: all of it, or nothing. Bytes have to be what their names say, rows have to
 * name each other, and rules and set-outs have to be readable.
 *
 * @throws HttpProblem with a sentence when it is none, torn, or of a newer version
 */
export async function readArchive(stream: Readable, options: ReadArchiveOptions): Promise<ReadArchive> {
  const taking = new Taking(options);
  try {
    return await taking.read(stream);
  } finally {
    await taking.close();
  }
}

class Taking {
  private readonly runner: QueryRunner;
  private head: ArchiveHead | null = null;
  private end: ArchiveEnd | null = null;
  private readonly counts: ArchiveEnd = { blobs: 0, rows: {} };
  /** numbers now by those in the archive, by table */
  private readonly numbers = new Map<string, Map<number, number>>();
  private readonly columns = new Map<string, Set<string>>();
  private readonly digest = createHash('sha256');
  private begun = false;
  private yards: number[] = [];

  constructor(private readonly options: ReadArchiveOptions) {
    this.runner = options.source.createQueryRunner();
  }

  async read(stream: Readable): Promise<ReadArchive> {
    await this.runner.connect();
    const archive = extract();
    stream.on('error', (error) => archive.destroy(error));
    stream.pipe(archive);
    try {
      for await (const each of archive) {
        const { name, size = 0 } = each.header;
        const entry = each as AsyncIterable<Buffer>;
        if (this.head === null && name !== HEAD) throw noArchive();
        if (name.startsWith(BLOBS)) {
          await this.options.blobs.write(blobName(name), entry);
          this.counts.blobs++;
        } else {
          if (size > MAX_ENTRY_BYTES) throw damaged(name);
          await this.take(name, await textOf(entry));
        }
      }
    } catch (error) {
      if (error instanceof HttpProblem) throw error;
      if (isTorn(error)) throw this.head ? torn() : noArchive();
      throw error;
    }
    if (!this.head) throw noArchive();
    if (!this.end || !this.isWhole(this.end)) throw torn();
    const { rowsDigest } = this.end;
    if (rowsDigest !== undefined && rowsDigest !== this.digest.digest('hex')) throw damaged('its rows');
    await this.runner.query('COMMIT');
    this.begun = false;
    return { head: this.head, yards: this.yards, counts: this.counts };
  }

  private isWhole({ blobs, rows }: ArchiveEnd): boolean {
    const counted = this.counts.rows;
    return (
      blobs === this.counts.blobs &&
      ARCHIVE_TABLES.every(({ name }) => (rows[name] ?? 0) === (counted[name] ?? 0))
    );
  }

  async close(): Promise<void> {
    if (this.begun) await this.runner.query('ROLLBACK').catch(() => undefined);
    await this.runner.release();
  }

  private async take(name: string, text: string): Promise<void> {
    if (name === HEAD) this.head = await this.checkedHead(text);
    else if (name === END) this.end = parsed(archiveEndSchema, text, name);
    else if (name.startsWith(ROWS)) await this.rows(name, text);
    else throw damaged(name);
  }

  private async checkedHead(text: string): Promise<ArchiveHead> {
    const head = archiveHeadSchema.safeParse(jsonOf(text, HEAD));
    if (!head.success) throw noArchive();
    const known: { name: string }[] = await this.runner.query('SELECT name FROM migrations');
    if (head.data.version > ARCHIVE_VERSION || !known.some(({ name }) => name === head.data.schema))
      throw new HttpProblem(
        'refused',
        'The archive was written by a newer version of Yard Brace; bring this one up to date first.',
      );
    if (this.options.keepNumbers) {
      const [{ yards }] = await this.runner.query('SELECT COUNT(*) yards FROM yard');
      if (Number(yards))
        throw new HttpProblem('refused', 'There are yards here already; restore into an empty data folder.');
    }
    return head.data;
  }

  private async rows(name: string, text: string): Promise<void> {
    const table = ARCHIVE_TABLES.find((each) => name.startsWith(`${ROWS}${each.name}/`));
    if (!table) throw damaged(name);
    if (!this.begun) {
      await this.runner.query('START TRANSACTION');
      this.begun = true;
    }
    this.digest.update(text);
    for (const line of text.split('\n')) {
      if (!line) continue;
      const row = parsed(rowSchema, line, name);
      await this.insert(table, row, name);
      this.counts.rows[table.name] = (this.counts.rows[table.name] ?? 0) + 1;
    }
  }

  private async insert(table: ArchiveTable, told: Row, place: string): Promise<void> {
    const columns = await this.columnsOf(table.name);
    const row: Row = {};
    for (const [column, value] of Object.entries(told)) {
      if (!columns.has(column)) throw damaged(place);
      row[column] = await this.valueOf(table, column, value, place);
    }
    checkContent(table.name, row, place);
    const old = table.id === null ? null : told[table.id];
    if (table.id !== null && !this.options.keepNumbers) delete row[table.id];
    if (table.name === 'revision') row['edits'] = this.editsOf(String(told['edits']), place);
    if (table.name === 'set_out') row['base'] = this.placements(String(told['base']), place);
    if (table.name === 'set_out_edit') row['content'] = this.placements(String(told['content']), place);
    const names = Object.keys(row);
    const { insertId } = await this.runner
      .query(
        `INSERT INTO ${table.name} (${names.map((each) => `\`${each}\``).join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
        names.map((each) => row[each]),
      )
      .catch((error: object) => {
        // What the database itself refuses was changed by hand, or is of something else.
        throw isOfItsData(error) ? damaged(place) : error;
      });
    if (table.id !== null)
      this.numbersOf(table.name).set(Number(old), this.options.keepNumbers ? Number(old) : insertId);
    if (table.name === 'yard') this.yards.push(this.numbersOf('yard').get(Number(old))!);
  }

  private async valueOf(
    table: ArchiveTable,
    column: string,
    value: unknown,
    place: string,
  ): Promise<unknown> {
    if (value === null) return null;
    if (MOMENTS.includes(column)) return new Date(String(value));
    const named = table.names[column];
    if (named === undefined) return value;
    if (named !== 'blob') return this.numberOf(named, Number(value), place);
    if (!SHA256.test(String(value))) throw damaged(place);
    const [row] = await this.runner.query('SELECT id FROM `blob` WHERE sha256 = ?', [value]);
    if (!row) throw damaged(place);
    return row.id;
  }

  /** The edits of a revision name rows by their numbers. */
  private editsOf(text: string, place: string): string {
    const edits = parsed(revisionEditsSchema, text, place);
    return JSON.stringify(edits.map(([id, ...rest]) => [this.numberOf('history_edit', id, place), ...rest]));
  }

  /** What stands in a set-out names pieces by their numbers; one that was not taken along keeps its old one. */
  private placements(text: string, place: string): string {
    const pieces = this.numbersOf('piece');
    return JSON.stringify(jsonOf(text, place), (key, value: unknown) =>
      key === 'piece' && typeof value === 'number' ? (pieces.get(value) ?? value) : value,
    );
  }

  private numberOf(table: string, old: number, place: string): number {
    const number = this.numbersOf(table).get(old);
    if (number === undefined) throw damaged(place);
    return number;
  }

  private numbersOf(table: string): Map<number, number> {
    const known = this.numbers.get(table) ?? new Map<number, number>();
    this.numbers.set(table, known);
    return known;
  }

  private async columnsOf(table: string): Promise<Set<string>> {
    const known = this.columns.get(table);
    if (known) return known;
    const rows: { Field: string; Extra: string }[] = await this.runner.query(`SHOW COLUMNS FROM ${table}`);
    const columns = new Set(rows.filter(({ Extra }) => !/GENERATED/i.test(Extra)).map(({ Field }) => Field));
    this.columns.set(table, columns);
    return columns;
  }
}

type Row = Record<string, unknown>;
const rowSchema = z.record(z.string().max(60), z.union([z.string(), z.number(), z.boolean(), z.null()]));
const revisionEditsSchema = z.array(z.tuple([z.number().int(), z.string(), z.number().int()]));
/** Of the database's errors, those that are about what it was given: of the SQL standard's classes 22 and 23. */
const isOfItsData = ({ sqlState, code }: { sqlState?: string; code?: string }): boolean =>
  /^2[23]/.test(sqlState ?? '') || code === 'ER_NO_DEFAULT_FOR_FIELD';
const SHA256 = /^[0-9a-f]{64}$/;

/** What pages read as a whole has to be readable. */
function checkContent(table: string, row: Row, place: string): void {
  const schema = {
    yard_rules: yardRulesSchema,
    set_out: setOutSchema,
    set_out_edit: setOutEditSchema,
  }[table];
  if (!schema) return;
  const text = String(row[table === 'set_out' ? 'base' : 'content']);
  const read = schema.safeParse(jsonOf(text, place));
  if (!read.success)
    throw new HttpProblem('bad-request', `${place}: ${issueSentence(read.error.issues[0]!)}`);
}

function blobName(name: string): string {
  const sha = name.slice(BLOBS.length);
  if (!SHA256.test(sha)) throw damaged(name);
  return sha;
}

async function textOf(entry: AsyncIterable<Buffer>): Promise<string> {
  const chunks: Buffer[] = [];
  for await (const chunk of entry) chunks.push(chunk);
  return Buffer.concat(chunks).toString('utf8');
}

function jsonOf(text: string, place: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw damaged(place);
  }
}

function parsed<T extends z.ZodType>(schema: T, text: string, place: string): z.infer<T> {
  const read = schema.safeParse(jsonOf(text, place));
  if (!read.success) throw damaged(place);
  return read.data;
}

const isTorn = (error: unknown): boolean =>
  error instanceof Error &&
  /unexpected end|invalid tar header|premature|stream was destroyed/i.test(error.message);
const noArchive = () =>
  new HttpProblem('bad-request', 'The file is no archive of yards; choose one that was exported here.');
const torn = () =>
  new HttpProblem(
    'bad-request',
    'The archive ends too early; export or copy it again. Nothing was taken in.',
  );
const damaged = (place: string) =>
  new HttpProblem(
    'bad-request',
    `The archive is damaged at ${place.slice(0, 120)}; export or copy it again. Nothing was taken in.`,
  );
