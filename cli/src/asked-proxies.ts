import {
  applyEdit,
  decompose,
  type Mesh,
  type PieceDocument,
  replaceProxies,
  rungWithin,
  type Shape,
  type TargetProfile,
  wrap,
} from '@yard-brace/core';
import { clearanceOf } from './convex-commands.js';
import type { Options } from './result.js';
import { UsageError } from './usage-error.js';

const PROXIES = {
  own: null,
  none: null,
  hull: { kind: 'hull', per: 'piece' },
  box: { kind: 'box', per: 'piece' },
  'hull-per-shell': { kind: 'hull', per: 'shell' },
  'box-per-shell': { kind: 'smallest-box', per: 'shell' },
} as const;

/** How shapes come: the file's own where it has some, wrapped, or by the ladder. */
type ProxiesAsked = keyof typeof PROXIES | 'ladder';

export function proxiesAsked(options: Options): ProxiesAsked {
  const asked = options.proxies ?? 'own';
  if (asked === 'ladder' || asked in PROXIES) return asked as ProxiesAsked;
  throw new UsageError(`--proxies takes ${[...Object.keys(PROXIES), 'ladder'].join(', ')}, not “${asked}”.`);
}

/** The piece with its shapes: the file's own are kept unless others are asked for. */
export async function withProxies(
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
