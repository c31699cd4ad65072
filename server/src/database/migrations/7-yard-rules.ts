import type { MigrationInterface, QueryRunner } from 'typeorm';

/** As new yards began when this was written. */
const REST = {
  format: 1,
  unit: 'm',
  agent: null,
  weldMetres: 2e-4,
  bakedPixelsPerMetre: 64,
  budgets: [],
  openings: { marginMetres: 0 },
  surfaces: [],
  responses: [],
  profiles: [],
  presets: [],
  names: {},
  nameFields: {},
  folders: { models: '', pictures: '', papers: '' },
};

/**
 * The rules of a yard become one value of a version, and every state of them is kept: a state knows the one before it,
 * which is had back when it is undone. Deliveries keep what was chosen for them and the profile they left by.
 */
export class YardRules1764600000000 implements MigrationInterface {
  readonly name = 'YardRules1764600000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE yard_rules (
      yard_id INT UNSIGNED NOT NULL,
      version INT UNSIGNED NOT NULL,
      content LONGTEXT NOT NULL CHECK (JSON_VALID(content)),
      before_version INT UNSIGNED NULL,
      saved_at DATETIME(3) NOT NULL,
      PRIMARY KEY (yard_id, version),
      FOREIGN KEY (yard_id) REFERENCES yard (id) ON DELETE CASCADE
    ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
    await runner.query('ALTER TABLE yard ADD rules_version INT UNSIGNED NOT NULL DEFAULT 1');
    const yards: Record<string, unknown>[] = await runner.query(
      'SELECT id, grid_metres, target, agents, pixels_per_metre, changed_at FROM yard',
    );
    for (const yard of yards) {
      const content = {
        ...REST,
        gridMetres: yard['grid_metres'],
        agents: JSON.parse(String(yard['agents'])),
        pixelsPerMetre: yard['pixels_per_metre'],
        targets: [yard['target']],
      };
      await runner.query(
        'INSERT INTO yard_rules (yard_id, version, content, before_version, saved_at) VALUES (?, 1, ?, NULL, ?)',
        [yard['id'], JSON.stringify(content), yard['changed_at']],
      );
    }
    await runner.query(
      'ALTER TABLE yard DROP grid_metres, DROP target, DROP agents, DROP pixels_per_metre, ALTER rules_version DROP DEFAULT',
    );
    await runner.query(`ALTER TABLE delivery
      ADD choices LONGTEXT NULL CHECK (JSON_VALID(choices)),
      ADD profile LONGTEXT NULL CHECK (JSON_VALID(profile)),
      ADD place VARCHAR(600) NULL,
      ADD inventory LONGTEXT NULL CHECK (JSON_VALID(inventory))`);
    await runner.query(
      "UPDATE delivery SET choices = IF(set_name IS NULL, '{}', JSON_OBJECT('set', set_name))",
    );
    await runner.query(
      'ALTER TABLE delivery MODIFY choices LONGTEXT NOT NULL CHECK (JSON_VALID(choices)), DROP set_name',
    );
  }

  async down(): Promise<void> {
    throw new Error('Rules saved since then cannot be stored in the older form.');
  }
}
