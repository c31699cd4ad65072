import { coordinatesText, distance, subtract, type Vec3 } from '../../math/index.js';
import type { Expectation, ExpectedMesh, ExpectedShape } from '../expectation.js';
import type { Comparison, ReadBack } from './report.js';

/** Sizes and pivots agree within this many metres. */
export const LENGTH_TOLERANCE_METRES = 1e-4;
/** What a substituted shape may stand out or fall short, as a share of its diagonal. */
const SUBSTITUTION_TOLERANCE = 0.03;
/** Volumes agree within this share. */
export const VOLUME_TOLERANCE = 1e-3;

const metres = (v: Vec3) => `${v.map((x) => x.toFixed(4)).join(' × ')} m`;
const place = (v: Vec3) => `${coordinatesText(v, 4)} m`;
const near = (a: Vec3, b: Vec3) => distance(a, b) <= LENGTH_TOLERANCE_METRES;
const share = (a: number, b: number) => Math.abs(a - b) / Math.max(Math.abs(b), 1e-12);

type Say = (point: string, want: string, got: string, agrees?: boolean, announced?: boolean) => void;

/** What was drawn against what was read back, point by point: files, tree, meshes, materials, shapes, bodies. */
export function compareReadBack(expected: Expectation, found: ReadBack): Comparison {
  const points: Comparison = [];
  const say: Say = (point, want, got, agrees = want === got, announced = false) =>
    points.push({
      point,
      expected: want,
      found: got,
      agrees,
      ...(announced && !agrees ? { substituted: true } : {}),
    });
  say('files', [...expected.files].sort().join(', '), [...found.files].sort().join(', '));
  say('meshes', String(expected.meshes.length), String(found.meshes.length));
  say('shapes', String(expected.shapes.length), String(found.shapes.length));
  if (expected.groups.length || found.groups.length) {
    const named = (groups: Expectation['groups']) =>
      groups
        .map(({ name, parent }) => (parent === null ? name : `${parent} / ${name}`))
        .sort()
        .join(', ') || 'none';
    say('groups of the tree', named(expected.groups), named(found.groups));
  }
  for (const want of expected.meshes) compareMesh(want, expected.meshes.length > 1, found, say);
  compareShapes(expected.shapes, found, say);
  for (const want of expected.bodies) {
    const got = found.bodies.find(({ name }) => name === want.name);
    say(`${want.name}, role`, want.role, got?.role ?? 'static');
    if (want.kilograms === null) continue;
    const mass = got?.kilograms ?? null;
    say(
      `${want.name}, mass`,
      `${want.kilograms.toPrecision(4)} kg`,
      mass === null ? 'none' : `${mass.toPrecision(4)} kg`,
      mass !== null && share(mass, want.kilograms) <= VOLUME_TOLERANCE,
    );
  }
  return points;
}

function compareMesh(want: ExpectedMesh, several: boolean, found: ReadBack, say: Say): void {
  const of = several ? `${want.name}, ` : '';
  const mesh = found.meshes.find((candidate) => candidate.name === want.name);
  say(`${of}mesh name`, want.name, mesh?.name ?? 'not found');
  if (!mesh) return;
  const size = subtract(mesh.max, mesh.min);
  say(`${of}size`, metres(want.size), metres(size), near(want.size, size));
  say(`${of}pivot, from the lowest corner`, place(want.min), place(mesh.min), near(want.min, mesh.min));
  say(`${of}position`, place(want.position), place(mesh.position), near(want.position, mesh.position));
  const turn = want.rotation.reduce((sum, v, k) => sum + v * mesh.rotation[k]!, 0);
  say(`${of}rotation`, 'as planned', Math.abs(Math.abs(turn) - 1) < 1e-6 ? 'as planned' : 'another one');
  say(`${of}scale`, '1, 1, 1', mesh.scale.map((s) => Number(s.toFixed(6))).join(', '));
  // A piece that stands where it stood is turned on purpose; its rotation was compared.
  if (want.parent !== null || Math.abs(want.rotation[3]) > 1 - 1e-9)
    say(`${of}root rotation`, 'none', mesh.rotated ? 'left over' : 'none');
  if (want.parent !== null || mesh.parent !== null)
    say(`${of}parent`, want.parent ?? 'none', mesh.parent ?? 'none');
  if (want.triangles !== null) say(`${of}triangles`, String(want.triangles), String(mesh.triangles));
  if (want.slots)
    say(`${of}material slots`, want.slots.join(', ') || 'none', mesh.slots.join(', ') || 'none');
  if (want.uvSets !== null) say(`${of}UV sets`, String(want.uvSets), String(mesh.uvSets));
  const pictures = mesh.pictures.missing.length
    ? `${mesh.pictures.found}, missing ${mesh.pictures.missing.join(', ')}`
    : String(mesh.pictures.found);
  say(`${of}pictures`, String(want.pictures), pictures);
  if (mesh.madeUpBox) say(`${of}shapes`, 'none', 'one box round everything, made up', false);
}

