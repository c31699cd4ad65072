import { EntitySchema } from 'typeorm';

export interface YardRow {
  id: number;
  name: string;
  /** of its rules as they are */
  rulesVersion: number;
  changedAt: Date;
  /** since when it lies in the bin; null for one that does not */
  removedAt: Date | null;
}

/** One state of a yard's rules. */
export interface RulesRow {
  yardId: number;
  version: number;
  /** JSON */
  content: string;
  /** the state that is had back when this one is undone */
  beforeVersion: number | null;
  savedAt: Date;
}

export interface PieceRow {
  id: number;
  yardId: number;
  name: string;
  version: number;
  savedAt: Date;
  pictureId: number | null;
  /** JSON: what a shelf shows of it; null until that was worked out, `{broken}` when it cannot be opened */
  facts: string | null;
  /** JSON: how its shapes were measured last */
  measured: string | null;
  /** since when it lies in the bin; null for one that does not */
  removedAt: Date | null;
  /** grows with every change of what a shelf shows of it, see `putPiece` */
  changed: string;
}

/** The document that a history starts from. */
export interface BaseRow {
  id: number;
  pieceId: number;
  /** JSON */
  content: string;
  /** its characters, and the SHA-1 of its text */
  length: number;
  hash: string;
}

/** One edit of a piece's histories; revisions name it. */
export type EditRow = BaseRow;

/** One saved state of a piece: a base, the edits since, and how many of them are done. */
export interface RevisionRow {
  id: number;
  pieceId: number;
  version: number;
  savedAt: Date;
  baseId: number;
  /** JSON: [number of the row, SHA-1, characters] of each edit in order */
  edits: string;
  cursor: number;
  /** who saved it; null where nobody signs people in */
  person: string | null;
}

/** Stored bytes. `sha256` is null while an upload is under way. */
export interface BlobRow {
  id: number;
  sha256: string | null;
  bytes: number;
  createdAt: Date;
}

export interface DeliveryRow {
  id: number;
  pieceId: number;
  version: number;
  target: string;
  deliveredAt: Date;
  agreed: boolean;
  readBack: string;
  comparison: string;
  bundleId: number;
  /** JSON: what was chosen for it */
  choices: string;
  /** JSON: the target's profile as it was; null for those of before that was kept */
  profile: string | null;
  /** below the folder for deliveries; null where there was none */
  place: string | null;
  /** JSON: what it held; null for those of before that was kept */
  inventory: string | null;
  /** who delivered it; null where nobody signs people in */
  person: string | null;
}

export interface DeliveryFileRow {
  deliveryId: number;
  position: number;
  name: string;
  type: string;
  bytes: number;
  blobId: number;
}

/** A set-out: its base, and its edits in rows of their own. */
export interface SetOutRow {
  id: number;
  yardId: number;
  name: string;
  version: number;
  savedAt: Date;
  /** JSON */
  base: string;
  cursor: number;
  /** how many pieces stand in it */
  placements: number;
}

export interface SetOutEditRow {
  setOutId: number;
  /** counts up for as long as the set-out lives: edits that became part of the base leave a gap before the first */
  position: number;
  /** JSON */
  content: string;
}

/** A recipe done to pieces of a yard. */
export interface JobRow {
  id: number;
  yardId: number;
  /** JSON; null where files are read into pieces */
  recipe: string | null;
  /** those of more come first */
  priority: number;
  stopped: boolean;
  startedAt: Date;
  /** null while some of its pieces wait or are worked on */
  endedAt: Date | null;
  /** who began it; null where nobody signs people in */
  person: string | null;
}

/** One piece of a job. */
export interface JobItemRow {
  jobId: number;
  position: number;
  /** stays when the piece is removed; null as long as none has come of the file */
  pieceId: number | null;
  /** of the piece, or of the file as long as none has come of it */
  pieceName: string;
  /** the place among the job's files of the one that is read; null where a recipe is done */
  file: number | null;
  state: 'waiting' | 'running' | 'done' | 'failed';
  /** the process that works on it, until its lease runs out by the clock of the database */
  owner: string | null;
  leasedUntil: Date | null;
  /** how often it was begun */
  tries: number;
  share: number;
  /** JSON: what became of it */
  report: string | null;
  versionBefore: number | null;
  versionAfter: number | null;
  takenBack: boolean;
}

/** A file that a job reads, or that stands beside one. */
export interface JobFileRow {
  jobId: number;
  position: number;
  name: string;
  path: string;
  blobId: number;
}

const id = { type: 'int', unsigned: true, primary: true, generated: 'increment' } as const;
const number = { type: 'int', unsigned: true } as const;
/** columns of a stored text that is known by its hash */
const text = { content: { type: 'longtext' }, length: number, hash: { type: 'char', length: 40 } } as const;
const moment = { type: 'datetime', precision: 3 } as const;
const person = { type: 'varchar', length: 120, nullable: true } as const;

export const Yards = new EntitySchema<YardRow>({
  name: 'yard',
  columns: {
    id,
    name: { type: 'varchar', length: 120 },
    rulesVersion: { ...number, name: 'rules_version' },
    changedAt: { ...moment, name: 'changed_at' },
    removedAt: { ...moment, name: 'removed_at', nullable: true },
  },
});

