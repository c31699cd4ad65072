import {
  applyEdit,
  blobId,
  type History,
  meshNameFrom,
  plainMesh,
  plainNode,
  startHistory,
  takeIn,
} from '@yard-brace/core';

/** A crate as a new piece: its history and the bytes it names. */
export function cratePiece(name = 'Crate'): { history: History; blobs: Map<string, Uint8Array> } {
  const x = [0, 1, 1, 0, 0, 1, 1, 0];
  const y = [0, 0, 1, 1, 0, 0, 1, 1];
  const z = [0, 0, 0, 0, 1, 1, 1, 1];
  const faces = [
    [0, 3, 2, 1],
    [4, 5, 6, 7],
    [0, 1, 5, 4],
    [2, 3, 7, 6],
    [0, 4, 7, 3],
    [1, 2, 6, 5],
  ];
  const mesh = plainMesh(
    x.flatMap((_, i) => [x[i]!, y[i]!, z[i]!]),
    faces.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]),
  );
  const source = new TextEncoder().encode(`the file ${name} came in`);
  const { document, blobs } = takeIn(
    {
      unit: { metres: 1, stated: true },
      nodes: [plainNode(name, 0)],
      meshes: [{ name, mesh }],
      materials: [],
      pictures: [],
      leftOut: [],
      notes: [],
    },
    {
      files: [{ name: `${name}.obj`, blob: blobId(source), bytes: source.length }],
      name,
      meshName: meshNameFrom,
      target: 'prefix-tags',
    },
  );
  blobs.set(blobId(source), source);
  const box = {
    kind: 'box' as const,
    center: [0.5, 0.5, 0.5] as [number, number, number],
    halfExtents: [0.5, 0.5, 0.5] as [number, number, number],
    rotation: [0, 0, 0, 1] as [number, number, number, number],
  };
  const withBox = applyEdit(document, { kind: 'set-proxies', proxies: [{ id: 'box', shape: box }] });
  return { history: startHistory(withBox), blobs };
}
