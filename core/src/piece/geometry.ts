import {
  baseCentreOf,
  type Bounds,
  centreOf,
  composeMatrix,
  type Matrix,
  multiplyMatrices,
  scaled,
  scalingMatrix,
  type Transform,
  type Vec3,
} from '../math/index.js';
import { joinMeshes, type Mesh, transformMesh } from '../mesh/index.js';
import { metresPerUnit, type PieceDocument, type PivotAnchor } from './document.js';

/** World matrix of every node, in their order; `scale` turns the file's unit into metres. Parents come first. */
export function worldMatrices(
  nodes: readonly (Transform & { parent: number | null })[],
  scale = 1,
): Matrix[] {
  const world: Matrix[] = [];
  for (const node of nodes) {
    const outer = node.parent === null ? scalingMatrix(scale) : world[node.parent]!;
    world.push(multiplyMatrices(outer, composeMatrix(node)));
  }
  return world;
}

/**
 * The whole art as one mesh where it stands, in metres: every node's transform is baked into the
 * vertices, mirrored faces are turned.
 */
export function artMesh(document: PieceDocument, meshOf: (blob: string) => Mesh): Mesh {
  const world = worldMatrices(document.nodes, metresPerUnit(document));
  const placed: Mesh[] = [];
  document.nodes.forEach((node, i) => {
    if (node.mesh !== null) placed.push(transformMesh(meshOf(node.mesh), world[i]!));
  });
  return joinMeshes(placed);
}

/** Bounds of the art as it stands, in metres. */
export function artBounds(document: PieceDocument): Bounds {
  const metres = metresPerUnit(document);
  return { min: scaled(document.whole.min, metres), max: scaled(document.whole.max, metres) };
}

/**
 * Where an anchor puts the pivot, in metres in the piece's space. "numeric" has no place of its own
 * and stays where the pivot is.
 */
export function pivotPlace(document: PieceDocument, anchor: PivotAnchor): Vec3 {
  switch (anchor) {
    case 'base-centre':
      return baseCentreOf(artBounds(document));
    case 'centre':
      return centreOf(artBounds(document));
    case 'origin':
      return [0, 0, 0];
    case 'as-it-came':
      return pivotAsItCame(document);
    case 'numeric':
      return document.pivot.position;
  }
}

/** A single mesh brings its node's own origin; several only have the file's. */
function pivotAsItCame(document: PieceDocument): Vec3 {
  const bearing = document.nodes.flatMap((node, i) => (node.mesh === null ? [] : [i]));
  if (bearing.length !== 1) return [0, 0, 0];
  const m = worldMatrices(document.nodes, metresPerUnit(document))[bearing[0]!]!;
  return [m[12]!, m[13]!, m[14]!];
}
