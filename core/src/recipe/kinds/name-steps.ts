import * as z from 'zod';
import { counted } from '../../math/figures.js';
import {
  PIECE_NAMES,
  patternFault,
  pieceRenamesBy,
  type Rename,
  renameEdit,
  type Renames,
  renamesBy,
  RENAMED_LISTS,
} from '../../naming/index.js';
import { StepError } from '../step-error.js';
import { type StepKind, stepKind } from '../step-kind.js';

const pattern = z
  .string()
  .min(1)
  .max(200)
  .superRefine((text, context) => {
    const fault = patternFault(text);
    if (fault) context.addIssue({ code: 'custom', message: fault });
  });

/** Names that are otherwise now; none where all are so already. @throws StepError when one cannot be given */
function given({ fault, renames }: Renames): Rename[] {
  const refused = fault ?? renames.find(({ says }) => says !== null)?.says;
  if (refused) throw new StepError(refused);
  return renames.filter(({ from, to }) => from !== to);
}

const ALREADY = 'Everything is called so already.';

const rename = stepKind({
  label: 'Rename by a pattern',
  parts: true,
  parameters: z.strictObject({ list: z.enum(RENAMED_LISTS), pattern }),
  run(work, { list, pattern }, { ids }) {
    const parts = new Set(ids);
    const changed = given(renamesBy(work.document, { list, pattern, parts, fields: work.yard.nameFields }));
    const [first] = changed;
    if (!first) return ALREADY;
    work.apply(renameEdit(list, changed, null)!);
    return `${counted(changed.length, list.slice(0, -1))} renamed: “${first.from}” is “${first.to}”${changed.length > 1 ? ', and so on' : ''}.`;
  },
});

const renamePiece = stepKind({
  label: 'Rename the piece by a pattern',
  parts: false,
  parameters: z.strictObject({ which: z.enum(PIECE_NAMES), pattern }),
  run(work, { which, pattern }) {
    const { name, meshName } = work.document;
    const [changed] = given(
      pieceRenamesBy([{ id: 0, name, meshName }], {
        which,
        pattern,
        others: [],
        fields: work.yard.nameFields,
      }),
    );
    if (!changed) return ALREADY;
    work.apply({ kind: which === 'name' ? 'rename-piece' : 'rename-mesh', name: changed.to });
    return `“${changed.from}” is called “${changed.to}”.`;
  },
});

/** What the piece and what it is made of are called. */
export const NAME_STEPS: Readonly<Record<string, StepKind>> = { rename, 'rename-piece': renamePiece };
