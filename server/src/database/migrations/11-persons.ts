import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Who saved, delivered and began jobs, where a proxy that signs people in says it. */
export class Persons1765000000000 implements MigrationInterface {
  readonly name = 'Persons1765000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of ['revision', 'delivery', 'job'])
      await runner.query(`ALTER TABLE ${table} ADD person VARCHAR(120) NULL`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['revision', 'delivery', 'job'])
      await runner.query(`ALTER TABLE ${table} DROP person`);
  }
}
