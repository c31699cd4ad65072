import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Files that a job reads into pieces: it has no recipe, and its rows have no piece until one has come of their file. */
export class ImportJobs1765200000000 implements MigrationInterface {
  readonly name = 'ImportJobs1765200000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE job MODIFY recipe LONGTEXT NULL CHECK (recipe IS NULL OR JSON_VALID(recipe))',
    );
    await runner.query(
      'ALTER TABLE job_item MODIFY piece_id INT UNSIGNED NULL, MODIFY piece_name VARCHAR(255) NOT NULL, ADD file INT UNSIGNED NULL',
    );
    await runner.query(`CREATE TABLE job_file (
      job_id INT UNSIGNED NOT NULL,
      position INT UNSIGNED NOT NULL,
      name VARCHAR(255) NOT NULL,
      path VARCHAR(1000) NOT NULL,
      blob_id INT UNSIGNED NOT NULL,
      PRIMARY KEY (job_id, position),
      FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE,
      FOREIGN KEY (blob_id) REFERENCES \`blob\` (id)
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE job_file');
    await runner.query('DELETE FROM job WHERE recipe IS NULL');
    await runner.query(
      'ALTER TABLE job_item MODIFY piece_id INT UNSIGNED NOT NULL, MODIFY piece_name VARCHAR(120) NOT NULL, DROP file',
    );
    await runner.query('ALTER TABLE job MODIFY recipe LONGTEXT NOT NULL CHECK (JSON_VALID(recipe))');
  }
}
