import {
  type Agent,
  type Clearance,
  type CollisionShape,
  collisionShapes,
  joinMeshes,
  judgeShape,
  meantOpenings,
  plainMesh,
  type Shape,
  type UnitName,
  UNITS,
  walkPassed,
  type YardRules,
} from '@yard-brace/core';
import type { TrialShape } from '@yard-brace/trial';
import { clearanceOf, type Part, partsAndUnit, shapeOf, timed } from './convex-commands.js';
import { profilesFrom, rulesFrom } from './given-rules.js';
import type { Options, Result } from './result.js';
import { UsageError } from './usage-error.js';

/** Agents sent at a set of proxies from all sides. Stops when one does not get through everything. */
export async function trial(paths: readonly string[], options: Options): Promise<Result> {
  const { parts, proxies } = await inMetres(paths, options);
  const rules = await rulesFrom(options.rules);
  const agent = agentOf(options.agent, rules);
  const shapes = await asTheyCollide(proxies, options, rules);
  const art = joinMeshes(parts.map(({ mesh }) => plainMesh(mesh.positions, mesh.indices)));
  const asked = (options.clearance ?? []).map((text) => clearanceOf(text) as Extract<Shape, { kind: 'box' }>);
  const clearances = asked.length
    ? asked.map((box, i) => ({
        ...box,
        id: '',
        name: `clearance ${i + 1}`,
        through: thinSide(box.halfExtents),
      }))
    : meantOpenings(art, agent);
  // Only who tries something waits until the physics are loaded.
  const { walkTrial } = await import('@yard-brace/trial');
  const { ms, result } = await timed(() =>
    walkTrial({ shapes, art, clearances: clearances as Clearance[], agent, limits: rules.trials }),
  );
  const passes = walkPassed({ ...result, key: '' });
  return { json: { ...result, agent: agent.name, passes, ms }, stopped: !passes };
}

/** Both files in metres: in the unit that they state, or in that of the art, or in the one that was given. */
async function inMetres(
  paths: readonly string[],
  { unit }: Options,
): Promise<{ parts: Part[]; proxies: Part[] }> {
  if (unit !== undefined && !(unit in UNITS))
    throw new UsageError(`--unit takes ${Object.keys(UNITS).join(', ')}, not “${unit}”.`);
  const given = unit === undefined ? null : UNITS[unit as UnitName];
  const art = await partsAndUnit(paths[0], 'the file with the art');
  const set = await partsAndUnit(paths[1], 'the art and the file with the proxies');
  const metres = given ?? art.metres ?? 1;
  return {
    parts: scaledParts(art.parts, metres),
    proxies: scaledParts(set.parts, given ?? set.metres ?? metres),
  };
}

const scaledParts = (parts: readonly Part[], metres: number): Part[] =>
  metres === 1
    ? [...parts]
    : parts.map(({ name, mesh }) => ({
        name,
        mesh: { ...mesh, positions: mesh.positions.map((v) => v * metres) },
      }));

function agentOf(name: string | undefined, { agents }: YardRules): Agent {
  const found = agents.find((agent) => agent.name === name || agent.id === name);
  if (found) return found;
  const names = agents.map((agent) => `“${agent.name}”`).join(', ');
  throw new UsageError(
    name === undefined ? `Say with --agent who walks: ${names}.` : `--agent takes ${names}, not “${name}”.`,
  );
}

const thinSide = ([x, , z]: readonly number[]): 'x' | 'z' => (x! < z! ? 'x' : 'z');

/** Convex meshes collide as solids, others as their triangles; as a target gets them, where one is named. */
async function asTheyCollide(
  proxies: readonly Part[],
  options: Options,
  rules: YardRules,
): Promise<TrialShape[]> {
  const drawn = proxies.map(({ mesh }): Shape =>
    judgeShape(mesh).convex
      ? shapeOf(mesh)
      : { kind: 'surface', points: [...mesh.positions], indices: [...mesh.indices] },
  );
  const [profile] = options.target ? profilesFrom(options.target, rules) : [];
  const colliders: CollisionShape[][] = profile
    ? await collisionShapes(profile, drawn)
    : drawn.map((shape) => [shape]);
  return proxies.map(({ name }, i) => ({ id: name, colliders: colliders[i]! }));
}
