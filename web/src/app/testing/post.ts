import type { Delivery, Job, JobItem, JobReport, Piece, PieceSummary, Saved } from '@yard-brace/contract';
import {
  checkRulesOf,
  FIRST_RULES,
  meshNameFrom,
  type PieceDocument,
  plainMesh,
  plainNode,
  PREFIX_TAGS,
  shelfFactsOf,
  startHistory,
  takeIn,
} from '@yard-brace/core';

/** A post for specs: a closed tetrahedron with edges of `size` file units, from a file called post.obj. */
export function postDocument(size = 1, stated = true): PieceDocument {
  const mesh = plainMesh([0, 0, 0, size, 0, 0, 0, size, 0, 0, 0, size], [0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]);
  const scene = {
    unit: { metres: 1, stated },
    nodes: [plainNode('Post', 0)],
    meshes: [{ name: 'Post', mesh }],
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  const files = [{ name: 'post.obj', blob: 'a'.repeat(64), bytes: 1 }];
  return takeIn(scene, { files, meshName: meshNameFrom }).document;
}

/** A piece of three parts, each the same tetrahedron of two metres: a frame with a leaf below it, and a sill. */
export function threeParts(): PieceDocument {
  const document = postDocument(2);
  const node = document.nodes[0]!;
  const nodes = [
    { ...node, id: 'n1', name: 'frame' },
    { ...node, id: 'n2', name: 'leaf', parent: 0 },
    { ...node, id: 'n3', name: 'sill' },
  ];
  return { ...document, nodes };
}

/** Another piece on the shelf of the yard. */
export function shelfPiece(id: number, name: string, change: Partial<PieceSummary> = {}): PieceSummary {
  const { version, savedAt, facts } = savedPost(1);
  const piece = { ...facts, ownTally: facts.tally, id, name, version, savedAt, picture: null, broken: null };
  return { ...piece, ...change };
}

/** A delivery that was read back as drawn. */
export const delivered = (id: number, piece = 1, change: Partial<Delivery> = {}): Delivery => ({
  id,
  piece: { id: piece, name: 'Post' },
  version: 1,
  target: 'prefix-tags',
  choices: {},
  profile: null,
  place: null,
  inventory: null,
  at: `2026-01-01T10:0${id % 10}:00.000Z`,
  person: null,
  files: [{ name: 'Post.glb', type: 'model/gltf-binary', bytes: 1234 }],
  readBack: {
    target: 'prefix-tags',
    files: [],
    groups: [],
    meshes: [],
    shapes: [],
    bodies: [],
    changed: [],
    ignored: [],
  },
  comparison: [{ point: 'mesh', expected: 'Post', found: 'Post', agrees: true }],
  agreed: true,
  ...change,
});

/** The post as the server gives it out. */
export const postPiece = (document = postDocument()): Piece => ({
  id: 1,
  yard: {
    id: 1,
    name: 'Yard',
    rules: FIRST_RULES,
    rulesVersion: 1,
  },
  version: 1,
  savedAt: '2026-01-01T10:00:00.000Z',
  history: startHistory(document),
  picture: null,
  lastDeliveries: [],
  otherMeshNames: [],
  family: null,
  measured: null,
});

/** What a save of the post answers. */
export function savedPost(version: number, document = postDocument()): Saved {
  const facts = shelfFactsOf(document, checkRulesOf(PREFIX_TAGS), {});
  return { version, savedAt: '2026-01-01T10:02:00.000Z', facts };
}

/** A job on one piece, and what became of it. */
export function jobReport(job: Partial<Job> = {}, items: readonly Partial<JobItem>[] = []): JobReport {
  return {
    job: {
      id: 1,
      yard: 1,
      kind: 'recipe',
      name: 'Boxes',
      state: 'running',
      priority: 0,
      person: null,
      startedAt: '2026-01-01T10:00:00.000Z',
      endedAt: null,
      pieces: items.length || 1,
      waiting: 1,
      running: 0,
      done: 0,
      failed: 0,
      share: 0,
      ...job,
    },
    recipe: { format: 1, name: 'Boxes', steps: [{ op: 'join-borders', parameters: {} }] },
    items: items.map((item, i): JobItem => ({
      position: i,
      piece: { id: i + 1, name: `Post ${i + 1}`, version: 2 },
      state: 'done',
      share: 1,
      says: '1 part, 4 triangles, 1 shape',
      steps: [],
      before: null,
      after: null,
      foundVersion: null,
      savedVersion: null,
      deliveries: [],
      takenBack: false,
      ...item,
    })),
    more: 0,
  };
}
