import { Readable } from 'node:stream';
import type Router from '@koa/router';
import { idSchema, importedYardsSchema, routes } from '@yard-brace/contract';
import type { DataSource } from 'typeorm';
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

/** Yards out into one file and in again, and everything as a backup. */
export function addArchiveRoutes(router: Router, { source, blobs, space }: ArchiveParts): void {
  router.get(routes.yardArchive(':id'), async (ctx) => {
    const { id, name } = await yardRow(source.manager, checked(idSchema, ctx.params['id']));
    ctx.attachment(`${name}.yard.tar`);
    ctx.type = 'application/x-tar';
    ctx.body = Readable.from(writeArchive(source, { yards: [id] }) as AsyncIterable<Buffer>);
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
