import type { MigrationInterface, QueryRunner } from 'typeorm';

const TABLE = 'ENGINE=InnoDB DEFAULT CHARSET=utf8mb4';

const UP = [
  `CREATE TABLE \`blob\` (
    id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
    sha256 CHAR(64) CHARACTER SET ascii NULL UNIQUE,
    bytes INT UNSIGNED NOT NULL,
    created_at DATETIME(3) NOT NULL
  ) ${TABLE}`,
  `CREATE TABLE blob_chunk (
    blob_id INT UNSIGNED NOT NULL,
    position INT UNSIGNED NOT NULL,
    content MEDIUMBLOB NOT NULL,
    PRIMARY KEY (blob_id, position),
    FOREIGN KEY (blob_id) REFERENCES \`blob\` (id) ON DELETE CASCADE
  ) ${TABLE}`,
  `CREATE TABLE yard (
    id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
    name VARCHAR(120) NOT NULL,
    grid_metres DOUBLE NOT NULL,
    target VARCHAR(60) NOT NULL,
    changed_at DATETIME(3) NOT NULL
  ) ${TABLE}`,
  `CREATE TABLE piece (
    id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
    yard_id INT UNSIGNED NOT NULL,
    name VARCHAR(120) NOT NULL,
    version INT UNSIGNED NOT NULL,
    saved_at DATETIME(3) NOT NULL,
    picture_id INT UNSIGNED NULL,
    FOREIGN KEY (yard_id) REFERENCES yard (id) ON DELETE CASCADE,
    FOREIGN KEY (picture_id) REFERENCES \`blob\` (id)
  ) ${TABLE}`,
  `CREATE TABLE revision (
    id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
    piece_id INT UNSIGNED NOT NULL,
    version INT UNSIGNED NOT NULL,
    saved_at DATETIME(3) NOT NULL,
    history LONGTEXT NOT NULL CHECK (JSON_VALID(history)),
    document LONGTEXT NOT NULL CHECK (JSON_VALID(document)),
    UNIQUE (piece_id, version),
    FOREIGN KEY (piece_id) REFERENCES piece (id) ON DELETE CASCADE
  ) ${TABLE}`,
  `CREATE TABLE revision_blob (
    revision_id INT UNSIGNED NOT NULL,
    blob_id INT UNSIGNED NOT NULL,
    PRIMARY KEY (revision_id, blob_id),
    FOREIGN KEY (revision_id) REFERENCES revision (id) ON DELETE CASCADE,
    FOREIGN KEY (blob_id) REFERENCES \`blob\` (id)
  ) ${TABLE}`,
  `CREATE TABLE delivery (
    id INT UNSIGNED AUTO_INCREMENT PRIMARY KEY,
    piece_id INT UNSIGNED NOT NULL,
    version INT UNSIGNED NOT NULL,
    target VARCHAR(60) NOT NULL,
    delivered_at DATETIME(3) NOT NULL,
    agreed BOOLEAN NOT NULL,
    read_back LONGTEXT NOT NULL CHECK (JSON_VALID(read_back)),
    comparison LONGTEXT NOT NULL CHECK (JSON_VALID(comparison)),
    bundle_id INT UNSIGNED NOT NULL,
    FOREIGN KEY (piece_id) REFERENCES piece (id) ON DELETE CASCADE,
    FOREIGN KEY (bundle_id) REFERENCES \`blob\` (id)
  ) ${TABLE}`,
  `CREATE TABLE delivery_file (
    delivery_id INT UNSIGNED NOT NULL,
    position INT UNSIGNED NOT NULL,
    name VARCHAR(255) NOT NULL,
    type VARCHAR(100) NOT NULL,
    bytes INT UNSIGNED NOT NULL,
    blob_id INT UNSIGNED NOT NULL,
    PRIMARY KEY (delivery_id, position),
    FOREIGN KEY (delivery_id) REFERENCES delivery (id) ON DELETE CASCADE,
    FOREIGN KEY (blob_id) REFERENCES \`blob\` (id)
  ) ${TABLE}`,
];

/** Yards, pieces and their revisions, stored bytes in chunks, deliveries. */
export class FirstHouse1764000000000 implements MigrationInterface {
  readonly name = 'FirstHouse1764000000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of UP) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    const tables = [
      'delivery_file',
      'delivery',
      'revision_blob',
      'revision',
      'piece',
      'yard',
      'blob_chunk',
      '`blob`',
    ];
    for (const table of tables) await runner.query(`DROP TABLE ${table}`);
  }
}
