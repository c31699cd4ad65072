import type { DataSource, EntityManager } from 'typeorm';
import * as z from 'zod';
import { Bases, Edits, type PieceRow, type RevisionRow, Revisions } from '../database/entities.js';
import { personNow } from '../http/person.js';
import { HttpProblem } from '../http/problems.js';
import type { Judged, StateTexts, StoredEdit, StoredState } from '../judge/judge.js';
import type { BlobStore } from './blob-store.js';

/** How many saved states of a piece are kept, besides those that were delivered. */
const KEPT_REVISIONS = 20;

const storedEditsSchema = z.array(z.tuple([z.number().int(), z.string(), z.number().int()]));

/** The saved states of pieces: a base and the edits since, both in rows that revisions share. */
export class PieceStates {
  constructor(
    private readonly source: DataSource,
    private readonly blobs: BlobStore,
  ) {}

  /** A state without its texts, see `textsOf`. @throws HttpProblem when the version is not kept any more */
  async at(pieceId: number, version: number): Promise<StoredState> {
    const row = await this.source
      .getRepository(Revisions)
      .createQueryBuilder('r')
      .innerJoin(Bases.options.name, 'b', 'b.id = r.baseId')
      .select(['r.edits edits', 'r.cursor `cursor`', 'b.id baseId', 'b.hash baseHash', 'b.length baseLength'])
      .where('r.pieceId = :pieceId AND r.version = :version', { pieceId, version })
      .getRawOne<{ edits: string; cursor: number; baseId: number; baseHash: string; baseLength: number }>();
    if (!row) throw new HttpProblem('not-found', `Version ${version} of this piece is not kept any more.`);
    const { baseId, baseHash, baseLength, cursor } = row;
    return {
      base: { id: baseId, hash: baseHash, length: baseLength },
      edits: editsFrom(row.edits),
      cursor,
      texts: null,
    };
  }

  /** The texts of a state. @throws HttpProblem when they went meanwhile */
  async textsOf({ base, edits }: StoredState): Promise<StateTexts> {
    const row = await this.source.getRepository(Bases).findOneBy({ id: base.id });
    const rows = edits.length
      ? await this.source
          .getRepository(Edits)
          .createQueryBuilder('e')
          .where('e.id IN (:...ids)', { ids: edits.map(({ id }) => id) })
          .getMany()
      : [];
    const contents = new Map(rows.map(({ id, content }) => [id, content]));
    const texts = edits.map(({ id }) => contents.get(id));
    if (!row || texts.some((text) => text === undefined))
      throw new HttpProblem('not-found', 'The piece was removed or saved anew in the meantime.');
    return { base: row.content, edits: texts as string[] };
  }

  async versions(pieceId: number): Promise<Pick<RevisionRow, 'version' | 'savedAt' | 'person'>[]> {
    return this.source.getRepository(Revisions).find({
      where: { pieceId },
      order: { version: 'DESC' },
      select: { version: true, savedAt: true, person: true },
    });
  }

  /** Blobs that some kept state of a piece names already: they were looked at when it was stored. */
  async knownBlobs(pieceId: number): Promise<Set<string>> {
    const rows: { sha256: string }[] = await this.source.query(
      `SELECT DISTINCT b.sha256 FROM revision r JOIN revision_blob rb ON rb.revision_id = r.id
        JOIN \`blob\` b ON b.id = rb.blob_id WHERE r.piece_id = ?`,
      [pieceId],
    );
    return new Set(rows.map(({ sha256 }) => sha256));
  }

  /** Add a state under the version the piece has now, storing what is new of it, and let go of the oldest. */
  async add(
    manager: EntityManager,
    piece: PieceRow,
    { base, kept, fresh, cursor, blobs }: Pick<Judged, 'base' | 'kept' | 'fresh' | 'cursor' | 'blobs'>,
    stored: StoredState | null,
  ): Promise<void> {
    const pieceId = piece.id;
    const blobIds = await this.blobs.rowsOf(manager, blobs);
    const baseId =
      base === null ? stored!.base.id : (await manager.getRepository(Bases).save({ pieceId, ...base })).id;
    const edits = kept.map((at) => stored!.edits[at]!);
    for (const edit of fresh) edits.push(await manager.getRepository(Edits).save({ pieceId, ...edit }));
    const { id } = await manager.getRepository(Revisions).save({
      pieceId,
      version: piece.version,
      savedAt: piece.savedAt,
      baseId,
      edits: JSON.stringify(edits.map((edit) => [edit.id, edit.hash, edit.length])),
      cursor,
      person: personNow(),
    } as RevisionRow);
    await manager.query(
      `INSERT INTO revision_blob (revision_id, blob_id) VALUES ${blobIds.map(() => '(?, ?)').join(', ')}`,
      blobIds.flatMap((blob) => [id, blob]),
    );
    await this.letGo(manager, piece);
  }

  private async letGo(manager: EntityManager, { id, version }: PieceRow): Promise<void> {
    const { affectedRows } = await manager.query(
      `DELETE FROM revision WHERE piece_id = ? AND version <= ?
        AND version NOT IN (SELECT version FROM delivery WHERE piece_id = ?)`,
      [id, version - KEPT_REVISIONS, id],
    );
    if (!affectedRows) return;
    await manager.query(
      `DELETE FROM history_base WHERE piece_id = ?
        AND NOT EXISTS (SELECT 1 FROM revision r WHERE r.base_id = history_base.id)`,
      [id],
    );
    const left = await manager
      .getRepository(Revisions)
      .find({ where: { pieceId: id }, select: { id: true, edits: true } });
    const named = new Set(left.flatMap(({ edits }) => editsFrom(edits).map((edit) => edit.id)));
    const rows = await manager.getRepository(Edits).find({ where: { pieceId: id }, select: { id: true } });
    const gone = rows.map((row) => row.id).filter((edit) => !named.has(edit));
    if (gone.length) await manager.getRepository(Edits).delete(gone);
  }
}

const editsFrom = (text: string): StoredEdit[] =>
  storedEditsSchema.parse(JSON.parse(text)).map(([id, hash, length]) => ({ id, hash, length }));
