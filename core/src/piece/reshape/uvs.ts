import {
  measureUvs,
  type Mesh,
  projectedUvs,
  shareVertices,
  transformMesh,
  unwrap,
} from '../../mesh/index.js';
import { type OperationOf, type OutcomeOf, ReshapeError } from './operation.js';
import type { Reshaping } from './reshaping.js';

/** The set that light is baked by. */
const BAKED_SET = 1;

/** Change the mesh of each part named where it stands, then put it back into the part's own space. */
async function eachStanding(
  work: Reshaping,
  parts: readonly string[],
  change: (mesh: Mesh) => Mesh | Promise<Mesh>,
): Promise<number> {
  const chosen = work.parts(parts);
  const placed = work.placed();
  for (const node of chosen) {
    const standing = transformMesh(work.mesh(node), placed[node]!);
    work.setMesh(node, transformMesh(await change(standing), work.inverse(placed[node]!, node)));
  }
  return chosen.length;
}

/** UVs laid on at real size, measured where each part stands. */
export async function projectUvs(
  work: Reshaping,
  { parts, metresPerPicture, by, axis }: OperationOf<'project-uvs'>,
): Promise<OutcomeOf<'project-uvs'>> {
  const count = await eachStanding(work, parts, (mesh) => projectedUvs(mesh, metresPerPicture, { by, axis }));
  return { op: 'project-uvs', parts: count, metresPerPicture };
}

/** A set grown or shrunk about its origin until its density is the one that is wanted. */
export async function uvDensity(
  work: Reshaping,
  { parts, set, perMetre }: OperationOf<'uv-density'>,
): Promise<OutcomeOf<'uv-density'>> {
  let changed = 0;
  await eachStanding(work, parts, (mesh) => {
    const measure = measureUvs(mesh, set);
    if (!measure || !(measure.density > 0)) return mesh;
    changed++;
    const factor = perMetre / measure.density;
    return { ...mesh, uvs: mesh.uvs.map((uv, k) => (k === set ? uv.map((v) => v * factor) : uv)) };
  });
  if (changed === 0)
    throw new ReshapeError(`No part has UVs in set ${set + 1} that cover anything; project some first.`);
  return { op: 'uv-density', parts: changed, perMetre };
}

/** A second set for baked light. Parts that light is baked for each have a picture of their own. */
export async function unwrapParts(
  work: Reshaping,
  { parts, texelsPerMetre, paddingTexels }: OperationOf<'unwrap'>,
): Promise<OutcomeOf<'unwrap'>> {
  let islands = 0;
  let side = 0;
  const count = await eachStanding(work, parts, async (mesh) => {
    const options = { set: BAKED_SET, texelsPerUnit: texelsPerMetre, padding: paddingTexels };
    // A first set has to be there for a second one.
    const first = mesh.uvs.length ? mesh : projectedUvs(mesh, 1);
    const done = await unwrap(first, options);
    islands += done.islands;
    side = Math.max(side, done.side);
    return done.mesh;
  });
  return { op: 'unwrap', parts: count, islands, side };
}

/** One set goes; those after it move up. */
export function removeUvs(
  work: Reshaping,
  { parts, set }: OperationOf<'remove-uvs'>,
): OutcomeOf<'remove-uvs'> {
  let count = 0;
  for (const node of work.parts(parts)) {
    const mesh = work.mesh(node);
    if (!mesh.uvs[set]) continue;
    count++;
    work.setMesh(node, shareVertices({ ...mesh, uvs: mesh.uvs.filter((_, k) => k !== set) }));
  }
  if (count === 0) throw new ReshapeError(`No part has a UV set ${set + 1}.`);
  return { op: 'remove-uvs', parts: count, set };
}
