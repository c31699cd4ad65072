import type { ShapeKind } from '../shape/index.js';
import { PREFIX_TAGS } from './profiles.js';

/** A name that an importer takes for collision. */
export interface Tagged {
  kind: ShapeKind;
  /** names of what it may belong to, the likeliest first; none: it belongs to its parent node */
  owners: readonly string[];
  /** it is art as well, and its own collision */
  drawn?: true;
}

const SUFFIXES: readonly [suffix: string, kind: ShapeKind][] = [
  ['-convcolonly', 'hull'],
  ['-colonly', 'surface'],
];
const DRAWN_SUFFIX = '-col';
const CHILD_NODE = /^\$(physics_)?proxy(_?\d+)?$/;

/** What a node's name says to any of the targets whose files come back as art; null for a name that says nothing. */
export function taggedAs(name: string): Tagged | null {
  for (const [kind, prefix] of Object.entries(PREFIX_TAGS.proxies.prefixes)) {
    if (!name.startsWith(prefix)) continue;
    const rest = name.slice(prefix.length);
    // A mesh may end in a number of its own.
    return { kind: kind as ShapeKind, owners: [...new Set([rest, rest.replace(/_\d+$/, '')])] };
  }
  for (const [suffix, kind] of SUFFIXES)
    if (name.endsWith(suffix)) return { kind, owners: [name.slice(0, -suffix.length)].filter(Boolean) };
  if (name.endsWith(DRAWN_SUFFIX)) return { kind: 'surface', owners: [], drawn: true };
  return CHILD_NODE.test(name) ? { kind: 'hull', owners: [] } : null;
}

/** The number of a detail level in a name, 0 for the finest; null for a name that says none. */
export function detailLevel(name: string): number | null {
  const found = /(?:^|[_\-. ])lod[_\- ]?(\d{1,2})$/i.exec(name);
  return found ? Number(found[1]) : null;
}
