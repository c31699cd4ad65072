/** How the rows of a table are told in an archive. */
export interface ArchiveTable {
  name: string;
  /** column of the number that others name a row by; null where nobody does */
  id: 'id' | null;
  /** columns that name a row of another table; of blobs by their SHA-256 */
  names: Readonly<Record<string, string>>;
  /** the rows of some yards, of `t`, by `?` */
  ofYards: string;
  /** the piece that a row is of; null for what a yard has as a whole */
  piece: string | null;
  /** columns that order them, so that they can be had a few at a time */
  order: readonly string[];
}

const ofPieces = (column: string) =>
  `JOIN piece p ON p.id = ${column} WHERE p.yard_id IN (?) AND (p.removed_at IS NULL OR ?)`;

/** Every table of yards, each after those that it names. What is worked out from other columns is left out. */
export const ARCHIVE_TABLES: readonly ArchiveTable[] = [
  {
    name: 'yard',
    id: 'id',
    names: {},
    ofYards: 'WHERE t.id IN (?) AND (1 OR ?)',
    piece: null,
    order: ['id'],
  },
  {
    name: 'yard_rules',
    id: null,
    names: { yard_id: 'yard' },
    ofYards: 'WHERE t.yard_id IN (?) AND (1 OR ?)',
    piece: null,
    order: ['yard_id', 'version'],
  },
  {
    name: 'piece',
    id: 'id',
    names: { yard_id: 'yard', picture_id: 'blob' },
    ofYards: 'WHERE t.yard_id IN (?) AND (t.removed_at IS NULL OR ?)',
    piece: 't.id',
    order: ['id'],
  },
  {
    name: 'history_base',
    id: 'id',
    names: { piece_id: 'piece' },
    ofYards: ofPieces('t.piece_id'),
    piece: 'p.id',
    order: ['id'],
  },
  {
    name: 'history_edit',
    id: 'id',
    names: { piece_id: 'piece' },
    ofYards: ofPieces('t.piece_id'),
    piece: 'p.id',
    order: ['id'],
  },
  {
    name: 'revision',
    id: 'id',
    names: { piece_id: 'piece', base_id: 'history_base' },
    ofYards: ofPieces('t.piece_id'),
    piece: 'p.id',
    order: ['id'],
  },
  {
    name: 'revision_blob',
    id: null,
    names: { revision_id: 'revision', blob_id: 'blob' },
    ofYards: `JOIN revision r ON r.id = t.revision_id ${ofPieces('r.piece_id')}`,
    piece: 'p.id',
    order: ['revision_id', 'blob_id'],
  },
  {
    name: 'delivery',
    id: 'id',
    names: { piece_id: 'piece', bundle_id: 'blob' },
    ofYards: ofPieces('t.piece_id'),
    piece: 'p.id',
    order: ['id'],
  },
  {
    name: 'delivery_file',
    id: null,
    names: { delivery_id: 'delivery', blob_id: 'blob' },
    ofYards: `JOIN delivery d ON d.id = t.delivery_id ${ofPieces('d.piece_id')}`,
    piece: 'p.id',
    order: ['delivery_id', 'position'],
  },
  {
    name: 'set_out',
    id: 'id',
    names: { yard_id: 'yard' },
    ofYards: 'WHERE t.yard_id IN (?) AND (1 OR ?)',
    piece: null,
    order: ['id'],
  },
  {
    name: 'set_out_edit',
    id: null,
    names: { set_out_id: 'set_out' },
    ofYards: 'JOIN set_out s ON s.id = t.set_out_id WHERE s.yard_id IN (?) AND (1 OR ?)',
    piece: null,
    order: ['set_out_id', 'position'],
  },
];

/** Tables of what names pieces all over a yard: left out where only some of them go. */
export const OF_WHOLE_YARDS: ReadonlySet<string> = new Set(['set_out', 'set_out_edit']);

/** Columns that the database fills by itself. */
export const OWN_COLUMNS: Readonly<Record<string, readonly string[]>> = {
  piece: ['changed', 'mesh_name', 'family'],
};

/** Columns of a moment, written as ISO 8601. */
export const MOMENTS = ['changed_at', 'saved_at', 'delivered_at', 'removed_at', 'created_at'];
