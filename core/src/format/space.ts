import * as z from 'zod';
import { type Quat, scaled, UNITS, type Vec3 } from '../math/index.js';
import { type Mesh, reversedFaces } from '../mesh/index.js';
import { type Collider, type Scene, unitNameSchema } from '../piece/index.js';

/** The space a target works in. */
export const spaceSchema = z.object({
  unit: unitNameSchema,
  up: z.enum(['y', 'z']),
  /** the axis that the front of a piece looks along, which is Z of ours */
  forward: z.enum(['+x', '-x', '+y', '-y', '+z', '-z']),
  handedness: z.enum(['left', 'right']),
});
export type Space = z.infer<typeof spaceSchema>;

/** Metres, Y up, right-handed: where everything is worked out. */
export const OUR_SPACE: Space = { unit: 'm', up: 'y', forward: '+z', handedness: 'right' };

/** How a file whose format states no space says it, as a remark that other readers pass over. */
const REMARK = /^# space: (\S+), (\S+) up, (\S+) forward, (\S+)-handed\s*$/;

export const spaceRemark = ({ unit, up, forward, handedness }: Space): string =>
  `# space: ${unit}, ${up} up, ${forward} forward, ${handedness}-handed`;

/** The space that a remark says; null for any other line. */
export function spaceFromRemark(line: string): Space | null {
  const [, unit, up, forward, handedness] = REMARK.exec(line) ?? [];
  return spaceSchema.safeParse({ unit, up, forward, handedness }).data ?? null;
}

const AXES = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] } as const satisfies Record<string, Vec3>;

function axisOf(forward: Space['forward']): Vec3 {
  const axis = AXES[forward[1] as 'x'];
  return forward[0] === '-' ? [0 - axis[0], 0 - axis[1], 0 - axis[2]] : [...axis];
}

/**
 * A right-handed space for a file whose format knows no other: importers of a left-handed target mirror its
 * forward axis.
 */
export const rightHanded = (space: Space): Space =>
  space.handedness === 'right'
    ? space
    : {
        ...space,
        handedness: 'right',
        forward: `${space.forward[0] === '+' ? '-' : '+'}${space.forward[1]}` as Space['forward'],
      };

/** Swaps and signs of axes: exact, without rounding. `[row][column]`, from one space's directions into another's. */
type AxisChange = [Vec3, Vec3, Vec3];

/** Our right, up and forward are -X, Y and Z; every space has those three somewhere. */
function fromOurs(space: Space): AxisChange {
  const up = AXES[space.up];
  const forward = axisOf(space.forward);
  const sign = space.handedness === 'right' ? 1 : -1;
  // Right is forward x up in a right-handed space, and the other way round in a left-handed one.
  const right: Vec3 = [
    sign * (forward[1] * up[2] - forward[2] * up[1]),
    sign * (forward[2] * up[0] - forward[0] * up[2]),
    sign * (forward[0] * up[1] - forward[1] * up[0]),
  ];
  const row = (k: 0 | 1 | 2): Vec3 => [0 - right[k], up[k], forward[k]];
  return [row(0), row(1), row(2)];
}

const transposed = (m: AxisChange): AxisChange =>
  [0, 1, 2].map((r) => [m[0][r]!, m[1][r]!, m[2][r]!]) as AxisChange;
const through = (m: AxisChange, v: Readonly<Vec3>): Vec3 =>
  m.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2] + 0) as Vec3;
const signOf = ([a, b, c]: AxisChange): number =>
  a[0] * (b[1] * c[2] - b[2] * c[1]) -
  a[1] * (b[0] * c[2] - b[2] * c[0]) +
  a[2] * (b[0] * c[1] - b[1] * c[0]);

/** A point in metres as a target sees it, in its unit and axes. */
export const seenIn = (space: Space, p: Readonly<Vec3>): Vec3 =>
  through(fromOurs(space), p).map((v) => v / UNITS[space.unit]) as Vec3;

/** A size, in the order of the target's axes and its unit. */
export const sizeIn = (space: Space, size: Readonly<Vec3>): Vec3 => seenIn(space, size).map(Math.abs) as Vec3;

/** A scene in metres, Y up, right-handed, as it stands in a target's space. */
export const sceneInto = (space: Space, scene: Scene): Scene =>
  changed(scene, fromOurs(space), 1 / UNITS[space.unit], UNITS[space.unit]);

/** A scene whose numbers are a target's, brought back to metres, Y up, right-handed. */
export const sceneFrom = (space: Space, scene: Scene): Scene =>
  changed(scene, transposed(fromOurs(space)), UNITS[space.unit], 1);

function changed(scene: Scene, axes: AxisChange, factor: number, metres: number): Scene {
  const mirrors = signOf(axes) < 0;
  const place = (v: Readonly<Vec3>): Vec3 => {
    const [x, y, z] = through(axes, v);
    return factor === 1 ? [x, y, z] : [x * factor, y * factor, z * factor];
  };
  const rotation = ([x, y, z, w]: Readonly<Quat>): Quat => {
    const turned = through(axes, [x, y, z]);
    return mirrors ? [0 - turned[0], 0 - turned[1], 0 - turned[2], w] : [...turned, w];
  };
  const scale = (v: Readonly<Vec3>): Vec3 => axes.map((row) => v[row.findIndex((x) => x !== 0)]!) as Vec3;
  const directions = <A extends Float32Array | Float64Array>(data: A, width: number, to: typeof place): A => {
    const out = data.slice() as A;
    for (let i = 0; i < data.length; i += width) out.set(to([data[i]!, data[i + 1]!, data[i + 2]!]), i);
    return out;
  };
  const turn = (v: Readonly<Vec3>): Vec3 => through(axes, v);
  const mesh = (each: Mesh): Mesh => ({
    ...each,
    positions: directions(each.positions, 3, place),
    ...(each.normals ? { normals: directions(each.normals, 3, turn) } : {}),
    ...(each.tangents ? { tangents: sided(directions(each.tangents, 4, turn), mirrors) } : {}),
    indices: mirrors ? reversedFaces(each.indices) : each.indices,
  });
  const collider = (geometry: Collider['geometry']): Collider['geometry'] => {
    if (geometry.kind === 'mesh') return geometry;
    const grown = Object.fromEntries(
      Object.entries(geometry).map(([key, value]) => [
        key,
        typeof value === 'number' ? value * factor : value,
      ]),
    ) as typeof geometry;
    return grown.kind === 'box' ? { ...grown, halfExtents: scaled(scale(grown.halfExtents), factor) } : grown;
  };
  return {
    ...scene,
    unit: { metres, stated: true },
    nodes: scene.nodes.map((node) => ({
      ...node,
      translation: place(node.translation),
      rotation: rotation(node.rotation),
      scale: scale(node.scale),
    })),
    meshes: scene.meshes.map(({ name, mesh: each }) => ({ name, mesh: mesh(each) })),
    ...(scene.colliders
      ? { colliders: scene.colliders.map((each) => ({ ...each, geometry: collider(each.geometry) })) }
      : {}),
  };
}

function sided(tangents: Float32Array, mirrors: boolean): Float32Array {
  if (mirrors) for (let i = 3; i < tangents.length; i += 4) tangents[i] = -tangents[i]!;
  return tangents;
}

/** A scene that its reader has brought to our axes, in metres. */
export const inMetres = (scene: Scene): Scene =>
  scene.unit.metres === 1
    ? scene
    : changed(scene, [[...AXES.x], [...AXES.y], [...AXES.z]], scene.unit.metres, 1);
