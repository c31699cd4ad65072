import { multiplyQuats, rotate, type Vec3 } from '../../math/index.js';
import { moveShape, scaleShape, turnShape } from '../../shape/index.js';
import type { PieceDocument } from '../document.js';
import type { Pivot } from '../pivot.js';
import { withoutLink } from '../linked-shapes.js';
import { type Change, changedPlacing, changedPoint } from '../placing.js';
import { eachSet } from './change-sets.js';

/** The piece grown and turned about a point, with everything that has a place in it. */
export function grownAndTurned(document: PieceDocument, change: Change): PieceDocument {
  const { factor, turn } = change;
  const pivot = (old: Pivot): Pivot => ({
    ...old,
    position: changedPoint(old.position, change),
    rotation: multiplyQuats(turn, old.rotation),
    ...(old.hinge
      ? {
          hinge: {
            ...old.hinge,
            axis: rotate(turn, old.hinge.axis),
            ...(old.hinge.slides ? { slides: grownEnds(old.hinge.slides, factor) } : {}),
          },
        }
      : {}),
  });
  return {
    ...document,
    placing: changedPlacing(document.placing, change),
    pivot: pivot(document.pivot),
    presentation: document.presentation && pivot(document.presentation),
    familyFeature: document.familyFeature && changedPoint(document.familyFeature, change),
    nodes: document.nodes.map((node) => (node.pivot ? { ...node, pivot: pivot(node.pivot) } : node)),
    clearances: document.clearances.map((clearance) => ({
      ...clearance,
      center: changedPoint(clearance.center, change),
      halfExtents: clearance.halfExtents.map((half) => half * factor) as typeof clearance.halfExtents,
      rotation: multiplyQuats(turn, clearance.rotation),
    })),
    riddenEdges: document.riddenEdges.map((edge) => ({
      ...edge,
      line: edge.line.map((place) => changedPoint(place, change)),
      sides: edge.sides.map(([a, b]): [Vec3, Vec3] => [rotate(turn, a), rotate(turn, b)]),
    })),
    ...eachSet(document, (proxies) =>
      proxies.map((proxy) => {
        const turned = turnShape(scaleShape(proxy.shape, factor), turn);
        // p -> about + turn(factor (p - about)): what is left after growing and turning about the origin.
        // Their places to each other are no longer what they were linked by.
        return {
          ...withoutLink(proxy),
          ...(proxy.acceptedExcess ? { acceptedExcess: proxy.acceptedExcess * factor } : {}),
          shape: moveShape(turned, changedPoint([0, 0, 0], change)),
        };
      }),
    ),
  };
}

const grownEnds = ([from, to]: readonly [number, number], factor: number): [number, number] => [
  from * factor,
  to * factor,
];
