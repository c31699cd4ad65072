import type { Delivery, DeliveryList, newDeliverySchema } from '@yard-brace/contract';
import { blobsOfMeshes, comparisonSchema, type PieceDocument, readBackSchema } from '@yard-brace/core';
import type * as z from 'zod';
import { Piscina } from 'piscina';
import { type DataSource, LessThan } from 'typeorm';
import { Deliveries, DeliveryFiles, type DeliveryRow, Pieces } from '../database/entities.js';
import { transact } from '../database/transact.js';
import { HttpProblem } from '../http/problems.js';
import type { BlobStore } from '../store/blob-store.js';
import type { PieceStore } from '../store/piece-store.js';
import type { DeliverResult, DeliverTask } from './deliver-task.js';

/** Deliveries that one answer lists, at most. */
export const DELIVERIES_AT_ONCE = 50;

/** The document with a kept set in use. @throws HttpProblem when it has none of that name */
function withSet(document: PieceDocument, name: string | undefined): PieceDocument {
  if (name === undefined) return document;
  const set = document.sets.find((each) => each.name === name);
  if (!set) throw new HttpProblem('refused', `There is no set “${name}” any more; choose another one.`);
  return { ...document, proxies: set.proxies };
}

/** Assembles deliveries on worker threads and keeps what left. */
export class DeliveryService {
  private readonly pool = new Piscina<DeliverTask, DeliverResult>({
    filename: new URL('./deliver-task.js', import.meta.url).href,
    maxThreads: 2,
    minThreads: 0,
    idleTimeout: 30_000,
  });

  constructor(
    private readonly source: DataSource,
    private readonly pieces: PieceStore,
    private readonly blobs: BlobStore,
  ) {}

  /** @throws HttpProblem when the piece has moved on or cannot leave as it is; AbortError when the signal fires */
  async deliver(
    pieceId: number,
    { version, target, set }: z.infer<typeof newDeliverySchema>,
    signal: AbortSignal,
  ): Promise<Delivery> {
    const document = withSet(await this.pieces.documentAt(pieceId, version), set);
    const blobs = new Map<string, Uint8Array>();
    for (const id of [
      ...blobsOfMeshes(document.meshes),
      ...document.pictures.map((picture) => picture.blob),
    ]) {
      if (!blobs.has(id)) blobs.set(id, await this.blobs.readBytes(id));
    }
    const result = await this.pool.run({ document, target, blobs }, { signal });
    if ('refused' in result) throw new HttpProblem('refused', result.refused);
    const stored = new Map<string, string>();
    for (const file of result.files) stored.set(file.name, await this.blobs.writeBytes(file.bytes));
    const bundle = await this.blobs.writeBytes(result.bundle);
    signal.throwIfAborted();
    const id = await transact(this.source, async (manager) => {
      const [bundleId] = await this.blobs.rowsOf(manager, [bundle]);
      const row = await manager.getRepository(Deliveries).save({
        pieceId,
        version,
        target,
        deliveredAt: new Date(),
        agreed: result.agreed,
        readBack: JSON.stringify(result.readBack),
        comparison: JSON.stringify(result.comparison),
        bundleId,
        setName: set ?? null,
      } as DeliveryRow);
      const fileIds = await this.blobs.rowsOf(
        manager,
        result.files.map((file) => stored.get(file.name)!),
      );
      await manager.getRepository(DeliveryFiles).insert(
        result.files.map(({ name, type, bytes }, position) => ({
          deliveryId: row.id,
          position,
          name,
          type,
          bytes: bytes.length,
          blobId: fileIds[position]!,
        })),
      );
      return row.id;
    });
    await this.pieces.refreshFacts(pieceId);
    return this.get(id);
  }

  async get(id: number): Promise<Delivery> {
    const row = await this.source.getRepository(Deliveries).findOneBy({ id });
    if (!row) throw new HttpProblem('not-found', `There is no delivery ${id}.`);
    const piece = await this.source.getRepository(Pieces).findOneByOrFail({ id: row.pieceId });
    const files = await this.source
      .getRepository(DeliveryFiles)
      .find({ where: { deliveryId: id }, order: { position: 'ASC' } });
    return {
      id,
      piece: { id: piece.id, name: piece.name },
      version: row.version,
      target: row.target,
      set: row.setName,
      at: row.deliveredAt.toISOString(),
      files: files.map(({ name, type, bytes }) => ({ name, type, bytes })),
      readBack: readBackSchema.parse(JSON.parse(row.readBack)),
      comparison: comparisonSchema.parse(JSON.parse(row.comparison)),
      agreed: Boolean(row.agreed),
    };
  }

  /** The newest deliveries of a piece, or the newest before one of them, and how many are older still. */
  async ofPiece(pieceId: number, before?: number): Promise<DeliveryList> {
    const [rows, count] = await this.source.getRepository(Deliveries).findAndCount({
      where: { pieceId, ...(before === undefined ? {} : { id: LessThan(before) }) },
      order: { id: 'DESC' },
      take: DELIVERIES_AT_ONCE,
      select: { id: true },
    });
    const deliveries = await Promise.all(rows.map((row) => this.get(row.id)));
    return { deliveries, more: count - rows.length };
  }

  /** Name under which the bundle's bytes are stored. */
  async bundleOf(id: number): Promise<string> {
    const [row] = await this.source.query(
      'SELECT b.sha256 FROM delivery d JOIN `blob` b ON b.id = d.bundle_id WHERE d.id = ?',
      [id],
    );
    if (!row) throw new HttpProblem('not-found', `There is no delivery ${id}.`);
    return row.sha256;
  }

  async close(): Promise<void> {
    await this.pool.destroy();
  }
}
