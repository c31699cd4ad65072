import {
  artBounds,
  checkRulesFor,
  defaultTarget,
  findingsOf,
  FIRST_RULES,
  type PieceDocument,
  piecesIn,
  sizeOf,
  type UnitName,
  UNITS,
} from '@yard-brace/core';
import { type Options, type Result, said, stops } from './result.js';
import { takeInFile } from './take-in-file.js';

export async function inspect(paths: readonly string[], options: Options): Promise<Result> {
  const { document } = await takeInFile(paths, options.unit);
  const findings = findingsOf(
    document,
    checkRulesFor(document, FIRST_RULES, defaultTarget(FIRST_RULES)),
  ).filter(({ step }) => ['intake', 'parts', 'size', 'pivot'].includes(step));
  return {
    json: {
      file: document.source.files[0]!.name,
      unit: document.unit,
      sizeMetres: sizeOf(artBounds(document)),
      sizeByUnit: sizesByUnit(document),
      triangles: document.whole.triangles,
      vertices: document.whole.vertices,
      parts: document.whole.shells,
      closed: document.whole.closed,
      surface: surfaceOf(document),
      uvSets: document.whole.uvSets,
      vertexColours: document.whole.colors,
      pieces: piecesIn(document).length,
      proxies: document.proxies.map(({ shape, part }) => ({
        kind: shape.kind,
        of: document.nodes.find((node) => node.id === part)?.name ?? null,
      })),
      setAside: document.nodes.filter((node) => node.aside).map((node) => node.name),
      tree: document.nodes.map(({ name, parent, mesh, translation, rotation, scale }) => ({
        name,
        parent,
        translation,
        rotation,
        scale,
        triangles: mesh === null ? 0 : document.meshes[mesh]!.facts.triangles,
      })),
      materials: document.materials,
      pictures: document.pictures.map((picture) => picture.name),
      leftOut: document.source.leftOut,
      faults: findings.map(said),
    },
    stopped: stops(findings),
  };
}

function surfaceOf({ whole }: PieceDocument) {
  const {
    openEdges,
    borders,
    nonManifoldEdges,
    flippedEdges,
    insideOutShells,
    doubledVertices,
    unusedVertices,
  } = whole;
  const { zeroAreaFaces, doubledFaces, hiddenFaces, speckFaces } = whole;
  return {
    ...{
      openEdges,
      borders,
      nonManifoldEdges,
      flippedEdges,
      insideOutShells,
      doubledVertices,
      unusedVertices,
    },
    ...{ zeroAreaFaces, doubledFaces, hiddenFaces, speckFaces },
  };
}

function sizesByUnit(document: PieceDocument): Record<string, number[]> {
  const size = sizeOf(document.whole);
  return Object.fromEntries(
    (Object.keys(UNITS) as UnitName[]).map((unit) => [unit, size.map((value) => value * UNITS[unit])]),
  );
}
