import type { MigrationInterface, QueryRunner } from 'typeorm';

/** As they were then: a migration stays what it was, whatever new yards start with later. */
const AGENTS = [
  {
    id: 'gantry-rig',
    name: 'gantry rig',
    height: 3.2,
    radius: 1.1,
    step: 0.3,
    slopeDegrees: 10,
    detail: 0.25,
  },
  { id: 'deckhand', name: 'deckhand', height: 1.8, radius: 0.35, step: 0.35, slopeDegrees: 45, detail: 0.04 },
  { id: 'gull', name: 'gull', height: 0.4, radius: 0.15, step: 0.2, slopeDegrees: 60, detail: 0.01 },
];

/** Yards learn who collides, and what textures are measured against. */
export class Agents1764100000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      'ALTER TABLE yard ADD agents JSON NULL, ADD pixels_per_metre DOUBLE NOT NULL DEFAULT 512',
    );
    await runner.query('UPDATE yard SET agents = ?', [JSON.stringify(AGENTS)]);
    await runner.query('ALTER TABLE yard MODIFY agents JSON NOT NULL');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE yard DROP agents, DROP pixels_per_metre');
  }
}
