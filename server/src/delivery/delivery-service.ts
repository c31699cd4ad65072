import type {
  Delivery,
  DeliveryBook,
  DeliveryEntry,
  DeliveryList,
  DeliveryPlace,
  newDeliverySchema,
  newJointDeliverySchema,
  newSetDeliverySchema,
} from '@yard-brace/contract';
import {
  blobsOfMeshes,
  changesBetween,
  comparisonSchema,
  currentDocument,
  type DeliveryChoices,
  deliveryChoicesSchema,
  historySchema,
  type Inventory,
  inventorySchema,
  PatternError,
  type PieceDocument,
  pieceFolder,
  proxyFactsSchema,
  readBackSchema,
  replaces,
  sourceKey,
  substitutionsIn,
  targetProfileSchema,
  targetsOf,
  triedLines,
  choicesByRules,
  type YardRules,
} from '@yard-brace/core';
import type * as z from 'zod';
import { Piscina } from 'piscina';
import { type DataSource, type EntityManager, IsNull, LessThan } from 'typeorm';
import { Deliveries, DeliveryFiles, type DeliveryRow, Pieces } from '../database/entities.js';
import { transact } from '../database/transact.js';
import { personNow } from '../http/person.js';
import { HttpProblem } from '../http/problems.js';
import type { BlobStore } from '../store/blob-store.js';
import type { PieceStore } from '../store/piece-store.js';
import type { SetOutStore } from '../store/set-out-store.js';
import { pieceRow, yardRow } from '../store/rows.js';
import { rulesOf } from '../store/rules-store.js';
import type { DeliveriesFolder } from './deliveries-folder.js';
import type { DeliverResult, DeliverTask, LeavingSet } from './deliver-task.js';

/** Deliveries that one answer lists, at most. */
export const DELIVERIES_AT_ONCE = 50;

const inventoryFrom = ({ inventory }: DeliveryRow): Inventory | null =>
  inventory === null ? null : inventorySchema.parse(JSON.parse(inventory));

const choicesFrom = ({ choices }: DeliveryRow): DeliveryChoices =>
  deliveryChoicesSchema.parse(JSON.parse(choices));

/** What is drawn of shapes is asked for one delivery at a time: a list of fifty would be heavy with it. */
const withoutTriangles = (delivery: Delivery): Delivery => ({
  ...delivery,
  readBack: {
    ...delivery.readBack,
    shapes: delivery.readBack.shapes.map(({ triangles: _triangles, ...shape }) => shape),
  },
});

/** Below the folder for deliveries: the target, then the piece's own folder by the yard's pattern. */
function placeOf(rules: YardRules, document: { name: string }, target: string): string {
  try {
    return [target, pieceFolder(rules, document)].filter(Boolean).join('/');
  } catch (error) {
    if (error instanceof PatternError)
      throw new HttpProblem(
        'refused',
        `The folder pattern of the yard: ${error.message} Change it in Rules, Names.`,
      );
    throw error;
  }
}

/** A piece that leaves: as it is now, which has to be that version, or as a kept version. */
interface LeavingPiece {
  id: number;
  version: number;
  kept?: boolean;
}

