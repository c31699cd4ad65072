import type { ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import Router, { type RouterContext } from '@koa/router';
import {
  addedListSchema,
  addedSchema,
  binSchema,
  blobSchema,
  bundleName,
  deliveryBookSchema,
  deliveryListSchema,
  deliveryPlaceSchema,
  deliverySchema,
  healthSchema,
  idSchema,
  jointDeliveriesSchema,
  newDeliverySchema,
  newJointDeliverySchema,
  newSetDeliverySchema,
  newSetOutSchema,
  newYardSchema,
  openSetOutSchema,
  savedSetOutSchema,
  saveSetOutSchema,
  setOutEntrySchema,
  setOutListSchema,
  measuredSchema,
  pieceSchema,
  restoreSchema,
  routes,
  savedSchema,
  setMeasuredSchema,
  setPictureSchema,
  shelfChangesSchema,
  shelfPageSchema,
  takeApartSchema,
  rulesEffectSchema,
  saveRulesSchema,
  tryRulesSchema,
  undoRulesSchema,
  versionsSchema,
  yardListSchema,
  yardRulesStateSchema,
  yardSchema,
  yardWithPiecesSchema,
} from '@yard-brace/contract';
import { blobIdSchema, MAX_FILE_BYTES } from '@yard-brace/core';
import type { DataSource } from 'typeorm';
import * as z from 'zod';
import type { DeliveryService } from '../delivery/delivery-service.js';
import type { JobStore } from '../jobs/job-store.js';
import { type BlobStore, tooLarge } from '../store/blob-store.js';
import type { DiskSpace } from '../store/disk-space.js';
import type { PieceStore } from '../store/piece-store.js';
import type { RulesStore } from '../store/rules-store.js';
import type { SetOutStore } from '../store/set-out-store.js';
import type { YardStore } from '../store/yard-store.js';
import { answer, bodyOf, checked, json, received, receiveText, receiveWhole } from './exchange.js';
import { addArchiveRoutes } from './archives-api.js';
import { addJobRoutes } from './jobs-api.js';
import { HttpProblem } from './problems.js';

export interface ApiParts {
  source: DataSource;
  yards: YardStore;
  rules: RulesStore;
  pieces: PieceStore;
  blobs: BlobStore;
  deliveries: DeliveryService;
  setOuts: SetOutStore;
  jobs: JobStore;
  space: DiskSpace;
}

/** The pieces themselves are judged one by one, not on the server's own thread. */
const apartSchema = takeApartSchema.extend({ pieces: z.array(z.unknown()).min(1).max(1000) });

const targetIdSchema = z.string().max(60);
const afterSchema = z.object({ id: idSchema, name: z.string().max(200) });
const sinceSchema = z.object({ since: z.coerce.number().int().nonnegative() });
const beforeSchema = z.coerce.number().int().positive().optional();

const id = (ctx: RouterContext) => checked(idSchema, ctx.params['id']);

/** Fires when nobody waits for the answer any more. */
function untilClosed(response: ServerResponse): AbortSignal {
  const stop = new AbortController();
  response.once('close', () => stop.abort());
  return stop.signal;
}

/** Every address of the API; each parses what comes in and checks what goes out. */
export function apiRouter({
  source,
  yards,
  rules,
  pieces,
  blobs,
  deliveries,
  setOuts,
  jobs,
  space,
}: ApiParts): Router {
  const router = new Router();
  addJobRoutes(router, jobs);
  addArchiveRoutes(router, { source, blobs, space });

  router.get(routes.health, async (ctx) => {
    const up = await source.query('SELECT 1').then(
      () => true,
      () => false,
    );
    answer(ctx, healthSchema, { status: up ? 'ok' : 'database away' }, up ? 200 : 503);
  });

  router.get(routes.yards, async (ctx) => answer(ctx, yardListSchema, await yards.list()));
  router.post(routes.yards, json, async (ctx) =>
    answer(ctx, yardSchema, await yards.create(received(ctx, newYardSchema).name), 201),
  );
  router.get(routes.yard(':id'), async (ctx) =>
    answer(ctx, yardWithPiecesSchema, await yards.withPieces(id(ctx))),
  );
  router.delete(routes.yard(':id'), async (ctx) => {
    await yards.remove(id(ctx));
    ctx.status = 204;
  });
  router.get(routes.yardShelf(':id'), async (ctx) => {
    const after = checked(afterSchema, ctx.query);
    answer(ctx, shelfPageSchema, { pieces: await yards.piecesAfter(id(ctx), after) });
  });
  router.get(routes.yardShelfChanges(':id'), async (ctx) => {
    const { since } = checked(sinceSchema, ctx.query);
    answer(ctx, shelfChangesSchema, await yards.changesSince(id(ctx), since));
  });
  router.get(routes.bin, async (ctx) => answer(ctx, binSchema, await yards.inBin()));
  router.get(routes.yardBin(':id'), async (ctx) => answer(ctx, binSchema, await pieces.inBin(id(ctx))));
  router.post(routes.yardPutBack(':id'), async (ctx) => {
    await yards.putBack(id(ctx));
    ctx.status = 204;
  });
  router.post(routes.piecePutBack(':id'), async (ctx) => {
    await pieces.putBack(id(ctx));
    ctx.status = 204;
  });
  router.get(routes.yardRules(':id'), async (ctx) =>
    answer(ctx, yardRulesStateSchema, await rules.get(id(ctx))),
  );
  router.put(routes.yardRules(':id'), json, async (ctx) => {
    const sent = received(ctx, saveRulesSchema);
    answer(ctx, yardRulesStateSchema, await rules.save(id(ctx), sent.version, sent.rules));
  });
  router.post(routes.yardRulesTried(':id'), json, async (ctx) =>
    answer(ctx, rulesEffectSchema, await rules.tried(id(ctx), received(ctx, tryRulesSchema).rules)),
  );
  router.post(routes.yardRulesUndone(':id'), json, async (ctx) =>
    answer(ctx, yardRulesStateSchema, await rules.undo(id(ctx), received(ctx, undoRulesSchema).version)),
  );
  router.post(routes.yardPieces(':id'), async (ctx) => {
    const yard = id(ctx);
    answer(ctx, addedSchema, await pieces.addPiece(yard, await receiveText(ctx)), 201);
  });

  router.get(routes.yardSetOuts(':id'), async (ctx) =>
    answer(ctx, setOutListSchema, await setOuts.ofYard(id(ctx))),
  );
  router.post(routes.yardSetOuts(':id'), async (ctx) => {
    const yard = id(ctx);
    const { setOut } = await receiveWhole(ctx, newSetOutSchema);
    answer(ctx, setOutEntrySchema, await setOuts.add(yard, setOut), 201);
  });
  router.get(routes.setOut(':id'), async (ctx) => answer(ctx, openSetOutSchema, await setOuts.get(id(ctx))));
  router.put(routes.setOut(':id'), async (ctx) => {
    const setOut = id(ctx);
    const sent = await receiveWhole(ctx, saveSetOutSchema);
    answer(ctx, savedSetOutSchema, await setOuts.save(setOut, sent));
  });
  router.post(routes.setOutDeliveries(':id'), json, async (ctx) => {
    const wanted = received(ctx, newSetDeliverySchema);
    const signal = untilClosed(ctx.res);
    answer(ctx, jointDeliveriesSchema, await deliveries.deliverSet(id(ctx), wanted, signal), 201);
  });
  router.delete(routes.setOut(':id'), async (ctx) => {
    await setOuts.remove(id(ctx));
    ctx.status = 204;
  });

  router.get(routes.piece(':id'), async (ctx) => {
    const { head, history } = await pieces.piece(id(ctx));
    const { history: _history, ...rest } = pieceSchema.shape;
    // The history was read before; a tree of thousands is not read and written once more on its way out.
    const text = JSON.stringify(z.object(rest).parse(head));
    ctx.type = 'application/json';
    ctx.body = `${text.slice(0, -1)},"history":${history}}`;
  });
  router.put(routes.piece(':id'), async (ctx) => {
    const piece = id(ctx);
    answer(ctx, savedSchema, await pieces.savePiece(piece, await receiveText(ctx)));
  });
  router.post(routes.pieceApart(':id'), async (ctx) => {
    const piece = id(ctx);
    const { version, pieces: sent, remove } = await receiveWhole(ctx, apartSchema);
    const bodies = sent.map((each) => JSON.stringify(each));
    answer(ctx, addedListSchema, await pieces.takeApart(piece, version, bodies, remove), 201);
  });
  router.put(routes.pieceMeasured(':id'), json, async (ctx) => {
    const { measured } = received(ctx, setMeasuredSchema);
    answer(ctx, measuredSchema, { facts: await pieces.setMeasured(id(ctx), measured) });
  });
  router.get(routes.pieceVersions(':id'), async (ctx) =>
    answer(ctx, versionsSchema, await pieces.versions(id(ctx))),
  );
  router.get(routes.pieceVersion(':id', ':version'), async (ctx) => {
    ctx.type = 'application/json';
    ctx.body = `{"history":${await pieces.historyAt(id(ctx), checked(idSchema, ctx.params['version']))}}`;
  });
  router.post(routes.pieceRestored(':id'), json, async (ctx) => {
    const { version, from } = received(ctx, restoreSchema);
    answer(ctx, savedSchema, await pieces.restore(id(ctx), version, from));
  });
  router.delete(routes.piece(':id'), async (ctx) => {
    await pieces.removePiece(id(ctx));
    ctx.status = 204;
  });
  router.put(routes.piecePicture(':id'), json, async (ctx) => {
    const { blob } = received(ctx, setPictureSchema);
    await pieces.setPicture(id(ctx), blob);
    ctx.status = 204;
  });

  router.get(routes.pieceDeliveries(':id'), async (ctx) =>
    answer(
      ctx,
      deliveryListSchema,
      await deliveries.ofPiece(id(ctx), checked(beforeSchema, ctx.query['before'])),
    ),
  );
  router.get(routes.pieceDeliveryPlace(':id'), async (ctx) =>
    answer(
      ctx,
      deliveryPlaceSchema,
      await deliveries.place(id(ctx), checked(targetIdSchema, ctx.query['target'])),
    ),
  );
  router.post(routes.pieceDeliveries(':id'), json, async (ctx) => {
    const wanted = received(ctx, newDeliverySchema);
    const signal = untilClosed(ctx.res);
    answer(ctx, deliverySchema, await deliveries.deliver(id(ctx), wanted, signal), 201);
  });
  router.get(routes.yardDeliveries(':id'), async (ctx) =>
    answer(
      ctx,
      deliveryBookSchema,
      await deliveries.ofYard(id(ctx), checked(beforeSchema, ctx.query['before'])),
    ),
  );
  router.post(routes.yardJointDeliveries(':id'), json, async (ctx) => {
    const wanted = received(ctx, newJointDeliverySchema);
    const signal = untilClosed(ctx.res);
    answer(ctx, jointDeliveriesSchema, await deliveries.deliverTogether(id(ctx), wanted, signal), 201);
  });
  router.get(routes.delivery(':id'), async (ctx) =>
    answer(ctx, deliverySchema, await deliveries.get(id(ctx))),
  );
  router.get(routes.deliveryFile(':id', ':position'), async (ctx) => {
    const position = checked(z.coerce.number().int().nonnegative(), ctx.params['position']);
    const { name, type, sha256 } = await deliveries.fileOf(id(ctx), position);
    ctx.attachment(name.slice(name.lastIndexOf('/') + 1));
    ctx.type = type;
    ctx.body = Readable.from(blobs.read(sha256));
  });
  router.get(routes.deliveryBundle(':id'), async (ctx) => {
    const delivery = await deliveries.get(id(ctx));
    const names = delivery.files.map((file) => file.name);
    ctx.attachment(bundleName(names, delivery.choices));
    ctx.type = 'application/zip';
    ctx.body = Readable.from(blobs.read(await deliveries.bundleOf(delivery.id)));
  });

  router.put(routes.blob(':sha256'), async (ctx) => {
    const name = checked(blobIdSchema, ctx.params['sha256']);
    if (Number(ctx.headers['content-length'] ?? 0) > MAX_FILE_BYTES) throw tooLarge();
    answer(ctx, blobSchema, { id: name, bytes: await blobs.write(name, bodyOf(ctx.req)) });
  });
  router.get(routes.blob(':sha256'), async (ctx) => {
    const name = checked(blobIdSchema, ctx.params['sha256']);
    const size = await blobs.sizeOf(name);
    if (size === null) throw new HttpProblem('not-found', 'These bytes are not stored.');
    ctx.set('Cache-Control', 'private, max-age=31536000, immutable');
    ctx.type = 'application/octet-stream';
    ctx.length = size;
    ctx.body = Readable.from(blobs.read(name));
  });

  return router;
}
