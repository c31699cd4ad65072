import type {
  LastDelivery,
  Piece,
  PieceSummary,
  Saved,
  Yard,
  YardRules,
  YardWithPieces,
} from '@yard-brace/contract';
import {
  agentSchema,
  artBounds,
  blobsOf,
  blobsOfHistory,
  checkRulesOf,
  currentDocument,
  familyReach,
  findingsOf,
  FIRST_AGENTS,
  type History,
  historySchema,
  pieceDocumentSchema,
  type PieceDocument,
  type PieceSurroundings,
  PREFIX_TAGS,
  profileById,
  sizeOf,
  stampsOf,
} from '@yard-brace/core';
import type { DataSource, EntityManager } from 'typeorm';
import { Deliveries, type PieceRow, Pieces, Revisions, Yards, type YardRow } from '../database/entities.js';
import { HttpProblem } from '../http/problems.js';
import type { BlobStore } from './blob-store.js';

/** How many saved states of a piece are kept, besides those that were delivered. */
const KEPT_REVISIONS = 20;
const DEFAULT_GRID_METRES = 4;
const FIRST_PIXELS_PER_METRE = 512;

/** Yards and the pieces in them. */
export class YardStore {
  constructor(
    private readonly source: DataSource,
    private readonly blobs: BlobStore,
  ) {}

  async list(): Promise<Yard[]> {
    const rows = await this.source.getRepository(Yards).find({ order: { id: 'ASC' } });
    const counts: { yardId: number; pieces: string }[] = await this.source.query(
      'SELECT yard_id yardId, COUNT(*) pieces FROM piece GROUP BY yard_id',
    );
    const pieces = new Map(counts.map((count) => [count.yardId, Number(count.pieces)]));
    return rows.map((row) => yardFrom(row, pieces.get(row.id) ?? 0));
  }

  async create(name: string): Promise<Yard> {
    const row = await this.source.getRepository(Yards).save({
      name,
      gridMetres: DEFAULT_GRID_METRES,
      target: PREFIX_TAGS.id,
      agents: JSON.stringify(FIRST_AGENTS),
      pixelsPerMetre: FIRST_PIXELS_PER_METRE,
      changedAt: new Date(),
    } as YardRow);
    return yardFrom(row, 0);
  }

  async remove(id: number): Promise<void> {
    await this.yardRow(id);
    await this.source.getRepository(Yards).delete(id);
  }

  async withPieces(id: number): Promise<YardWithPieces> {
    const yard = await this.yardRow(id);
    const pieces = await this.source
      .getRepository(Pieces)
      .find({ where: { yardId: id }, order: { name: 'ASC', id: 'ASC' } });
    const documents = new Map<number, PieceDocument>();
    for (const piece of pieces) documents.set(piece.id, await this.documentOf(this.source.manager, piece));
    const pictures: { id: number; sha256: string }[] = await this.source.query(
      'SELECT p.id, b.sha256 FROM piece p JOIN `blob` b ON b.id = p.picture_id WHERE p.yard_id = ?',
      [id],
    );
    const pictureOf = new Map(pictures.map((picture) => [picture.id, picture.sha256]));
    const shelf: PieceSummary[] = [];
    for (const piece of pieces) {
      const document = documents.get(piece.id)!;
      const around = {
        otherMeshNames: pieces
          .filter((other) => other.id !== piece.id)
          .map((other) => documents.get(other.id)!.meshName),
        lastDelivery: await this.lastDelivery(piece.id),
        version: piece.version,
        family: familyOf(piece.id, document.family, documents),
      };
      const rules = checkRulesOf(profileById(document.target) ?? PREFIX_TAGS);
      shelf.push({
        id: piece.id,
        name: piece.name,
        meshName: document.meshName,
        version: piece.version,
        size: sizeOf(artBounds(document)),
        triangles: document.whole.triangles,
        shapes: document.proxies.length,
        bounds: artBounds(document),
        pivot: document.pivot,
        family: document.family,
        cameFrom: document.source.files[0]!.name,
        tally: stampsOf(document, findingsOf(document, rules, around), around),
        picture: pictureOf.get(piece.id) ?? null,
        savedAt: piece.savedAt.toISOString(),
      });
    }
    return { ...yardFrom(yard, pieces.length), shelf };
  }

