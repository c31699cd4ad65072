import {
  type Mesh,
  meshNameFrom,
  meshReader,
  type PieceDocument,
  plainMaterial,
  plainMesh,
  plainNode,
  replaceProxies,
  applyEdit,
  type Scene,
  type Shape,
  shapeTriangles,
  takeIn,
  type Vec3,
} from '@yard-brace/core';

const box = (halfExtents: Vec3, center: Vec3): Shape => ({
  kind: 'box',
  center,
  halfExtents,
  rotation: [0, 0, 0, 1],
});

function meshOf(...shapes: Shape[]): Mesh {
  const [points, indices]: [number[], number[]] = [[], []];
  for (const shape of shapes) {
    const part = shapeTriangles(shape);
    indices.push(...[...part.indices].map((v) => v + points.length / 3));
    points.push(...part.points);
  }
  return { ...plainMesh(points, indices), groups: [{ material: 0, start: 0, count: indices.length / 3 }] };
}

const POSTS = [box([0.15, 1, 0.15], [-1, 1, 0]), box([0.15, 1, 0.15], [1, 1, 0])];
const LEAF = box([0.8, 0.9, 0.05], [0, 0.95, 0]);
const WHEEL: Shape = {
  kind: 'cylinder',
  center: [0, 2.1, 0],
  rotation: [0, 0, 0, 1],
  halfHeight: 0.04,
  bottomRadius: 0.3,
  topRadius: 0.3,
};

/** A sluice gate of two parts with a shape of several kinds, to show what rules and profiles do. */
export function samplePiece(): {
  document: PieceDocument;
  sources: { meshOf: (id: string) => Mesh; pictureOf: (id: string) => Uint8Array };
} {
  const scene: Scene = {
    unit: { metres: 1, stated: true },
    nodes: [plainNode('frame', 0), plainNode('leaf', 1, 0)],
    meshes: [
      { name: 'frame', mesh: meshOf(...POSTS, WHEEL) },
      { name: 'leaf', mesh: meshOf(LEAF) },
    ],
    materials: [plainMaterial('oak')],
    pictures: [],
    leftOut: [],
    notes: [],
  };
  const { document, blobs } = takeIn(scene, {
    files: [{ name: 'sluice gate.glb', blob: '0'.repeat(64), bytes: 1 }],
    meshName: meshNameFrom,
  });
  const shapes = [
    { shape: POSTS[0]!, part: 'n1' },
    { shape: POSTS[1]!, part: 'n1' },
    { shape: WHEEL, part: 'n1' },
    { shape: LEAF, part: 'n2', role: 'animated' as const },
  ];
  return {
    document: applyEdit(document, replaceProxies(shapes.map((shape, i) => ({ id: `s${i + 1}`, ...shape })))),
    sources: { meshOf: meshReader(blobs), pictureOf: (id) => blobs.get(id)! },
  };
}
