import {
  applyEdit,
  blobId,
  convexHull,
  type History,
  hullShape,
  meshNameFrom,
  plainMesh,
  plainNode,
  startHistory,
  takeIn,
  type Proxy,
  replaceProxies,
  type Vec3,
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
    },
  );
  blobs.set(blobId(source), source);
  const box = {
    kind: 'box' as const,
    center: [0.5, 0.5, 0.5] as [number, number, number],
    halfExtents: [0.5, 0.5, 0.5] as [number, number, number],
    rotation: [0, 0, 0, 1] as [number, number, number, number],
  };
  const withBox = applyEdit(document, replaceProxies([{ id: 'box', shape: box }]));
  return { history: startHistory(withBox), blobs };
}

/** A hull of 32 corners, as a ladder leaves it. */
export function hullProxy(id: string, x: number): Proxy {
  const corners = Array.from({ length: 32 }, (_, i): Vec3 => {
    const [turn, height] = [i * 2.399963, 1 - (2 * i + 1) / 32];
    const radius = Math.sqrt(1 - height * height);
    return [x * 3 + radius * Math.cos(turn), height, radius * Math.sin(turn)];
  });
  const result = convexHull(corners.flat());
  if (result.span !== 'solid') throw new Error('no hull');
  return { id, shape: hullShape(result.hull) };
}
