import { coordinatesText, distance, subtract, type Vec3 } from '../../math/index.js';
import type { Expectation } from '../expectation.js';
import type { Comparison, ReadBack } from './report.js';

/** Sizes and pivots agree within this many metres. */
export const LENGTH_TOLERANCE_METRES = 1e-4;
/** What a substituted shape may stand out or fall short, as a share of its diagonal. */
const SUBSTITUTION_TOLERANCE = 0.01;
/** Volumes agree within this share. */
export const VOLUME_TOLERANCE = 1e-3;

const metres = (v: Vec3) => `${v.map((x) => x.toFixed(4)).join(' × ')} m`;
const place = (v: Vec3) => `${coordinatesText(v, 4)} m`;

/** What was drawn against what was read back: count, names, owners, kinds, sizes, pivots, volumes. */
export function compareReadBack(expected: Expectation, found: ReadBack): Comparison {
  const points: Comparison = [];
  const say = (point: string, want: string, got: string, agrees = want === got, announced = false) =>
    points.push({
      point,
      expected: want,
      found: got,
      agrees,
      ...(announced && !agrees ? { substituted: true } : {}),
    });
  say('meshes', String(expected.meshes.length), String(found.meshes.length));
  say('shapes', String(expected.shapes.length), String(found.shapes.length));
  for (const want of expected.meshes) {
    const of = expected.meshes.length > 1 ? `${want.name}, ` : '';
    const mesh = found.meshes.find((candidate) => candidate.name === want.name);
    say(`${of}mesh name`, want.name, mesh?.name ?? 'not found');
    if (!mesh) continue;
    const size = subtract(mesh.max, mesh.min);
    const near = (a: Vec3, b: Vec3) => distance(a, b) <= LENGTH_TOLERANCE_METRES;
    say(`${of}size`, metres(want.size), metres(size), near(want.size, size));
    say(`${of}pivot, from the lowest corner`, place(want.min), place(mesh.min), near(want.min, mesh.min));
    say(`${of}position`, place([0, 0, 0]), place(mesh.position), near([0, 0, 0], mesh.position));
    say(`${of}scale`, '1, 1, 1', mesh.scale.map((s) => Number(s.toFixed(6))).join(', '));
    say(`${of}root rotation`, 'none', mesh.rotated ? 'left over' : 'none');
    if (mesh.madeUpBox) say(`${of}shapes`, 'as drawn', 'one box round everything, made up', false);
  }
  for (const want of expected.shapes) {
    const got = found.shapes.find((shape) => shape.name === want.name);
    if (!got) {
      say(want.name, want.kind, 'not found');
      continue;
    }
    const substituted = want.kind !== want.deliveredAs && got.kind === want.deliveredAs;
    say(`${want.name}, kind`, want.kind, got.kind, want.kind === got.kind, substituted);
    say(`${want.name}, owner`, want.owner, got.owner);
    const off = Math.max(distance(want.min, got.min), distance(want.max, got.max));
    say(
      `${want.name}, place and size`,
      metres(subtract(want.max, want.min)),
      metres(subtract(got.max, got.min)),
      off <= LENGTH_TOLERANCE_METRES,
      substituted && off <= SUBSTITUTION_TOLERANCE * distance(want.min, want.max),
    );
    const share = Math.abs(got.volume - want.volume) / Math.max(want.volume, Number.MIN_VALUE);
    say(
      `${want.name}, volume`,
      `${want.volume.toPrecision(5)} m³`,
      `${got.volume.toPrecision(5)} m³`,
      share <= VOLUME_TOLERANCE,
    );
  }
  for (const extra of found.shapes) {
    if (!expected.shapes.some((shape) => shape.name === extra.name))
      say(extra.name, 'nothing', extra.kind, false);
  }
  return points;
}

/** Nothing differs but what the target was known to substitute. */
export const agreesInAll = (comparison: Comparison): boolean =>
  comparison.every(({ agrees, substituted }) => agrees || substituted);

/** The points at which the target has something else, as was announced. */
export const substitutionsIn = (comparison: Comparison): Comparison =>
  comparison.filter(({ substituted }) => substituted);
