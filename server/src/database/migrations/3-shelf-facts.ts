import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * A piece carries what its shelf shows of it and how its shapes were measured; the document a history starts from is
 * stored once for all revisions that share it. Older revisions keep theirs in `history`.
 */
export class ShelfFacts1764200000000 implements MigrationInterface {
  readonly name = 'ShelfFacts1764200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE history_base (
      id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
      piece_id INT UNSIGNED NOT NULL,
      content LONGTEXT NOT NULL CHECK (JSON_VALID(content)),
      length INT UNSIGNED NOT NULL,
      FOREIGN KEY (piece_id) REFERENCES piece (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
    await runner.query(`ALTER TABLE revision
      MODIFY history LONGTEXT NULL CHECK (JSON_VALID(history)),
      DROP document,
      ADD base_id INT UNSIGNED NULL,
      ADD edits LONGTEXT NULL CHECK (JSON_VALID(edits)),
      ADD \`cursor\` INT UNSIGNED NULL,
      ADD FOREIGN KEY (base_id) REFERENCES history_base (id) ON DELETE CASCADE`);
    await runner.query(`ALTER TABLE piece
      ADD facts LONGTEXT NULL CHECK (JSON_VALID(facts)),
      ADD measured TEXT NULL CHECK (JSON_VALID(measured))`);
  }

  async down(): Promise<void> {
    throw new Error('Pieces saved since then cannot be stored in the older form.');
  }
}
