import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Recipes done to many pieces: a row a job, and a row a piece of it, which processes claim one by one. */
export class Jobs1764800000000 implements MigrationInterface {
  readonly name = 'Jobs1764800000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE job (
      id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
      yard_id INT UNSIGNED NOT NULL,
      recipe LONGTEXT NOT NULL CHECK (JSON_VALID(recipe)),
      priority INT NOT NULL,
      stopped BOOLEAN NOT NULL,
      started_at DATETIME(3) NOT NULL,
      ended_at DATETIME(3) NULL,
      FOREIGN KEY (yard_id) REFERENCES yard (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
    await runner.query(`CREATE TABLE job_item (
      job_id INT UNSIGNED NOT NULL,
      position INT UNSIGNED NOT NULL,
      piece_id INT UNSIGNED NOT NULL,
      piece_name VARCHAR(120) NOT NULL,
      state ENUM('waiting', 'running', 'done', 'failed') NOT NULL,
      owner CHAR(36) NULL,
      leased_until DATETIME(3) NULL,
      tries INT UNSIGNED NOT NULL,
      share DOUBLE NOT NULL,
      report LONGTEXT NULL CHECK (report IS NULL OR JSON_VALID(report)),
      version_before INT UNSIGNED NULL,
      version_after INT UNSIGNED NULL,
      taken_back BOOLEAN NOT NULL,
      PRIMARY KEY (job_id, position),
      UNIQUE (job_id, piece_id),
      INDEX (job_id, state, position),
      FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE job_item');
    await runner.query('DROP TABLE job');
  }
}
