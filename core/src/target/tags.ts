import type { ShapeKind } from '../shape/index.js';
import { PREFIX_TAGS } from './profiles.js';

/** A name that an importer takes for collision: its kind, and the name of what it belongs to when it says. */
export interface Tagged {
  target: string;
  kind: ShapeKind;
  /** null: it belongs to its parent node */
  owner: string | null;
}

const SUFFIXES: readonly [suffix: string, kind: ShapeKind][] = [
  ['-convcolonly', 'hull'],
  ['-colonly', 'surface'],
  ['-col', 'surface'],
];

/** What a node's name says to any of the targets whose files come back as art; null for a name that says nothing. */
export function taggedAs(name: string): Tagged | null {
  for (const [kind, prefix] of Object.entries(PREFIX_TAGS.proxies.prefixes)) {
    if (!name.startsWith(prefix)) continue;
    const rest = name.slice(prefix.length);
    return { target: PREFIX_TAGS.id, kind: kind as ShapeKind, owner: rest.replace(/_\d+$/, '') };
  }
  for (const [suffix, kind] of SUFFIXES)
    if (name.endsWith(suffix))
      return { target: 'suffix-tags', kind, owner: name.slice(0, -suffix.length) || null };
  if (/^\$physics_proxy(_\d+)?$/.test(name)) return { target: 'proxy-nodes', kind: 'hull', owner: null };
  return null;
}

/** The number of a detail level in a name, 0 for the finest; null for a name that says none. */
export function detailLevel(name: string): number | null {
  const found = /(?:^|[_\-. ])lod[_\- ]?(\d{1,2})$/i.exec(name);
  return found ? Number(found[1]) : null;
}
