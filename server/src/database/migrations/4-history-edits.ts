import { createHash } from 'node:crypto';
import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Edits are stored once, each in a row of its own that revisions name, so that a save costs what is new in it.
 * Bases and edits carry the SHA-1 of their text. Revisions of the first form, which held a whole history in one
 * text, take the form of today.
 */
export class HistoryEdits1764300000000 implements MigrationInterface {
  readonly name = 'HistoryEdits1764300000000';

  async up(runner: QueryRunner): Promise<void> {
    // Agents of yards that were made since then were written as JSON in JSON.
    await runner.query("UPDATE yard SET agents = JSON_UNQUOTE(agents) WHERE JSON_TYPE(agents) = 'STRING'");
    await runner.query(`CREATE TABLE history_edit (
      id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
      piece_id INT UNSIGNED NOT NULL,
      hash CHAR(40) CHARACTER SET ascii NOT NULL,
      content LONGTEXT NOT NULL CHECK (JSON_VALID(content)),
      length INT UNSIGNED NOT NULL,
      FOREIGN KEY (piece_id) REFERENCES piece (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
    await runner.query('ALTER TABLE history_base ADD hash CHAR(40) CHARACTER SET ascii NULL');
    await runner.query('UPDATE history_base SET hash = SHA1(content)');
    const revisions: { id: number; pieceId: number }[] = await runner.query(
      'SELECT id, piece_id pieceId FROM revision ORDER BY piece_id, id',
    );
    let known = new Map<string, readonly [number, string, number]>();
    let piece = 0;
    for (const { id, pieceId } of revisions) {
      if (pieceId !== piece) known = new Map();
      piece = pieceId;
      const [row] = await runner.query(
        'SELECT history, base_id baseId, edits, `cursor` FROM revision WHERE id = ?',
        [id],
      );
      const whole = row.baseId === null ? JSON.parse(row.history) : { edits: JSON.parse(row.edits) };
      const baseId = row.baseId ?? (await putBase(runner, pieceId, JSON.stringify(whole.base ?? null)));
      const edits: (readonly [number, string, number])[] = [];
      for (const edit of Array.isArray(whole.edits) ? whole.edits : []) {
        const content = JSON.stringify(edit);
        const hash = sha1(content);
        const stored =
          known.get(hash) ?? ([await putEdit(runner, pieceId, hash, content), hash, content.length] as const);
        known.set(hash, stored);
        edits.push(stored);
      }
      const cursor = row.cursor ?? (Number.isInteger(whole.cursor) ? whole.cursor : 0);
      await runner.query('UPDATE revision SET base_id = ?, edits = ?, `cursor` = ? WHERE id = ?', [
        baseId,
        JSON.stringify(edits),
        cursor,
        id,
      ]);
    }
    await runner.query('ALTER TABLE history_base MODIFY hash CHAR(40) CHARACTER SET ascii NOT NULL');
    await runner.query(`ALTER TABLE revision
      DROP history,
      MODIFY base_id INT UNSIGNED NOT NULL,
      MODIFY edits LONGTEXT NOT NULL CHECK (JSON_VALID(edits)),
      MODIFY \`cursor\` INT UNSIGNED NOT NULL`);
  }

  async down(): Promise<void> {
    throw new Error('Pieces saved since then cannot be stored in the older form.');
  }
}

const sha1 = (text: string): string => createHash('sha1').update(text).digest('hex');

async function putBase(runner: QueryRunner, pieceId: number, content: string): Promise<number> {
  const { insertId } = await runner.query(
    'INSERT INTO history_base (piece_id, content, length, hash) VALUES (?, ?, ?, ?)',
    [pieceId, content, content.length, sha1(content)],
  );
  return insertId;
}

async function putEdit(runner: QueryRunner, pieceId: number, hash: string, content: string): Promise<number> {
  const { insertId } = await runner.query(
    'INSERT INTO history_edit (piece_id, hash, content, length) VALUES (?, ?, ?, ?)',
    [pieceId, hash, content, content.length],
  );
  return insertId;
}
