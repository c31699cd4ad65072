import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What was measured of a set of shapes tells of each of them, and no longer fits into 64 kB. */
export class JudgedSets1764400000000 implements MigrationInterface {
  readonly name = 'JudgedSets1764400000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE piece MODIFY measured LONGTEXT NULL CHECK (JSON_VALID(measured))');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('UPDATE piece SET measured = NULL WHERE LENGTH(measured) > 65535');
    await runner.query('ALTER TABLE piece MODIFY measured TEXT NULL CHECK (JSON_VALID(measured))');
  }
}