/** Names are told apart within their owner, and solids of one node by their order. */
function compareShapes(expected: readonly ExpectedShape[], found: ReadBack, say: Say): void {
  const left = [...found.shapes];
  const several = new Map<string, number>();
  for (const { name } of expected) several.set(name, (several.get(name) ?? 0) + 1);
  const counted = new Map<string, number>();
  for (const want of expected) {
    const at = left.findIndex(({ name, owner }) => name === want.name && owner === want.owner);
    const any = at >= 0 ? at : left.findIndex(({ name }) => name === want.name);
    const n = (counted.get(want.name) ?? 0) + 1;
    counted.set(want.name, n);
    const label =
      several.get(want.name) === 1
        ? want.name
        : new Set(expected.filter(({ name }) => name === want.name).map(({ owner }) => owner)).size > 1
          ? `${want.owner} / ${want.name}`
          : `${want.name}, solid ${n}`;
    if (any < 0) {
      say(label, want.kind, 'not found');
      continue;
    }
    compareShape(label, want, left.splice(any, 1)[0]!, say);
  }
  for (const extra of left) say(extra.name, 'nothing', extra.kind, false);
}

function compareShape(label: string, want: ExpectedShape, got: ReadBack['shapes'][number], say: Say): void {
  const announced = want.kind !== want.deliveredAs && got.kind === want.deliveredAs;
  say(`${label}, kind`, want.kind, got.kind, want.kind === got.kind, announced);
  say(`${label}, owner`, want.owner, got.owner);
  const off = Math.max(distance(want.min, got.min), distance(want.max, got.max));
  say(
    `${label}, place and size`,
    metres(subtract(want.max, want.min)),
    metres(subtract(got.max, got.min)),
    off <= LENGTH_TOLERANCE_METRES,
    announced && off <= SUBSTITUTION_TOLERANCE * distance(want.min, want.max),
  );
  if (want.deliveredAs === 'surface')
    say(
      `${label}, facing`,
      `${want.facing.toPrecision(4)} m³`,
      `${got.facing.toPrecision(4)} m³`,
      share(got.facing, want.facing) <= VOLUME_TOLERANCE || Math.abs(got.facing - want.facing) < 1e-9,
      announced && Math.sign(got.facing) === Math.sign(want.facing),
    );
  else {
    const volumes = share(got.volume, want.volume) <= VOLUME_TOLERANCE;
    // What a surface is filled to has no volume of its own to agree with.
    const filled = want.kind === 'surface' && announced;
    if (!filled)
      say(`${label}, volume`, `${want.volume.toPrecision(5)} m³`, `${got.volume.toPrecision(5)} m³`, volumes);
  }
  if (want.surface !== null || got.surface !== null)
    say(`${label}, surface of contact`, want.surface ?? 'none', got.surface ?? 'none');
}

/** Nothing differs but what the target was known to substitute. */
export const agreesInAll = (comparison: Comparison): boolean =>
  comparison.every(({ agrees, substituted }) => agrees || substituted);

/** The points at which the target has something else, as was announced. */
export const substitutionsIn = (comparison: Comparison): Comparison =>
  comparison.filter(({ substituted }) => substituted);