/** Done in the transaction that keeps deliveries. */
type AlsoKept = (manager: EntityManager, rows: readonly DeliveryRow[]) => Promise<void>;

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
    private readonly setOuts: SetOutStore,
    /** where deliveries are put beside being kept; null where that is not wanted */
    private readonly folder: DeliveriesFolder | null = null,
  ) {}

  /** @throws HttpProblem when the piece has moved on or cannot leave as it is; AbortError when the signal fires */
  async deliver(
    id: number,
    { version, ...wanted }: z.infer<typeof newDeliverySchema>,
    signal: AbortSignal,
    also?: AlsoKept,
  ): Promise<Delivery> {
    const [delivery] = await this.leave([{ id, version }], wanted, signal, { also });
    return delivery!;
  }

  /** Several pieces in one file: a delivery of each, all with the same files. @throws as `deliver` */
  async deliverTogether(
    yardId: number,
    { pieces, ...wanted }: z.infer<typeof newJointDeliverySchema>,
    signal: AbortSignal,
  ): Promise<Delivery[]> {
    for (const { id } of pieces)
      if ((await pieceRow(this.source.manager, id)).yardId !== yardId)
        throw new HttpProblem('refused', `The piece ${id} is not of this yard; choose it there.`);
    const deliveries = await this.leave(pieces, wanted, signal);
    return deliveries.map(withoutTriangles);
  }

  /**
   * A set-out as it stands: a delivery of each piece in it, all with the same files. What stands there as a kept version
   * leaves as that. @throws as `deliver`
   */
  async deliverSet(
    setOutId: number,
    { version, form, name, ...wanted }: z.infer<typeof newSetDeliverySchema>,
    signal: AbortSignal,
  ): Promise<Delivery[]> {
    const { setOut } = await this.setOuts.setOutAt(setOutId, version);
    const leaving = new Map<string, LeavingPiece>();
    for (const placement of setOut.placements) {
      const key = sourceKey(placement);
      if (leaving.has(key)) continue;
      const row = await this.source
        .getRepository(Pieces)
        .findOneBy({ id: placement.piece, removedAt: IsNull() });
      if (!row) continue;
      leaving.set(key, {
        id: row.id,
        version: placement.version ?? row.version,
        kept: placement.version !== null,
      });
    }
    if (!leaving.size)
      throw new HttpProblem('refused', 'Nothing of the set-out is in the yard any more; place pieces first.');
    const set = { setOut, sources: [...leaving.keys()], form, name };
    const choices = form === 'file-a-piece' ? wanted.choices : { ...wanted.choices, together: name };
    const deliveries = await this.leave([...leaving.values()], { ...wanted, choices }, signal, { set });
    return deliveries.map(withoutTriangles);
  }

  private async leave(
    pieces: readonly LeavingPiece[],
    { target, choices, answered }: Omit<z.infer<typeof newDeliverySchema>, 'version'>,
    signal: AbortSignal,
    { set, also }: { set?: LeavingSet; also?: AlsoKept | undefined } = {},
  ): Promise<Delivery[]> {
    const documents: PieceDocument[] = [];
    const measured: DeliverTask['measured'] = [];
    for (const { id, version, kept } of pieces) {
      documents.push(
        kept
          ? currentDocument(historySchema.parse(JSON.parse(await this.pieces.historyAt(id, version))))
          : await this.pieces.documentAt(id, version),
      );
      const { measured: text } = await pieceRow(this.source.manager, id);
      measured.push(text === null ? null : proxyFactsSchema.parse(JSON.parse(text)));
    }
    const rules = await this.rulesFor(pieces[0]!.id);
    const profile = targetsOf(rules).find(({ id }) => id === target);
    if (!profile)
      throw new HttpProblem('refused', `The yard has no target “${target}”; choose one of its own.`);
    const blobs = await this.bytesOf(documents);
    const result = await this.pool.run(
      {
        documents,
        measured,
        tried: documents.map((document, i) => triedLines(document, rules, profile, measured[i]!)),
        profile,
        choices: choicesByRules(
          choices,
          rules,
          set ? { ...documents[0]!, name: set.name } : documents[0]!,
          target,
        ),
        surfaces: rules.surfaces,
        folders: rules.folders,
        blobs,
        ...(set ? { set } : {}),
      },
      { signal },
    );
    if ('refused' in result) throw new HttpProblem('refused', result.refused);
    if (!answered)
      for (const [i, inventory] of result.inventories.entries())
        await this.checkPlacedCopies(pieces[i]!.id, target, choices, inventory);
    const stored = new Map<string, string>();
    for (const file of result.files) stored.set(file.name, await this.blobs.writeBytes(file.bytes));
    const bundle = await this.blobs.writeBytes(result.bundle);
    signal.throwIfAborted();
    const named = set
      ? { name: set.name }
      : choices.together === undefined
        ? documents[0]!
        : { name: choices.together };
    const place = this.folder ? placeOf(rules, named, target) : null;
    const ids = await transact(this.source, async (manager) => {
      const [bundleId] = await this.blobs.rowsOf(manager, [bundle]);
      const fileIds = await this.blobs.rowsOf(
        manager,
        result.files.map((file) => stored.get(file.name)!),
      );
      const rows = await manager.getRepository(Deliveries).save(
        pieces.map(
          ({ id, version }, i) =>
            ({
              pieceId: id,
              version,
              target,
              deliveredAt: new Date(),
              agreed: result.agreed,
              readBack: JSON.stringify(result.readBack),
              comparison: JSON.stringify(result.comparison),
              bundleId,
              choices: JSON.stringify(choices),
              profile: JSON.stringify(profile),
              place,
              inventory: JSON.stringify(result.inventories[i]),
              person: personNow(),
            }) as DeliveryRow,
        ),
      );
      for (const row of rows)
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
      await also?.(manager, rows);
      // Last: what cannot be put there is not kept as delivered either.
      if (place !== null) await this.folder!.put(place, result.files);
      return rows.map(({ id }) => id);
    });
    for (const { id } of pieces) await this.pieces.refreshFacts(id);
    return Promise.all(ids.map((id) => this.get(id)));
  }

  /** Bytes of every mesh and picture that documents name. */
  private async bytesOf(documents: readonly PieceDocument[]): Promise<Map<string, Uint8Array>> {
    const blobs = new Map<string, Uint8Array>();
    for (const { meshes, pictures } of documents)
      for (const id of [...blobsOfMeshes(meshes), ...pictures.map(({ blob }) => blob)])
        if (!blobs.has(id)) blobs.set(id, await this.blobs.readBytes(id));
    return blobs;
  }

  /** @throws HttpProblem when placed copies would break by what changed since the last delivery for the target */
  private async checkPlacedCopies(
    pieceId: number,
    target: string,
    choices: DeliveryChoices,
    inventory: Inventory,
  ): Promise<void> {
    const rows = await this.source
      .getRepository(Deliveries)
      .find({ where: { pieceId, target }, order: { id: 'DESC' }, take: DELIVERIES_AT_ONCE });
    const last = rows.find((row) => replaces(choices, choicesFrom(row)));
    const before = last && inventoryFrom(last);
    const [breaks] = before ? changesBetween(before, inventory).filter((change) => change.breaks) : [];
    if (breaks)
      throw new HttpProblem(
        'refused',
        choices.together === undefined
          ? `${breaks.says} Copies that are placed would break by it; open the piece and answer that in step 8, Delivery.`
          : `${breaks.says} Copies that are placed would break by it; see to them, say so beside the file’s name, and deliver again.`,
      );
  }

  /** Where a delivery would be put, and what stands there. @throws HttpProblem when the folder pattern cannot be filled */
  async place(pieceId: number, target: string): Promise<DeliveryPlace> {
    if (!this.folder) return { place: null, standing: [] };
    const row = await pieceRow(this.source.manager, pieceId);
    const place = placeOf(await this.rulesFor(pieceId), { name: row.name }, target);
    return { place, standing: await this.folder.standing(place) };
  }

  private async rulesFor(pieceId: number): Promise<YardRules> {
    const { manager } = this.source;
    const piece = await pieceRow(manager, pieceId);
    return rulesOf(manager, await yardRow(manager, piece.yardId));
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
      choices: choicesFrom(row),
      profile: row.profile === null ? null : targetProfileSchema.parse(JSON.parse(row.profile)),
      at: row.deliveredAt.toISOString(),
      person: row.person,
      place: row.place,
      inventory: inventoryFrom(row),
      files: files.map(({ name, type, bytes }) => ({ name, type, bytes })),
      readBack: readBackSchema.parse(JSON.parse(row.readBack)),
      comparison: comparisonSchema.parse(JSON.parse(row.comparison)),
      agreed: Boolean(row.agreed),
    };
  }

  /** The newest deliveries of a yard, or the newest before one of them, a line each. */
  async ofYard(yardId: number, before?: number): Promise<DeliveryBook> {
    await yardRow(this.source.manager, yardId);
    const asked = this.source
      .getRepository(Deliveries)
      .createQueryBuilder('d')
      .innerJoin(Pieces.options.name, 'p', 'p.id = d.pieceId')
      .where('p.yardId = :yardId', { yardId });
    if (before !== undefined) asked.andWhere('d.id < :before', { before });
    const count = await asked.getCount();
    const rows = await asked.orderBy('d.id', 'DESC').take(DELIVERIES_AT_ONCE).getMany();
    return { entries: await Promise.all(rows.map((row) => this.entryOf(row))), more: count - rows.length };
  }

  private async entryOf(row: DeliveryRow): Promise<DeliveryEntry> {
    const piece = await this.source.getRepository(Pieces).findOneByOrFail({ id: row.pieceId });
    const files = await this.source.getRepository(DeliveryFiles).findBy({ deliveryId: row.id });
    const comparison = comparisonSchema.parse(JSON.parse(row.comparison));
    const inventory = inventoryFrom(row);
    const profile = row.profile === null ? null : targetProfileSchema.parse(JSON.parse(row.profile));
    return {
      id: row.id,
      piece: { id: piece.id, name: piece.name },
      version: row.version,
      target: row.target,
      targetName: profile?.name ?? row.target.replaceAll('-', ' '),
      at: row.deliveredAt.toISOString(),
      person: row.person,
      place: row.place,
      inventory,
      agreed: Boolean(row.agreed),
      shapes: inventory?.shapes.length ?? readBackSchema.parse(JSON.parse(row.readBack)).shapes.length,
      bytes: files.reduce((sum, { bytes }) => sum + bytes, 0),
      points: comparison.length,
      differ: comparison.filter(({ agrees }) => !agrees).length,
      substituted: substitutionsIn(comparison).length,
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
    const deliveries = await Promise.all(rows.map(async (row) => withoutTriangles(await this.get(row.id))));
    return { deliveries, more: count - rows.length };
  }

  /** One of the files, and the name under which its bytes are stored. */
  async fileOf(id: number, position: number): Promise<{ name: string; type: string; sha256: string }> {
    const [row] = await this.source.query(
      'SELECT f.name, f.type, b.sha256 FROM delivery_file f JOIN `blob` b ON b.id = f.blob_id WHERE f.delivery_id = ? AND f.position = ?',
      [id, position],
    );
    if (!row) throw new HttpProblem('not-found', `The delivery ${id} has no file ${position}.`);
    return row;
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
