import type { MigrationInterface, QueryRunner } from 'typeorm';

/** A set of shapes that is kept beside the one in use can leave: a delivery says which. */
export class DeliveredSets1764500000000 implements MigrationInterface {
  readonly name = 'DeliveredSets1764500000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE delivery ADD COLUMN set_name VARCHAR(120) NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE delivery DROP COLUMN set_name');
  }
}