  /** A new piece in a yard; the bytes it names are stored before. */
  async addPiece(yardId: number, history: History): Promise<Piece> {
    await this.yardRow(yardId);
    const document = currentDocument(history);
    const id = await this.source.transaction(async (manager) => {
      const piece = await manager.getRepository(Pieces).save({
        yardId,
        name: document.name,
        version: 1,
        savedAt: new Date(),
        pictureId: null,
      } as unknown as PieceRow);
      await this.addRevision(manager, piece, history, document);
      await manager.getRepository(Yards).update(yardId, { changedAt: new Date() });
      return piece.id;
    });
    return this.piece(id);
  }

  async piece(id: number): Promise<Piece> {
    const row = await this.pieceRow(this.source.manager, id);
    const yard = await this.yardRow(row.yardId);
    const revision = await this.source
      .getRepository(Revisions)
      .findOneByOrFail({ pieceId: id, version: row.version });
    const history = historySchema.parse(JSON.parse(revision.history));
    const others: { meshName: string }[] = await this.source.query(
      `SELECT JSON_VALUE(r.document, '$.meshName') meshName FROM piece p
        JOIN revision r ON r.piece_id = p.id AND r.version = p.version WHERE p.yard_id = ? AND p.id <> ?`,
      [row.yardId, id],
    );
    const [picture] =
      row.pictureId === null
        ? []
        : await this.source.query('SELECT sha256 FROM `blob` WHERE id = ?', [row.pictureId]);
    return {
      id,
      yard: { id: yard.id, name: yard.name, rules: rulesFrom(yard) },
      version: row.version,
      savedAt: row.savedAt.toISOString(),
      history,
      picture: picture?.sha256 ?? null,
      lastDelivery: await this.lastDelivery(id),
      otherMeshNames: others.map((other) => other.meshName),
      family: await this.familyOfPiece(row, currentDocument(history)),
    };
  }

  /**
   * Save a new state over the version it was made from.
   *
   * @throws HttpProblem `conflict` when another save came first; nothing is changed then
   */
  async savePiece(id: number, version: number, history: History): Promise<Saved> {
    const document = currentDocument(history);
    return this.source.transaction(async (manager) => {
      const row = await this.pieceRow(manager, id, true);
      if (row.version !== version) {
        throw new HttpProblem(
          'conflict',
          `“${row.name}” was saved somewhere else in the meantime; take that over, or keep yours as a copy.`,
          { version: row.version, savedAt: row.savedAt.toISOString() },
        );
      }
      const next: PieceRow = { ...row, version: version + 1, name: document.name, savedAt: new Date() };
      await manager.getRepository(Pieces).save(next);
      await this.addRevision(manager, next, history, document);
      await this.prune(manager, id, next.version);
      return { version: next.version, savedAt: next.savedAt.toISOString() };
    });
  }

  async removePiece(id: number): Promise<void> {
    await this.pieceRow(this.source.manager, id);
    await this.source.getRepository(Pieces).delete(id);
  }

  async setPicture(id: number, blob: string): Promise<void> {
    await this.pieceRow(this.source.manager, id);
    const [pictureId] = await this.blobs.rowsOf(this.source.manager, [blob]);
    await this.source.getRepository(Pieces).update(id, { pictureId: pictureId! });
  }

  /** The document to deliver. @throws HttpProblem `conflict` when the piece is not at that version */
  async documentAt(id: number, version: number): Promise<PieceDocument> {
    const row = await this.pieceRow(this.source.manager, id);
    if (row.version !== version) {
      throw new HttpProblem(
        'conflict',
        `“${row.name}” was saved somewhere else in the meantime; load it again before delivering.`,
        { version: row.version, savedAt: row.savedAt.toISOString() },
      );
    }
    return this.documentOf(this.source.manager, row);
  }