export const Rules = new EntitySchema<RulesRow>({
  name: 'yard_rules',
  columns: {
    yardId: { ...number, name: 'yard_id', primary: true },
    version: { ...number, primary: true },
    content: { type: 'longtext' },
    beforeVersion: { ...number, name: 'before_version', nullable: true },
    savedAt: { ...moment, name: 'saved_at' },
  },
});

export const Pieces = new EntitySchema<PieceRow>({
  name: 'piece',
  columns: {
    id,
    yardId: { ...number, name: 'yard_id' },
    name: { type: 'varchar', length: 120 },
    version: number,
    savedAt: { ...moment, name: 'saved_at' },
    pictureId: { ...number, name: 'picture_id', nullable: true },
    facts: { type: 'longtext', nullable: true },
    measured: { type: 'longtext', nullable: true },
    removedAt: { ...moment, name: 'removed_at', nullable: true },
    // The database counts: it is never written as a value.
    changed: {
      type: 'bigint',
      unsigned: true,
      insert: false,
      update: true,
      default: () => 'NEXT VALUE FOR piece_change',
    },
  },
});

export const Bases = new EntitySchema<BaseRow>({
  name: 'history_base',
  columns: {
    id,
    pieceId: { ...number, name: 'piece_id' },
    ...text,
  },
});

export const Edits = new EntitySchema<EditRow>({
  name: 'history_edit',
  columns: {
    id,
    pieceId: { ...number, name: 'piece_id' },
    ...text,
  },
});

export const Revisions = new EntitySchema<RevisionRow>({
  name: 'revision',
  columns: {
    id,
    pieceId: { ...number, name: 'piece_id' },
    version: number,
    savedAt: { ...moment, name: 'saved_at' },
    baseId: { ...number, name: 'base_id' },
    edits: { type: 'longtext' },
    cursor: number,
    person,
  },
});

export const Blobs = new EntitySchema<BlobRow>({
  name: 'blob',
  columns: {
    id,
    sha256: { type: 'char', length: 64, nullable: true },
    bytes: number,
    createdAt: { ...moment, name: 'created_at' },
  },
});

export const Deliveries = new EntitySchema<DeliveryRow>({
  name: 'delivery',
  columns: {
    id,
    pieceId: { ...number, name: 'piece_id' },
    version: number,
    target: { type: 'varchar', length: 60 },
    deliveredAt: { ...moment, name: 'delivered_at' },
    agreed: { type: 'boolean' },
    readBack: { name: 'read_back', type: 'longtext' },
    comparison: { type: 'longtext' },
    bundleId: { ...number, name: 'bundle_id' },
    choices: { type: 'longtext' },
    profile: { type: 'longtext', nullable: true },
    place: { type: 'varchar', length: 600, nullable: true },
    inventory: { type: 'longtext', nullable: true },
    person,
  },
});

export const DeliveryFiles = new EntitySchema<DeliveryFileRow>({
  name: 'delivery_file',
  columns: {
    deliveryId: { ...number, name: 'delivery_id', primary: true },
    position: { ...number, primary: true },
    name: { type: 'varchar', length: 255 },
    type: { type: 'varchar', length: 100 },
    bytes: number,
    blobId: { ...number, name: 'blob_id' },
  },
});

export const SetOuts = new EntitySchema<SetOutRow>({
  name: 'set_out',
  columns: {
    id,
    yardId: { ...number, name: 'yard_id' },
    name: { type: 'varchar', length: 120 },
    version: number,
    savedAt: { ...moment, name: 'saved_at' },
    base: { type: 'longtext' },
    cursor: number,
    placements: number,
  },
});

export const SetOutEdits = new EntitySchema<SetOutEditRow>({
  name: 'set_out_edit',
  columns: {
    setOutId: { ...number, name: 'set_out_id', primary: true },
    position: { ...number, primary: true },
    content: { type: 'longtext' },
  },
});

export const Jobs = new EntitySchema<JobRow>({
  name: 'job',
  columns: {
    id,
    yardId: { ...number, name: 'yard_id' },
    recipe: { type: 'longtext', nullable: true },
    priority: { type: 'int' },
    stopped: { type: 'boolean' },
    startedAt: { ...moment, name: 'started_at' },
    endedAt: { ...moment, name: 'ended_at', nullable: true },
    person,
  },
});

export const JobItems = new EntitySchema<JobItemRow>({
  name: 'job_item',
  columns: {
    jobId: { ...number, name: 'job_id', primary: true },
    position: { ...number, primary: true },
    pieceId: { ...number, name: 'piece_id', nullable: true },
    pieceName: { name: 'piece_name', type: 'varchar', length: 255 },
    file: { ...number, nullable: true },
    state: { type: 'enum', enum: ['waiting', 'running', 'done', 'failed'] },
    owner: { type: 'char', length: 36, nullable: true },
    leasedUntil: { ...moment, name: 'leased_until', nullable: true },
    tries: number,
    share: { type: 'double' },
    report: { type: 'longtext', nullable: true },
    versionBefore: { ...number, name: 'version_before', nullable: true },
    versionAfter: { ...number, name: 'version_after', nullable: true },
    takenBack: { type: 'boolean', name: 'taken_back' },
  },
});

export const JobFiles = new EntitySchema<JobFileRow>({
  name: 'job_file',
  columns: {
    jobId: { ...number, name: 'job_id', primary: true },
    position: { ...number, primary: true },
    name: { type: 'varchar', length: 255 },
    path: { type: 'varchar', length: 1000 },
    blobId: { ...number, name: 'blob_id' },
  },
});
