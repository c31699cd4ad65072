import type { DataSource, EntityManager } from 'typeorm';
import { Bases, type PieceRow, type RevisionRow, Revisions } from '../database/entities.js';
import { HttpProblem } from '../http/problems.js';
import type { Judged, StoredState } from '../judge/judge.js';
import type { BlobStore } from './blob-store.js';

/** How many saved states of a piece are kept, besides those that were delivered. */
const KEPT_REVISIONS = 20;

/** The saved states of pieces: a base, which revisions share, and the edits since. */
export class PieceStates {
  constructor(
    private readonly source: DataSource,
    private readonly blobs: BlobStore,
  ) {}

  /** A state without the text of its base, see `baseOf`. @throws HttpProblem when the version is not kept any more */
  async at(pieceId: number, version: number): Promise<StoredState> {
    const [row]: (Pick<RevisionRow, 'history' | 'baseId' | 'edits' | 'cursor'> & { baseLength: number })[] =
      await this.source.query(
        `SELECT r.history, r.base_id baseId, r.edits, r.\`cursor\`, h.length baseLength
          FROM revision r LEFT JOIN history_base h ON h.id = r.base_id WHERE r.piece_id = ? AND r.version = ?`,
        [pieceId, version],
      );
    if (!row) throw new HttpProblem('not-found', `Version ${version} of this piece is not kept any more.`);
    if (row.baseId !== null)
      return { ...row, baseId: row.baseId, base: null, edits: row.edits!, cursor: row.cursor! };
    const whole = JSON.parse(row.history!) as { base: unknown; edits: unknown; cursor: number };
    const base = JSON.stringify(whole.base);
    return {
      baseId: null,
      base,
      baseLength: base.length,
      edits: JSON.stringify(whole.edits),
      cursor: whole.cursor,
    };
  }

  /** The text of a state's base. @throws HttpProblem when it went meanwhile */
  async baseOf({ baseId, base }: StoredState): Promise<string> {
    if (base !== null) return base;
    const row = await this.source.getRepository(Bases).findOneBy({ id: baseId! });
    if (!row) throw new HttpProblem('not-found', 'The piece was removed or saved anew in the meantime.');
    return row.content;
  }

  async versions(pieceId: number): Promise<{ version: number; savedAt: Date }[]> {
    return this.source
      .getRepository(Revisions)
      .find({ where: { pieceId }, order: { version: 'DESC' }, select: { version: true, savedAt: true } });
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

  /** Add a state under the version the piece has now, and let go of the oldest. */
  async add(
    manager: EntityManager,
    piece: PieceRow,
    { base, edits, cursor, blobs }: Pick<Judged, 'base' | 'edits' | 'cursor' | 'blobs'>,
    stored: StoredState | null,
  ): Promise<void> {
    const blobIds = await this.blobs.rowsOf(manager, blobs);
    const baseId =
      base === null
        ? stored!.baseId!
        : (await manager.getRepository(Bases).save({ pieceId: piece.id, content: base, length: base.length }))
            .id;
    const { id } = await manager.getRepository(Revisions).save({
      pieceId: piece.id,
      version: piece.version,
      savedAt: piece.savedAt,
      history: null,
      baseId,
      edits,
      cursor,
    } as RevisionRow);
    await manager.query(
      `INSERT INTO revision_blob (revision_id, blob_id) VALUES ${blobIds.map(() => '(?, ?)').join(', ')}`,
      blobIds.flatMap((blob) => [id, blob]),
    );
    await manager.query(
      `DELETE FROM revision WHERE piece_id = ? AND version <= ?
        AND version NOT IN (SELECT version FROM delivery WHERE piece_id = ?)`,
      [piece.id, piece.version - KEPT_REVISIONS, piece.id],
    );
    await manager.query(
      `DELETE FROM history_base WHERE piece_id = ?
        AND NOT EXISTS (SELECT 1 FROM revision r WHERE r.base_id = history_base.id)`,
      [piece.id],
    );
  }
}
