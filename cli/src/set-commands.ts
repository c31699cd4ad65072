import {
  asDelivered,
  Comparer,
  type FaceGroups,
  joinMeshes,
  judgeSet,
  plainMesh,
  profileById,
  type Shape,
  speckless,
  cornersOfFaces,
  PROFILES,
  WRAP_KINDS,
  wrap as wrapMesh,
  type WrapKind,
} from '@yard-brace/core';
import type { Options, Result } from './result.js';
import {
  clearanceOf,
  type Part,
  partsOf,
  shapeOf,
  timed,
  wholeNumber,
  writeShapes,
} from './convex-commands.js';
import { UsageError } from './usage-error.js';

const KINDS = ['suggested', ...WRAP_KINDS] as const;
const PERS = ['piece', 'part', 'shell'] as const;

function oneOf<T extends string>(options: Options, name: keyof Options, all: readonly T[], otherwise: T): T {
  const text = options[name] as string | undefined;
  if (text === undefined) return otherwise;
  const found = all.find((each) => each === text);
  if (!found) throw new UsageError(`--${name} takes ${all.join(', ')}, not “${text}”.`);
  return found;
}

/** A length of 0 or more, in the unit of the file. */
export function lengthOf(options: Options, name: keyof Options, otherwise: number): number {
  const value = Number(options[name] ?? otherwise);
  if (!(value >= 0)) throw new UsageError(`--${name} takes a length of 0 or more, not “${options[name]}”.`);
  return value;
}

/** Shapes of any kind round a file, each of its parts or shells, or what one material covers of it. */
export async function wrap(paths: readonly string[], options: Options): Promise<Result> {
  const parts = await partsOf(paths[0], 'a file', options.material as string | undefined);
  const kind = oneOf<WrapKind | 'suggested'>(options, 'kind', KINDS, 'suggested');
  const per = oneOf(options, 'per', PERS, 'piece');
  const maxCorners = wholeNumber(options, 'max-verts', 4, 32);
  const mesh = joinMeshes(parts.map((part) => plainMesh(part.mesh.positions, part.mesh.indices)));
  const { ms, result } = await timed(() =>
    wrapMesh(mesh, { kind, per: per === 'part' ? partGroups(parts) : per, maxCorners }),
  );
  await writeShapes(options.out as string | undefined, result.shapes, maxCorners);
  const comparer = new Comparer(mesh);
  return {
    json: {
      shapes: result.shapes.map((shape, i) => ({ kind: shape.kind, part: partOf(parts, result.faces[i]!) })),
      ...comparer.compare(result.shapes),
      ms,
    },
    stopped: false,
  };
}

/** Faces of joined parts by the part that each is of. */
function partGroups(parts: readonly Part[]): FaceGroups {
  const counts = parts.map(({ mesh }) => mesh.indices.length / 3);
  const ofFace = new Uint32Array(counts.reduce((sum, count) => sum + count, 0));
  let at = 0;
  counts.forEach((count, i) => {
    ofFace.fill(i, at, at + count);
    at += count;
  });
  return { count: parts.length, ofFace };
}

function partOf(parts: readonly Part[], face: number): string {
  let left = face;
  for (const { name, mesh } of parts) {
    if (left < mesh.indices.length / 3) return name;
    left -= mesh.indices.length / 3;
  }
  return '';
}

/**
 * A set of proxies judged against its art, as on the bench: figures, each shape, each part, pairs that cross, bare areas
 * and blocked openings. Something that is felt, or an opening that is blocked, stops.
 */
export async function judgeAgainstArt(paths: readonly string[], options: Options): Promise<Result> {
  const parts = await partsOf(paths[1], 'the file with the art');
  const proxies = await partsOf(paths[0], 'the proxies and the art');
  const all = joinMeshes(parts.map(({ mesh }) => plainMesh(mesh.positions, mesh.indices)));
  const { kept } = speckless(all);
  const art = plainMesh(all.positions, cornersOfFaces(all, kept));
  const felt = lengthOf(options, 'agent-detail', 0);
  const openings = ((options.clearance as string[] | undefined) ?? []).map((text, i) => ({
    id: `clearance ${i + 1}`,
    shape: clearanceOf(text),
  }));
  const { ms, result } = await timed(() =>
    judgeSet(new Comparer(art), {
      members: proxies.map(({ name, mesh }) => ({ id: name, owner: null, shape: shapeOf(mesh) })),
      openings,
      partOfFace: (face) => partOf(parts, kept[face]!),
      toleranceMetres: felt,
    }),
  );
  const { figures, ...rest } = result;
  const off = Math.max(figures.artOutside.max, figures.proxyOutside.max);
  return {
    json: { ...figures, ...rest, ms },
    stopped: result.blocked.length > 0 || (felt > 0 && off > felt),
  };
}

/** How a set lies to its art as each target gets it: kinds that it does not know are what takes their place. */
export function perTarget(
  art: ConstructorParameters<typeof Comparer>[0],
  shapes: readonly Shape[],
  text: string,
) {
  const comparer = new Comparer(art);
  return Object.fromEntries(
    text.split(',').map((id) => {
      const profile = profileById(id.trim());
      if (!profile)
        throw new UsageError(`--targets takes ${PROFILES.map((each) => each.id).join(', ')}, not “${id}”.`);
      const { artOutside, proxyOutside, cost } = comparer.compare(
        shapes.map((shape) => asDelivered(profile, shape)),
      );
      return [
        profile.id,
        { artOutside: artOutside.max, proxyOutside: proxyOutside.max, vertices: cost.vertices },
      ];
    }),
  );
}
