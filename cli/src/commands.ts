import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  agreesInAll,
  applyEdit,
  artBounds,
  artMesh,
  assemble,
  checkRulesOf,
  compareReadBack,
  compareShapes,
  expectationOf,
  type Finding,
  findingsOf,
  type PieceDocument,
  piecesIn,
  pivotPlace,
  PREFIX_TAGS,
  profileById,
  readBack,
  sizeOf,
  type TargetProfile,
  type UnitName,
  UNITS,
  pivotEdit,
  replaceProxies,
  wrap,
} from '@yard-brace/core';
import { diskFile } from './files.js';
import { takeInFile } from './take-in-file.js';
import { UsageError } from './usage-error.js';

/** What a command says: the JSON line, and whether findings stop. */
export interface Result {
  json: Record<string, unknown>;
  stopped: boolean;
}

export type Options = Partial<Record<OptionName, string>> & { clearance?: string[] };
export type OptionName =
  | ('target' | 'proxies' | 'pivot' | 'name' | 'unit' | 'out' | 'weld' | 'remove' | 'normals' | 'reduce')
  | ('max-verts' | 'side' | 'max-shapes' | 'agent-detail' | 'rung' | 'no-primitives' | 'no-crossing')
  | ('kind' | 'per' | 'material' | 'targets' | 'area-material')
  | ('error' | 'part' | 'keep' | 'at' | 'by' | 'smallest' | 'longest' | 'fill-holes' | 'outward' | 'share');

const said = ({ id, step, severity, says }: Finding) => ({ id, step, severity, says });
const stops = (findings: readonly Finding[]) => findings.some((finding) => finding.severity === 'error');

export async function inspect(paths: readonly string[], options: Options): Promise<Result> {
  const { document } = await takeInFile(paths, options.unit);
  const findings = findingsOf(document, checkRulesOf(PREFIX_TAGS)).filter(({ step }) =>
    ['intake', 'parts', 'size', 'pivot'].includes(step),
  );
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

const PROXIES = {
  hull: { kind: 'hull', per: 'piece' },
  box: { kind: 'box', per: 'piece' },
  'hull-per-shell': { kind: 'hull', per: 'shell' },
  'box-per-shell': { kind: 'smallest-box', per: 'shell' },
} as const;
const PIVOTS = ['base-centre', 'centre', 'origin'] as const;

export async function deliver(paths: readonly string[], options: Options): Promise<Result> {
  const profile = profileFrom(options.target);
  const proxies = PROXIES[options.proxies as keyof typeof PROXIES];
  if (!proxies)
    throw new UsageError(
      `--proxies takes ${Object.keys(PROXIES).join(', ')}${options.proxies ? `, not “${options.proxies}”` : ''}.`,
    );
  const anchor = PIVOTS.find((pivot) => pivot === (options.pivot ?? 'base-centre'));
  if (!anchor) throw new UsageError(`--pivot takes ${PIVOTS.join(', ')}, not “${options.pivot}”.`);
  if (!options.out) throw new UsageError('--out names the folder for the files.');

  const { document: art, ...sources } = await takeInFile(paths, options.unit);
  if (!art.unit.confirmed)
    throw new UsageError(
      `${art.source.files[0]!.name} does not state its unit; say it with --unit (${art.unit.name} is likely).`,
    );
  const mesh = artMesh(art, sources.meshOf);
  let document = applyEdit(art, pivotEdit(anchor, pivotPlace(art, anchor)));
  const { shapes } = wrap(mesh, { ...proxies, maxCorners: profile.proxies.maxHullVertices });
  document = applyEdit(document, replaceProxies(shapes.map((shape, i) => ({ id: `shape-${i + 1}`, shape }))));
  if (options.name !== undefined) document = applyEdit(document, { kind: 'rename-mesh', name: options.name });

  const findings = findingsOf(document, checkRulesOf(profile));
  const json: Record<string, unknown> = {
    target: profile.id,
    mesh: document.meshName,
    findings: findings.map(said),
  };
  if (stops(findings)) return { json: { ...json, files: [] }, stopped: true };
  const files = await assemble(document, profile, sources);
  const expected = expectationOf(document, profile, sources.meshOf);
  const report = await readBack(files, profile);
  const comparison = compareReadBack(expected, report);
  await mkdir(options.out, { recursive: true });
  for (const { name, bytes } of files) await writeFile(join(options.out, name), bytes);
  return {
    json: {
      ...json,
      sizeMetres: expected.meshes[0]!.size,
      artStandsOutMetres: compareShapes(mesh, shapes).artOutside.max,
      pivotSatAt: document.pivot.position,
      shapes: expected.shapes.map(({ name, kind, volume }) => ({ name, kind, volume })),
      files: files.map(({ name, bytes }) => ({ name, bytes: bytes.length })),
      agreed: agreesInAll(comparison),
      differences: comparison.filter((point) => !point.agrees),
    },
    stopped: !agreesInAll(comparison),
  };
}

export async function readback(paths: readonly string[], options: Options): Promise<Result> {
  const profile = profileFrom(options.target);
  if (paths.length === 0) throw new UsageError('Name the delivered files.');
  const files = await Promise.all(paths.map(diskFile));
  const report = await readBack(
    await Promise.all(files.map(async (file) => ({ name: file.name, bytes: await file.bytes() }))),
    profile,
  );
  if (report.meshes.length + report.shapes.length + report.ignored.length === 0)
    throw new UsageError('None of the files is a model.');
  return { json: report, stopped: report.ignored.length + report.changed.length > 0 };
}

export function profileFrom(id: string | undefined): TargetProfile {
  const profile = id && profileById(id);
  if (!profile) throw new UsageError(`--target takes ${PREFIX_TAGS.id}${id ? `, not “${id}”` : ''}.`);
  return profile;
}