  private async lastDelivery(pieceId: number): Promise<LastDelivery | null> {
    const row = await this.source
      .getRepository(Deliveries)
      .findOne({ where: { pieceId }, order: { id: 'DESC' } });
    return (
      row && {
        id: row.id,
        version: row.version,
        agreed: Boolean(row.agreed),
        at: row.deliveredAt.toISOString(),
      }
    );
  }

  private async documentOf(manager: EntityManager, piece: PieceRow): Promise<PieceDocument> {
    const revision = await manager
      .getRepository(Revisions)
      .findOneOrFail({ where: { pieceId: piece.id, version: piece.version }, select: { document: true } });
    return pieceDocumentSchema.parse(JSON.parse(revision.document));
  }

  private async familyOfPiece({ id, yardId }: PieceRow, document: PieceDocument): Promise<Piece['family']> {
    if (document.family === null) return null;
    const rows = await this.source.getRepository(Pieces).find({ where: { yardId } });
    const documents: [number, PieceDocument][] = [];
    for (const row of rows) documents.push([row.id, await this.documentOf(this.source.manager, row)]);
    return familyOf(id, document.family, documents) ?? null;
  }

  private async addRevision(
    manager: EntityManager,
    piece: PieceRow,
    history: History,
    document: PieceDocument,
  ): Promise<void> {
    const blobIds = await this.blobs.rowsOf(manager, [
      ...new Set([...blobsOf(document), ...blobsOfHistory(history)]),
    ]);
    const revision = await manager.getRepository(Revisions).save({
      pieceId: piece.id,
      version: piece.version,
      savedAt: piece.savedAt,
      history: JSON.stringify(history),
      document: JSON.stringify(document),
    });
    await manager.query(
      `INSERT INTO revision_blob (revision_id, blob_id) VALUES ${blobIds.map(() => '(?, ?)').join(', ')}`,
      blobIds.flatMap((blob) => [revision.id, blob]),
    );
  }

  private async prune(manager: EntityManager, pieceId: number, version: number): Promise<void> {
    await manager.query(
      `DELETE FROM revision WHERE piece_id = ? AND version <= ?
        AND version NOT IN (SELECT version FROM delivery WHERE piece_id = ?)`,
      [pieceId, version - KEPT_REVISIONS, pieceId],
    );
  }

  private async yardRow(id: number): Promise<YardRow> {
    const row = await this.source.getRepository(Yards).findOneBy({ id });
    if (!row) throw new HttpProblem('not-found', `There is no yard ${id}; it may have been removed.`);
    return row;
  }

  private async pieceRow(manager: EntityManager, id: number, lock = false): Promise<PieceRow> {
    const row = await manager
      .getRepository(Pieces)
      .findOne({ where: { id }, ...(lock ? { lock: { mode: 'pessimistic_write' as const } } : {}) });
    if (!row) throw new HttpProblem('not-found', `There is no piece ${id}; it may have been removed.`);
    return row;
  }
}

const rulesFrom = ({ gridMetres, target, agents, pixelsPerMetre }: YardRow): YardRules => ({
  gridMetres,
  target,
  agents: agentSchema.array().parse(JSON.parse(agents)),
  pixelsPerMetre,
});

/** The eldest other piece of the same family: its pivot is the one that is shared. */
function familyOf(
  id: number,
  family: string | null,
  others: Iterable<readonly [id: number, document: PieceDocument]>,
): PieceSurroundings['family'] {
  if (family === null) return null;
  const [eldest] = [...others].filter(([, document]) => document.family === family).sort(([a], [b]) => a - b);
  return eldest && eldest[0] !== id ? { from: eldest[1].name, reach: familyReach(eldest[1]) } : null;
}

const yardFrom = (row: YardRow, pieces: number): Yard => ({
  id: row.id,
  name: row.name,
  rules: rulesFrom(row),
  pieces,
  changedAt: row.changedAt.toISOString(),
});
