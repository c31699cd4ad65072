import { composeMatrix, decomposeMatrix, multiplyMatrices, scaled } from '../math/index.js';
import type { Mesh } from '../mesh/index.js';
import { metresPerUnit, type PieceDocument } from './document.js';
import type { Scene } from './scene.js';

/**
 * A piece as a scene in metres, its tree as it is, ready for any writer. Unit and growth go into places and
 * vertices, so that no scale comes onto a node; a turned piece turns its roots. What is set aside stays out.
 */
export function sceneOfPiece(
  document: PieceDocument,
  { meshOf, pictureOf }: { meshOf: (blob: string) => Mesh; pictureOf: (blob: string) => Uint8Array },
): Scene {
  const { placing } = document;
  const factor = metresPerUnit(document) * placing.factor;
  const ids = [
    ...new Set(document.nodes.flatMap(({ mesh, aside }) => (mesh === null || aside ? [] : [mesh]))),
  ];
  const outer = composeMatrix({ translation: placing.at, rotation: placing.turn, scale: [1, 1, 1] });
  const placed = placing.turn[3] !== 1 || placing.at.some((v) => v !== 0);
  return {
    unit: { metres: 1, stated: true },
    nodes: document.nodes.map(({ name, parent, translation, rotation, scale, mesh, aside }) => {
      const local = { translation: scaled(translation, factor), rotation, scale };
      const transform =
        parent === null && placed ? decomposeMatrix(multiplyMatrices(outer, composeMatrix(local))) : local;
      return { name, parent, mesh: mesh === null || aside ? null : ids.indexOf(mesh), ...transform };
    }),
    meshes: ids.map((id) => {
      const mesh = meshOf(id);
      return {
        name: document.meshes[id]!.name,
        mesh: factor === 1 ? mesh : { ...mesh, positions: mesh.positions.map((v) => v * factor) },
      };
    }),
    materials: document.materials,
    pictures: document.pictures.map(({ name, type, blob }) => ({ name, type, bytes: pictureOf(blob) })),
    leftOut: [],
    notes: [],
  };
}
