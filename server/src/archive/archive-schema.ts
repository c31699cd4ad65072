import * as z from 'zod';

/** The version of archives that are written today. */
export const ARCHIVE_VERSION = 1;

/** The first entry of an archive. */
export const archiveHeadSchema = z.object({
  format: z.literal('yard-brace-archive'),
  version: z.number().int().positive(),
  /** name of the newest migration of the database that it was written from */
  schema: z.string(),
  /** everything that a database holds, or yards of it */
  holds: z.enum(['everything', 'yards']),
  yards: z.array(z.string()),
});
export type ArchiveHead = z.infer<typeof archiveHeadSchema>;

/** The last entry: without it the archive is not whole. */
export const archiveEndSchema = z.object({
  blobs: z.number().int().nonnegative(),
  rows: z.record(z.string(), z.number().int().nonnegative()),
  /** SHA-256 of all entries of rows, one after the other; archives of before had none */
  rowsDigest: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
});
export type ArchiveEnd = z.infer<typeof archiveEndSchema>;

/** Names of the entries. */
export const HEAD = 'archive.json';
export const END = 'end.json';
export const BLOBS = 'blobs/';
export const ROWS = 'rows/';
