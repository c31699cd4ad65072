import { basename, dirname, join } from 'node:path';
import {
  agreesInAll,
  applyEdit,
  artBounds,
  artMesh,
  boundsOf,
  checkRulesFor,
  compareReadBack,
  compareShapes,
  decompose,
  type DeliveryChoices,
  expectationOfPlan,
  extensionOf,
  type Finding,
  findingsOf,
  FIRST_RULES,
  inMetres,
  type InputFile,
  issueSentence,
  legalName,
  lossesOf,
  lossText,
  type Manifest,
  MANIFEST_VERSION,
  manifestSchema,
  type Mesh,
  nameFault,
  type NamePattern,
  namePattern,
  nameRulesOf,
  PatternError,
  type PieceDocument,
  piecesIn,
  pivotEdit,
  pivotPlace,
  planToDeliver,
  proxiesAsDelivered,
  putTogether,
  PutTogetherError,
  readBack,
  readFile,
  replaceProxies,
  rungWithin,
  type Scene,
  type Shape,
  sizeOf,
  type TargetProfile,
  type UnitName,
  UNITS,
  wholeMesh,
  wrap,
  WRITTEN_FORMATS,
  writePlan,
  writeScene,
  type YardRules,
} from '@yard-brace/core';
import { clearanceOf } from './convex-commands.js';
import { choicesFrom, profilesFrom, rulesFrom } from './given-rules.js';
import { diskFile, writeFiles } from './files.js';
import { takeInFile } from './take-in-file.js';
import { UsageError } from './usage-error.js';

/** What a command says: the JSON line, and whether findings stop. */
export interface Result {
  json: Record<string, unknown>;
  stopped: boolean;
}

export type Options = Partial<Record<Exclude<OptionName, 'target'>, string>> & {
  clearance?: string[];
  target?: string[];
};
export type OptionName =
  | ('target' | 'proxies' | 'pivot' | 'name' | 'unit' | 'out' | 'weld' | 'remove' | 'normals' | 'reduce')
  | ('max-verts' | 'side' | 'max-shapes' | 'agent-detail' | 'rung' | 'no-primitives' | 'no-crossing')
  | ('rules' | 'preset' | 'container' | 'files' | 'pattern')
  | ('kind' | 'per' | 'material' | 'targets' | 'area-material')
  | ('error' | 'part' | 'keep' | 'at' | 'by' | 'smallest' | 'longest' | 'fill-holes' | 'outward' | 'share');

const said = ({ id, step, severity, says }: Finding) => ({ id, step, severity, says });
const stops = (findings: readonly Finding[]) => findings.some((finding) => finding.severity === 'error');

