import { namePattern, type NameValues, PatternError, patternFault } from '../naming/index.js';
import type { Edit, PieceDocument } from '../piece/index.js';
import type { YardRules } from './yard-rules.js';

export const RENAMED_LISTS = ['parts', 'materials', 'pictures'] as const;
export type RenamedList = (typeof RENAMED_LISTS)[number];

/** One name before and after. */
export interface Rename {
  /** id of the part, or number in the list */
  of: string;
  from: string;
  to: string;
  /** why it cannot be called so; null when it can */
  says: string | null;
}

export interface RenameOptions {
  list: RenamedList;
  pattern: string;
  /** ids of the parts that are renamed. Default: all parts of the art */
  parts?: ReadonlySet<string>;
  fields?: YardRules['nameFields'];
}

/**
 * What a pattern makes of names: the subject is the piece's name, the part its own old name, numbers and variants count
 * up from 1 in the order of the list.
 */
export function renamesBy(
  document: PieceDocument,
  { list, pattern, parts, fields = {} }: RenameOptions,
): { fault: string | null; renames: Rename[] } {
  const fault = patternFault(pattern);
  if (fault) return { fault, renames: [] };
  const made = namePattern(pattern);
  const known = Object.fromEntries(Object.entries(fields).filter(([, value]) => value));
  const renames = things(document, list, parts).map(({ of, name }, i): Rename => {
    const own = withoutEnding(name, list);
    const count = String(i + 1);
    const values: NameValues = {
      ...known,
      subject: document.name,
      part: own.stem,
      number: count,
      variant: count,
    };
    try {
      return { of, from: name, to: made.format(values) + own.ending, says: null };
    } catch (error) {
      if (!(error instanceof PatternError)) throw error;
      return { of, from: name, to: name, says: error.message };
    }
  });
  const others = new Set(
    things(document, list, undefined)
      .filter(({ of }) => !renames.some((rename) => rename.of === of))
      .map(({ name }) => name.toLowerCase()),
  );
  for (const rename of renames) {
    const key = rename.to.toLowerCase();
    if (rename.says === null && others.has(key))
      rename.says = `Another one would be called “${rename.to}” too.`;
    others.add(key);
  }
  return { fault: null, renames };
}

function things(
  { nodes, materials, pictures }: PieceDocument,
  list: RenamedList,
  parts: ReadonlySet<string> | undefined,
) {
  if (list === 'parts')
    return nodes
      .filter(({ id, mesh, aside }) => mesh !== null && !aside && (!parts?.size || parts.has(id)))
      .map(({ id, name }) => ({ of: id, name }));
  return (list === 'materials' ? materials : pictures).map(({ name }, i) => ({ of: String(i), name }));
}

/** Pictures keep what their names end in. */
function withoutEnding(name: string, list: RenamedList): { stem: string; ending: string } {
  const dot = list === 'pictures' ? name.lastIndexOf('.') : -1;
  return dot > 0 ? { stem: name.slice(0, dot), ending: name.slice(dot) } : { stem: name, ending: '' };
}

/** One undo step for all that are called otherwise; null where nothing is. */
export function renameEdit(list: RenamedList, renames: readonly Rename[]): Edit | null {
  const changed = renames.filter(({ from, to, says }) => says === null && from !== to);
  if (!changed.length) return null;
  if (list === 'parts')
    return { kind: 'rename-parts', names: changed.map(({ of, to }) => ({ part: of, name: to })) };
  return {
    kind: 'rename-listed',
    list,
    names: changed.map(({ of, to }) => ({ number: Number(of), name: to })),
  };
}
