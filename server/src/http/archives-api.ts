import { Readable } from 'node:stream';
import type Router from '@koa/router';
import { idSchema, importedYardsSchema, MAX_JOB_PIECES, numbersIn, routes } from '@yard-brace/contract';
import type { DataSource } from 'typeorm';
import * as z from 'zod';
import { readArchive } from '../archive/read-archive.js';
import { writeArchive } from '../archive/write-archive.js';
import type { BlobStore } from '../store/blob-store.js';
import type { DiskSpace } from '../store/disk-space.js';
import { yardRow } from '../store/rows.js';
import { answer, bodyOf, checked } from './exchange.js';

export interface ArchiveParts {
  source: DataSource;
  blobs: BlobStore;
  space: DiskSpace;
}

/** Ids of the pieces that go; without it all of a yard does. */
const piecesSchema = z
  .string()
  .transform((text, context) => {
    const pieces = numbersIn(text, MAX_JOB_PIECES);
    if (pieces) return pieces;
    context.addIssue({ code: 'custom', message: 'Pieces are given by their numbers, such as 3-9,14.' });
    return z.NEVER;
  })
  .optional();

/** Yards out into one file and in again, and everything as a backup. */
export function addArchiveRoutes(router: Router, { source, blobs, space }: ArchiveParts): void {
  router.get(routes.yardArchive(':id'), async (ctx) => {
    const { id, name } = await yardRow(source.manager, checked(idSchema, ctx.params['id']));
    const pieces = checked(piecesSchema, ctx.query['pieces']);
    ctx.attachment(pieces ? `${name}, ${pieces.length} chosen.yard.tar` : `${name}.yard.tar`);
    ctx.type = 'application/x-tar';
    ctx.body = Readable.from(
      writeArchive(source, { yards: [id], ...(pieces ? { pieces } : {}) }) as AsyncIterable<Buffer>,
    );
  });
  router.get(routes.backup, (ctx) => {
    ctx.attachment('yard-brace.backup.tar');
    ctx.type = 'application/x-tar';
    ctx.body = Readable.from(writeArchive(source) as AsyncIterable<Buffer>);
  });
  router.post(routes.archives, async (ctx) => {
    await space.check();
    const { yards } = await readArchive(Readable.from(bodyOf(ctx.req)), { source, blobs });
    answer(ctx, importedYardsSchema, { yards }, 201);
  });
}
