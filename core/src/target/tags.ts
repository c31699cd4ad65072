import type { ShapeKind } from '../shape/index.js';
import type { TargetProfile } from './profile.js';
import { PROFILES } from './profiles/index.js';
import { readingsOf } from './proxy-names.js';

/** A name that an importer takes for collision. */
export interface Tagged {
  kind: ShapeKind;
  /** names of what it may belong to, the likeliest first; none: it belongs to its parent node */
  owners: readonly string[];
  /** it is art as well, and its own collision */
  drawn?: true;
}

/**
 * What a node's name says to any of the targets whose files come back as art, the first that knows it; null for a name
 * that says nothing.
 *
 * @param profiles asked in their order. Default: those that ship
 */
export function taggedAs(name: string, profiles: readonly TargetProfile[] = PROFILES): Tagged | null {
  for (const profile of profiles) {
    // A second file says by its own name what it is, and not by its nodes'.
    const readings = profile.collision.by === 'second-file' ? [] : readingsOf(profile, name);
    const [first] = readings;
    if (!first) continue;
    const owners = readings.flatMap(({ owner }) => (owner === null ? [] : [owner]));
    return {
      kind: first.kind ?? 'hull',
      owners: [...new Set(owners)],
      ...(first.drawn ? { drawn: true } : {}),
    };
  }
  return null;
}

/** The number of a detail level in a name, 0 for the finest; null for a name that says none. */
export function detailLevel(name: string): number | null {
  const found = /(?:^|[_\-. ])lod[_\- ]?(\d{1,2})$/i.exec(name);
  return found ? Number(found[1]) : null;
}
