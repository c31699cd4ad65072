import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Set-outs of a yard: a base, and a row for each edit since, so that a save writes only what is new. */
export class SetOuts1764700000000 implements MigrationInterface {
  readonly name = 'SetOuts1764700000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE set_out (
      id INT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
      yard_id INT UNSIGNED NOT NULL,
      name VARCHAR(120) NOT NULL,
      version INT UNSIGNED NOT NULL,
      saved_at DATETIME(3) NOT NULL,
      base LONGTEXT NOT NULL CHECK (JSON_VALID(base)),
      \`cursor\` INT UNSIGNED NOT NULL,
      placements INT UNSIGNED NOT NULL,
      FOREIGN KEY (yard_id) REFERENCES yard (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
    await runner.query(`CREATE TABLE set_out_edit (
      set_out_id INT UNSIGNED NOT NULL,
      position INT UNSIGNED NOT NULL,
      content LONGTEXT NOT NULL CHECK (JSON_VALID(content)),
      PRIMARY KEY (set_out_id, position),
      FOREIGN KEY (set_out_id) REFERENCES set_out (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE set_out_edit');
    await runner.query('DROP TABLE set_out');
  }
}
