import { type Edit, givenNameSchema, type PieceDocument } from '../piece/index.js';
import { namePattern, type NameValues, PatternError, patternFault } from './pattern.js';

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
  fields?: NameValues;
}

/**
 * What a pattern makes of names: the subject is the piece's name, the part its own old name, numbers and variants count
 * up from 1 in the order of the list.
 */
export function renamesBy(
  document: PieceDocument,
  { list, pattern, parts, fields = {} }: RenameOptions,
): Renames {
  const renamed = things(document, list, parts).map(({ of, name }): Thing => {
    const { stem, ending } = withoutEnding(name, list);
    return { of, name, values: { subject: document.name, part: stem }, ending };
  });
  const others = things(document, list, undefined)
    .filter(({ of }) => !renamed.some((each) => each.of === of))
    .map(({ name }) => name);
  return namesBy(pattern, renamed, others, fields);
}

/** What can be renamed of pieces: what they are called in the yard, or in their files. */
export const PIECE_NAMES = ['name', 'mesh'] as const;
export type PieceName = (typeof PIECE_NAMES)[number];

/**
 * What a pattern makes of the names of pieces, in their order: the subject is the piece's name.
 *
 * @param others names of that kind that the other pieces of the yard bear
 */
export function pieceRenamesBy(
  pieces: readonly { id: number; name: string; meshName: string }[],
  { which, pattern, others, fields = {} }: PieceRenameOptions,
): Renames {
  const things = pieces.map(({ id, name, meshName }): Thing => ({
    of: String(id),
    name: which === 'name' ? name : meshName,
    values: { subject: name },
    ending: '',
  }));
  const made = namesBy(pattern, things, others, fields);
  for (const rename of made.renames)
    rename.says ??= givenNameSchema.safeParse(rename.to).error?.issues[0]!.message ?? null;
  return made;
}

export interface PieceRenameOptions {
  which: PieceName;
  pattern: string;
  others: readonly string[];
  fields?: NameValues;
}

export interface Renames {
  /** what is wrong with the pattern itself */
  fault: string | null;
  renames: Rename[];
}

interface Thing {
  of: string;
  name: string;
  values: NameValues;
  /** stays as it is */
  ending: string;
}

/** Numbers count up from 1, variants for each subject; what another one is called is said. */
function namesBy(
  pattern: string,
  things: readonly Thing[],
  others: readonly string[],
  fields: NameValues,
): Renames {
  const fault = patternFault(pattern);
  if (fault) return { fault, renames: [] };
  const made = namePattern(pattern);
  const known = Object.fromEntries(Object.entries(fields).filter(([, value]) => value));
  const taken = new Set(others.map((name) => name.toLowerCase()));
  const variants = new Map<string, number>();
  const renames = things.map(({ of, name, values, ending }, i): Rename => {
    const subject = (values.subject ?? '').toLowerCase();
    const variant = (variants.get(subject) ?? 0) + 1;
    variants.set(subject, variant);
    try {
      const counts = { number: String(i + 1), variant: String(variant) };
      const to = made.format({ ...known, ...values, ...counts }) + ending;
      const key = to.toLowerCase();
      const says = taken.has(key) ? `Another one would be called “${to}” too.` : null;
      taken.add(key);
      return { of, from: name, to, says };
    } catch (error) {
      if (!(error instanceof PatternError)) throw error;
      taken.add(name.toLowerCase());
      return { of, from: name, to: name, says: error.message };
    }
  });
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

/**
 * One undo step for all that are called otherwise; null where nothing is.
 *
 * @param pattern that all of the list were renamed by; null where only some were chosen
 */
export function renameEdit(
  list: RenamedList,
  renames: readonly Rename[],
  pattern: string | null,
): Edit | null {
  const changed = renames.filter(({ from, to, says }) => says === null && from !== to);
  if (!changed.length) return null;
  const intent = pattern === null ? {} : { intent: { op: 'rename', parameters: { list, pattern } } };
  if (list === 'parts')
    return { kind: 'rename-parts', names: changed.map(({ of, to }) => ({ part: of, name: to })), ...intent };
  return {
    kind: 'rename-listed',
    list,
    names: changed.map(({ of, to }) => ({ number: Number(of), name: to })),
    ...intent,
  };
}