export async function inspect(paths: readonly string[], options: Options): Promise<Result> {
  const { document } = await takeInFile(paths, options.unit);
  const findings = findingsOf(document, checkRulesFor(document, FIRST_RULES)).filter(({ step }) =>
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
  own: null,
  none: null,
  hull: { kind: 'hull', per: 'piece' },
  box: { kind: 'box', per: 'piece' },
  'hull-per-shell': { kind: 'hull', per: 'shell' },
  'box-per-shell': { kind: 'smallest-box', per: 'shell' },
} as const;
const PIVOTS = ['base-centre', 'centre', 'origin'] as const;

/** How shapes come: the file's own where it has some, wrapped, or by the ladder. */
type ProxiesAsked = keyof typeof PROXIES | 'ladder';

function proxiesAsked(options: Options): ProxiesAsked {
  const asked = options.proxies ?? 'own';
  if (asked === 'ladder' || asked in PROXIES) return asked as ProxiesAsked;
  throw new UsageError(`--proxies takes ${[...Object.keys(PROXIES), 'ladder'].join(', ')}, not “${asked}”.`);
}

/** The piece with its shapes: the file's own are kept unless others are asked for. */
async function withProxies(
  art: PieceDocument,
  mesh: Mesh,
  profile: TargetProfile,
  options: Options,
): Promise<PieceDocument> {
  const asked = proxiesAsked(options);
  if (asked === 'own') {
    if (!art.proxies.length)
      throw new UsageError(
        `${art.source.files[0]!.name} brings no shapes of its own; say with --proxies how they are made, or none.`,
      );
    return art;
  }
  const shapes = asked === 'none' ? [] : await shapesOf(asked, mesh, profile, options);
  return applyEdit(art, replaceProxies(shapes.map((shape, i) => ({ id: `shape-${i + 1}`, shape }))));
}

async function shapesOf(
  asked: Exclude<ProxiesAsked, 'own' | 'none'>,
  mesh: Mesh,
  profile: TargetProfile,
  options: Options,
): Promise<Shape[]> {
  const { maxHullVertices } = profile.solids;
  if (asked !== 'ladder') return wrap(mesh, { ...PROXIES[asked]!, maxCorners: maxHullVertices }).shapes;
  const maxShapes = Number(options['max-shapes'] ?? 16);
  if (!Number.isInteger(maxShapes) || maxShapes < 1 || maxShapes > 64)
    throw new UsageError(`--max-shapes takes 1 to 64, not “${options['max-shapes']}”.`);
  const detail = Number(options['agent-detail'] ?? 0);
  if (!(detail >= 0))
    throw new UsageError(`--agent-detail takes a length of 0 or more, not “${options['agent-detail']}”.`);
  const ladder = await decompose(mesh, {
    maxShapes,
    maxVertices: Math.min(32, maxHullVertices),
    agentDetail: detail,
    clearances: (options.clearance ?? []).map(clearanceOf),
    kinds: profile.kinds.known,
  });
  const good = ladder.goodEnough === null ? rungWithin(ladder, maxShapes) : ladder.rungs[ladder.goodEnough]!;
  return good?.shapes ?? [];
}

export async function deliver(paths: readonly string[], options: Options): Promise<Result> {
  const rules = await rulesFrom(options.rules);
  const profiles = profilesFrom(options.target, rules);
  const anchor = PIVOTS.find((pivot) => pivot === (options.pivot ?? 'base-centre'));
  if (!anchor) throw new UsageError(`--pivot takes ${PIVOTS.join(', ')}, not “${options.pivot}”.`);
  if (!options.out) throw new UsageError('--out names the folder for the files.');
  proxiesAsked(options);

  const { document: art, ...sources } = await takeInFile(paths, options.unit);
  if (!art.unit.confirmed)
    throw new UsageError(
      `${art.source.files[0]!.name} does not state its unit; say it with --unit (${art.unit.name} is likely).`,
    );
  const mesh = artMesh(art, sources.meshOf);
  const placed = applyEdit(art, pivotEdit(anchor, pivotPlace(art, anchor)));
  const deliveries = [];
  for (const profile of profiles) {
    let document = await withProxies(placed, mesh, profile, options);
    if (options.name !== undefined)
      document = applyEdit(document, { kind: 'rename-mesh', name: options.name });
    const choices = choicesFrom(options, rules, profile);
    const out = profiles.length > 1 ? join(options.out, profile.id) : options.out;
    deliveries.push(await deliverFor(document, { profile, rules, choices, mesh, sources, out }));
  }
  const [only] = deliveries;
  return {
    json: deliveries.length === 1 ? only!.json : { deliveries: deliveries.map(({ json }) => json) },
    stopped: deliveries.some(({ stopped }) => stopped),
  };
}

interface DeliverFor {
  profile: TargetProfile;
  rules: YardRules;
  choices: DeliveryChoices;
  mesh: Mesh;
  sources: { meshOf: (blob: string) => Mesh; pictureOf: (blob: string) => Uint8Array };
  out: string;
}

async function deliverFor(
  document: PieceDocument,
  { profile, rules, choices, mesh, sources, out }: DeliverFor,
): Promise<Result> {
  const findings = findingsOf(document, checkRulesFor(document, rules, profile));
  const json: Record<string, unknown> = {
    target: profile.id,
    mesh: document.meshName,
    findings: findings.map(said),
  };
  if (stops(findings)) return { json: { ...json, files: [] }, stopped: true };
  const plan = await planToDeliver(document, profile, choices, rules.surfaces);
  const files = await writePlan(plan, sources, rules.folders);
  const expected = expectationOfPlan(plan, sources.meshOf);
  const comparison = compareReadBack(expected, await readBack(files, profile));
  await writeFiles(out, files);
  const shapes = proxiesAsDelivered(profile, document.proxies).map(({ shape }) => shape);
  return {
    json: {
      ...json,
      sizeMetres: expected.meshes[0]!.size,
      artStandsOutMetres: shapes.length ? compareShapes(mesh, shapes).artOutside.max : null,
      pivotSatAt: document.pivot.position,
      shapes: expected.shapes.map(({ name, owner, kind, deliveredAs, volume }) => ({
        name,
        owner,
        kind,
        deliveredAs,
        volume,
      })),
      files: files.map(({ name, bytes }) => ({ name, bytes: bytes.length })),
      dropped: lossesOf(plan).map(lossText),
      agreed: agreesInAll(comparison),
      differences: comparison.filter((point) => !point.agrees),
    },
    stopped: !agreesInAll(comparison),
  };
}

export async function readback(paths: readonly string[], options: Options): Promise<Result> {
  const [profile] = profilesFrom(options.target, await rulesFrom(options.rules)) as [TargetProfile];
  if (paths.length === 0) throw new UsageError('Name the delivered files.');
  const files = await Promise.all(paths.map(diskFile));
  const report = await readBack(
    await Promise.all(files.map(async (file) => ({ name: file.name, bytes: await file.bytes() }))),
    profile,
  );
  if (report.meshes.length + report.shapes.length + report.ignored.length === 0)
    throw new UsageError('None of the files is a model.');
  const shapes = report.shapes.map(({ triangles: _triangles, ...shape }) => shape);
  return { json: { ...report, shapes }, stopped: report.ignored.length + report.changed.length > 0 };
}

/** The whole piece again from a delivery: the manifest first, its files beside it or named after it. */
export async function assemble(paths: readonly string[], options: Options): Promise<Result> {
  const [path, ...named] = paths;
  if (!path) throw new UsageError('Name the manifest of a delivery.');
  if (!options.out) throw new UsageError('--out names the file to write.');
  const manifest = await manifestFrom(path);
  const folder = dirname(path);
  const known = await Promise.all(
    [...named, ...manifest.files.map(({ name }) => join(folder, name))].map(foundFile),
  );
  const inputs = known.filter((file) => file !== null);
  const models = new Map<string, Scene>();
  for (const { file } of manifest.meshes) {
    const input = inputs.find(({ name }) => name === file);
    if (input && !models.has(file)) models.set(file, inMetres(await readFile(input, inputs)));
  }
  try {
    return await writeWhole(putTogether(manifest, models), options.out);
  } catch (error) {
    if (error instanceof PutTogetherError) throw new UsageError(error.message);
    throw error;
  }
}

async function manifestFrom(path: string): Promise<Manifest> {
  const file = await diskFile(path);
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder().decode(await file.bytes()));
  } catch {
    throw new UsageError(`${file.name} is no JSON; name the manifest of a delivery.`);
  }
  const version = (value as { manifest?: unknown } | null)?.manifest;
  if (typeof version === 'number' && version > MANIFEST_VERSION)
    throw new UsageError(
      `${file.name} is a manifest of version ${version}, and this program knows ${MANIFEST_VERSION}; use a newer one.`,
    );
  const read = manifestSchema.safeParse(value);
  if (read.success) return read.data;
  throw new UsageError(`${file.name} is no manifest of a delivery: ${issueSentence(read.error.issues[0]!)}`);
}

