import { faceNeighbours, featureSides, markEdges, type Mesh } from '../../mesh/index.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';
import { marked } from './split.js';

const DEFAULT_DEGREES = 30;

/** Edges made hard or smooth; what was hard before, and normals beside, stay as they are. */
export function markEdgesOf(work: Reshaping, operation: OperationOf<'mark-edges'>): OutcomeOf<'mark-edges'> {
  let edges = 0;
  for (const { node, sides } of sidesNamed(work, operation)) {
    if (sides.length === 0) continue;
    edges += sides.length;
    work.setMesh(node, markEdges(work.mesh(node), sides, operation.as));
  }
  if (edges === 0) throw new ReshapeError('There is no edge of the kind; choose another, or other parts.');
  return { op: 'mark-edges', edges, as: operation.as };
}

function sidesNamed(
  work: Reshaping,
  { edges, where, parts = [], degrees = DEFAULT_DEGREES, faces = [] }: OperationOf<'mark-edges'>,
): { node: number; sides: ArrayLike<number> & Iterable<number> }[] {
  if (edges) return edges.map(({ part, sides }) => ({ node: work.number(part), sides }));
  if (where === 'outline')
    return marked(work, faces).map(({ node, marks }) => ({ node, sides: outlineOf(work.mesh(node), marks) }));
  const kinds = {
    angle: { angleRadians: (degrees * Math.PI) / 180 },
    materials: { materials: true },
    uvs: { uvs: true },
  };
  if (!where) throw new ReshapeError('No edges are chosen; follow one in the view first.');
  return work.parts(parts).map((node) => ({ node, sides: featureSides(work.mesh(node), kinds[where]) }));
}

/** The sides where chosen faces meet others, one an edge. */
function outlineOf(mesh: Mesh, chosen: Uint8Array): number[] {
  const neighbours = faceNeighbours(mesh);
  return [...neighbours.keys()].filter((side) => {
    const other = neighbours[side]!;
    return other >= 0 && chosen[(side / 3) | 0] === 1 && chosen[other] === 0;
  });
}
