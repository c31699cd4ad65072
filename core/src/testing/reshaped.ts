import fc from 'fast-check';
import type { Quat } from '../math/index.js';
import { type Mesh, transformMesh } from '../mesh/index.js';
import {
  applyEdit,
  artBounds,
  artMesh,
  editSchema,
  meshReader,
  operate,
  type Operation,
  outcomeText,
  pieceDocumentSchema,
  placedMatrices,
  plainNode,
  type Scene,
} from '../piece/index.js';
import { type pieceOf } from './documents.js';
import { boxMesh, sceneOf } from './meshes.js';

export type Piece = ReturnType<typeof pieceOf>;

/** The piece after an operation, with its meshes at hand. */
export async function after(piece: Piece, operation: Operation): Promise<Piece & { says: string }> {
  const { edit, blobs, outcome } = await operate(piece.document, operation, piece.meshOf);
  expect(editSchema.parse(edit)).toEqual(edit);
  const document = applyEdit(piece.document, edit);
  expect(pieceDocumentSchema.safeParse(document).success).toBeTrue();
  const stored = new Map([...piece.blobs, ...blobs]);
  const meshOf = meshReader(stored);
  // What the document says of itself is what its meshes say.
  expect(document.whole.triangles).toBe(artMesh(document, meshOf).indices.length / 3);
  return { document, blobs: stored, meshOf, pictureOf: piece.pictureOf, says: outcomeText(outcome) };
}

export const sorted = (mesh: Mesh, size: number) =>
  [...mesh.indices]
    .map((v) => [0, 1, 2].map((k) => Math.round((mesh.positions[v * 3 + k]! / size) * 1e6)).join())
    .sort();
export const placedPoints = ({ document, meshOf }: Piece) => artMesh(document, meshOf);

/** Every vertex of every part stands where it stood, to a millionth of the piece. */
export const same = (a: Piece, b: Piece) => {
  const bounds = artBounds(a.document);
  const size = Math.max(1, ...bounds.max.map((v, k) => v - bounds.min[k]!));
  const standing = ({ document, meshOf }: Piece, id: string) => {
    const i = document.nodes.findIndex((node) => node.id === id);
    return transformMesh(meshOf(document.nodes[i]!.mesh!), placedMatrices(document)[i]!);
  };
  for (const { id, mesh } of a.document.nodes) {
    if (mesh === null) continue;
    const [p, q] = [standing(a, id), standing(b, id)];
    expect(q.indices).toEqual(p.indices);
    expect(Math.max(...p.positions.map((v, i) => Math.abs(v - q.positions[i]!)))).toBeLessThanOrEqual(
      size * 1e-6,
    );
  }
};

const number = fc.double({ min: -3, max: 3, noNaN: true });
export const turn = fc
  .tuple(number, number, number, fc.double({ min: 0.2, max: 3, noNaN: true }))
  .map((q) => q.map((v) => v / Math.hypot(...q)) as Quat);
const factor = fc.oneof(
  fc.double({ min: -3, max: -0.2, noNaN: true }),
  fc.double({ min: 0.2, max: 3, noNaN: true }),
);
export const transform = fc.record({
  translation: fc.tuple(number, number, number),
  rotation: turn,
  scale: fc.tuple(factor, factor, factor),
});
/** Random trees up to six deep; two nodes may share one mesh. */
export const tree = fc
  .array(fc.record({ transform, parent: fc.nat(), mesh: fc.constantFrom(0, 0, 1, null) }), {
    minLength: 1,
    maxLength: 6,
  })
  .map((specs): Scene => ({
    ...sceneOf(boxMesh([1, 0.5, 0.25])),
    meshes: [
      { name: 'a', mesh: { ...boxMesh([1, 0.5, 0.25]), normals: undefined } },
      { name: 'b', mesh: boxMesh([0.3, 1, 1], [1, 2, 3]) },
    ],
    nodes: [
      { ...plainNode('first', 0), ...specs[0]!.transform },
      ...specs.map(({ transform: t, parent, mesh }, i) => ({
        ...plainNode(`n${i}`, mesh, parent % (i + 1)),
        ...t,
      })),
    ],
  }));
