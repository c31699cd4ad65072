import * as z from 'zod';
import { counted, countText, listText } from '../math/index.js';

const text = z.string().max(1000);
const count = z.number().int().nonnegative();

/** Something that was found while a file was read, and that a person should know of: values, never a sentence. */
export const sceneNoteSchema = z.preprocess(
  // Earlier versions stored the sentence.
  (value) => (typeof value === 'string' ? { about: 'text', text: value.slice(0, 1000) } : value),
  z.discriminatedUnion('about', [
    z.object({ about: z.literal('text'), text }),
    z.object({
      about: z.literal('picture'),
      picture: text,
      /** null where the format gives pictures to no material */
      material: text.nullable(),
      why: z.enum(['missing', 'unreadable']),
    }),
    z.object({ about: z.literal('material-library'), library: text }),
    z.object({ about: z.literal('material-values'), material: text }),
    z.object({ about: z.literal('uv-transforms'), material: text }),
    z.object({ about: z.literal('up-axis'), axis: z.enum(['X', 'Z']) }),
    z.object({ about: z.literal('unit'), metres: z.number() }),
    z.object({ about: z.literal('elements-ignored'), element: text, count }),
    z.object({ about: z.literal('bytes-ignored'), bytes: count }),
    z.object({ about: z.literal('attributes-ignored'), triangles: count }),
    z.object({
      about: z.literal('collision-tag'),
      node: text,
      kind: text,
      /** what its geometry is instead */
      found: z.enum(['flat', 'other-kind', 'caves-in', 'hollow']),
    }),
    z.object({ about: z.literal('lines-ignored'), lines: count, first: count }),
    z.object({ about: z.literal('decimal-commas') }),
    z.object({
      about: z.literal('attribute'),
      mesh: text,
      attribute: z.enum(['normals', 'tangents', 'colours', 'UVs']),
      wrong: z.enum(['not-finite', 'too-few']),
    }),
    z.object({ about: z.literal('orphan-proxies'), names: z.array(text).min(1) }),
  ]),
);
export type SceneNote = z.infer<typeof sceneNoteSchema>;

const WHY = { missing: 'is not among the files', unreadable: 'is no PNG, JPEG or WebP' };

/** A note as a sentence. */
export function sceneNoteText(note: SceneNote): string {
  switch (note.about) {
    case 'text':
      return note.text;
    case 'picture': {
      const of = note.material === null ? '' : ` of material “${note.material}”`;
      return `Picture “${note.picture}”${of} ${WHY[note.why]}.`;
    }
    case 'material-library':
      return `Material library “${note.library}” is not among the files: materials keep their names only.`;
    case 'material-values':
      return `Material “${note.material}” had values that are none; the usual ones stand in.`;
    case 'uv-transforms':
      return `Pictures of “${note.material}” are moved differently on one UV set; all follow the first.`;
    case 'up-axis':
      return `The file has ${note.axis} up; it was rotated to Y up, and no rotation is left on a node.`;
    case 'unit':
      return `The file’s unit is ${note.metres} m; it was converted to metres.`;
    case 'elements-ignored':
      return `${countText(note.count)} “${note.element}” ignored.`;
    case 'bytes-ignored':
      return `${counted(note.bytes, 'byte')} after the last triangle ignored.`;
    case 'attributes-ignored':
      return `Attribute bytes of ${counted(note.triangles, 'triangle')} ignored: they have no agreed meaning.`;
    case 'collision-tag':
      return {
        flat: `“${note.node}” is tagged as collision and is flat; it was left as art.`,
        'other-kind': `“${note.node}” is tagged ${note.kind} and is none; it was imported as a hull.`,
        'caves-in': `“${note.node}” is tagged ${note.kind} and caves in or is open; it was kept as a surface, which can be broken up into solids.`,
        // As earlier versions took it.
        hollow: `“${note.node}” is tagged ${note.kind} and caves in; its hollow is filled.`,
      }[note.found];
    case 'lines-ignored':
      return note.lines === 1
        ? `1 line that does not belong there was passed over, line ${countText(note.first)}.`
        : `${countText(note.lines)} lines that do not belong there were passed over, the first is line ${countText(note.first)}.`;
    case 'decimal-commas':
      return 'Numbers are written with decimal commas and were read so.';
    case 'attribute': {
      const { attribute, mesh, wrong } = note;
      const name = `${attribute[0]!.toUpperCase()}${attribute.slice(1)}`;
      const anew = attribute === 'normals' || attribute === 'tangents';
      return `${name} of “${mesh}” were ${wrong === 'too-few' ? 'too few' : 'not finite'}; they ${anew ? 'are made anew' : 'were left out'}.`;
    }
    case 'orphan-proxies': {
      const one = note.names.length === 1;
      const what = one ? 'A proxy belongs' : `${note.names.length} proxies belong`;
      return `${what} to no mesh in the file and ${one ? 'was' : 'were'} set aside: ${listText(note.names)}.`;
    }
  }
}
