import type { NameRules } from '../naming/index.js';
import type { ShapeKind } from '../shape/index.js';
import type { Numbering } from './collision.js';
import type { TargetProfile } from './profile.js';

type Named = Pick<TargetProfile, 'collision'>;

/** `_01`: separator and number, or nothing for an only shape that goes without. `index` counts from 0. */
function numbered({ separator, digits, first, single }: Numbering, index: number, count: number): string {
  if (count === 1 && single === 'plain') return '';
  return `${separator}${String(first + index).padStart(digits, '0')}`;
}

/**
 * The name of a shape as it stands in the target's files. Numbers count through all shapes of an owner.
 *
 * @param index of the shape among the `count` of its owner, from 0
 * @example proxyName(prefixTags, 'Bollard', 'hull', 0, 2) // 'UCX_Bollard_01'
 */
export function proxyName(
  { collision }: Named,
  owner: string,
  kind: ShapeKind,
  index: number,
  count: number,
): string {
  switch (collision.by) {
    case 'name-prefix':
      return `${collision.tokens[kind] ?? ''}${owner}${numbered(collision, index, count)}`;
    case 'name-suffix':
      return `${owner}${numbered(collision, index, count)}${collision.tokens[kind] ?? ''}`;
    case 'child-node':
      return count === 1 && collision.singleToken !== null && collision.single === 'plain'
        ? collision.singleToken
        : `${collision.token}${numbered({ ...collision, single: 'numbered' }, index, count)}`;
    case 'second-file':
      return `${owner}${collision.suffix}`;
    case 'gltf-extension':
    case 'usd-schema':
      return `${owner}_${collision.word}${numbered(collision, index, count)}`;
  }
}

/** What a name says: whose shape it is, of which kind and number. Where it does not say, null. */
export interface ParsedName {
  kind: ShapeKind | null;
  owner: string | null;
  number: number | null;
  /** art that is its own collision */
  drawn?: true;
}

/**
 * Everything a name can mean to a target, the likeliest first: the whole rest may be a mesh name, or end in a number.
 * Capitals count.
 *
 * @example readingsOf(prefixTags, 'UCX_Wall_01') // of “Wall_01”, unnumbered; or number 1 of “Wall”
 */
export function readingsOf({ collision }: Named, name: string): ParsedName[] {
  switch (collision.by) {
    case 'name-prefix':
      return longestFirst(collision.tokens).flatMap(([kind, token]) =>
        name.startsWith(token)
          ? owners(name.slice(token.length), collision).map((own) => ({ kind, ...own }))
          : [],
      );
    case 'name-suffix': {
      const tagged = longestFirst(collision.tokens).flatMap(([kind, token]) =>
        name.endsWith(token)
          ? owners(name.slice(0, name.length - token.length), collision).map((own) => ({ kind, ...own }))
          : [],
      );
      if (tagged.length || !collision.drawn || !name.endsWith(collision.drawn)) return tagged;
      return [{ kind: 'surface', owner: null, number: null, drawn: true }];
    }
    case 'child-node': {
      if (name === collision.singleToken) return [{ kind: null, owner: null, number: null }];
      if (!name.startsWith(collision.token)) return [];
      // Without a number, or set off by an underscore, it is taken all the same.
      const rest = name.slice(collision.token.length).replace(/^_/, '');
      const number = numberOf(rest);
      return number === null && rest !== '' ? [] : [{ kind: null, owner: null, number }];
    }
    case 'second-file':
      return name.endsWith(collision.suffix) && name.length > collision.suffix.length
        ? [{ kind: 'surface', owner: name.slice(0, -collision.suffix.length), number: null }]
        : [];
    case 'gltf-extension':
    case 'usd-schema':
      return [];
  }
}

const longestFirst = (tokens: Partial<Record<ShapeKind, string>>): [ShapeKind, string][] =>
  (Object.entries(tokens) as [ShapeKind, string][]).sort(([, a], [, b]) => b.length - a.length);

/** Digits and nothing else, as a number. Written without an expression: a name may be ten thousand characters long. */
function numberOf(text: string): number | null {
  if (text === '' || text.length > 9) return null;
  for (const c of text) if (c < '0' || c > '9') return null;
  return Number(text);
}

function owners(rest: string, { separator }: Numbering): { owner: string | null; number: number | null }[] {
  // A tag and nothing else: what it hangs below may own it.
  if (rest === '') return [{ owner: null, number: null }];
  const at = rest.lastIndexOf(separator);
  const number = at > 0 ? numberOf(rest.slice(at + separator.length)) : null;
  return [{ owner: rest, number: null }, ...(number === null ? [] : [{ owner: rest.slice(0, at), number }])];
}

/** The characters that the longest name of a shape has more than its owner's. */
export function longestTokens({ collision, solids }: Pick<TargetProfile, 'collision' | 'solids'>): number {
  const kinds: ShapeKind[] =
    'tokens' in collision ? (Object.keys(collision.tokens) as ShapeKind[]) : ['surface'];
  const most = solids.maxShapes;
  if (collision.by === 'child-node') return 0;
  return Math.max(...kinds.map((kind) => proxyName({ collision }, '', kind, most - 1, most).length));
}

/** What the target takes for the name of a mesh that carries shapes: theirs are composed of it. */
export const nameRulesOf = (profile: TargetProfile): NameRules => ({
  ...profile.names,
  tokens: longestTokens(profile),
});