const foundFile = (path: string): Promise<InputFile | null> => diskFile(path).catch(() => null);

async function writeWhole(scene: Scene, out: string): Promise<Result> {
  const format = WRITTEN_FORMATS.find((each) => each === extensionOf(out));
  if (!format)
    throw new UsageError(`--out takes a file ending in ${WRITTEN_FORMATS.join(', ')}, not “${out}”.`);
  const files = await writeScene(scene, format, basename(out).replace(/\.[^.]*$/, ''));
  await writeFiles(dirname(out), files);
  return {
    json: {
      meshes: scene.nodes.map(({ name }) => name),
      sizeMetres: sizeOf(boundsOf(wholeMesh(scene).positions)),
      files: files.map(({ name, bytes }) => ({ name, bytes: bytes.length })),
    },
    stopped: false,
  };
}

/** Names as a target takes them, or as a pattern makes them. */
export async function names(given: readonly string[], options: Options): Promise<Result> {
  const rules = await rulesFrom(options.rules);
  const [profile] = profilesFrom(options.target, rules) as [TargetProfile];
  if (!given.length) throw new UsageError('Name what is to be checked.');
  const pattern = options.pattern === undefined ? null : patternFrom(options.pattern);
  const checked = given.map((name) => {
    const fault = nameFault(name, nameRulesOf(profile));
    return {
      name,
      fault,
      ...(fault ? { legal: legalName(name, nameRulesOf(profile)) } : {}),
      ...(pattern ? { fields: pattern.parse(name) } : {}),
    };
  });
  return {
    json: { target: profile.id, names: checked },
    stopped: checked.some(({ fault, fields }) => fault !== null || fields === null),
  };
}

function patternFrom(text: string): NamePattern {
  try {
    return namePattern(text);
  } catch (error) {
    if (error instanceof PatternError) throw new UsageError(`--pattern: ${error.message}`);
    throw error;
  }
}
