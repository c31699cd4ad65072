import { FIRST_AGENTS } from '@yard-brace/core';
import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Yards learn who collides, and what textures are measured against. */
export class Agents1764100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE yard ADD agents JSON NULL, ADD pixels_per_metre DOUBLE NOT NULL DEFAULT 512',
    );
    await runner.query('UPDATE yard SET agents = ?', [JSON.stringify(FIRST_AGENTS)]);
    await runner.query('ALTER TABLE yard MODIFY agents JSON NOT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE yard DROP agents, DROP pixels_per_metre');
  }
}
