import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * What is removed lies in a bin first. Shelves of thousands: a piece knows when it was changed last, by a number that only
 * grows, and what is asked about the other pieces of a yard is found by an index.
 */
export class BinAndLongShelves1764900000000 implements MigrationInterface {
  readonly name = 'BinAndLongShelves1764900000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('CREATE SEQUENCE IF NOT EXISTS piece_change');
    await runner.query(`ALTER TABLE piece
      ADD removed_at DATETIME(3) NULL,
      ADD changed BIGINT UNSIGNED NOT NULL DEFAULT (NEXT VALUE FOR piece_change),
      ADD mesh_name VARCHAR(255) AS (JSON_VALUE(facts, '$.meshName')) VIRTUAL,
      ADD family VARCHAR(120) AS (JSON_VALUE(facts, '$.family')) VIRTUAL`);
    await runner.query('UPDATE piece SET changed = NEXT VALUE FOR piece_change');
    await runner.query(`ALTER TABLE piece
      ADD INDEX piece_by_name (yard_id, name, id),
      ADD INDEX piece_by_change (yard_id, changed),
      ADD INDEX piece_by_mesh_name (yard_id, mesh_name),
      ADD INDEX piece_by_family (yard_id, family),
      ADD INDEX piece_in_bin (removed_at)`);
    await runner.query('ALTER TABLE yard ADD removed_at DATETIME(3) NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE yard DROP removed_at');
    await runner.query(`ALTER TABLE piece DROP INDEX piece_by_name, DROP INDEX piece_by_change,
      DROP INDEX piece_by_mesh_name, DROP INDEX piece_by_family, DROP INDEX piece_in_bin,
      DROP removed_at, DROP changed, DROP mesh_name, DROP family`);
    await runner.query('DROP SEQUENCE piece_change');
  }
}
