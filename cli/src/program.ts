import { Command, Option } from 'commander';
import { PROFILES } from '@yard-brace/core';
import { deliver } from './deliver.js';
import { inspect } from './inspect.js';
import { names } from './names.js';
import { assemble } from './put-together.js';
import { readback } from './read-back.js';
import type { Options, Result } from './result.js';
import { compare, decompose, hull, judge } from './convex-commands.js';
import { wrap } from './set-commands.js';
import { trial } from './trial-command.js';
import { run } from './run-command.js';
import { bake, change, mend, pivot, split } from './reshape-commands.js';

/** What a command does; it may tell lines of its own before its result. */
type Run = (paths: string[], options: Options, tell: (line: object) => void) => Promise<Result>;

const unit = (what = 'unit of the file; default: what the format states, or the likely one') =>
  new Option('--unit <m|cm|mm|in|ft>', what);
const only = () => new Option('--part <name>', 'only this part; default: every part');
const targets = () =>
  new Option(
    '--target <id>',
    `target profile: ${PROFILES.map(({ id }) => id).join(', ')}, or one of the rules’ own; may be given again. Default: those of the rules`,
  ).argParser(again);
const rulesFile = () => new Option('--rules <json>', 'rules of a yard, as they are saved to a file');
const again = (text: string, before: string[] = []) => [...before, text];
const outFile = () =>
  new Option(
    '--out <file>',
    'file to write: .obj .glb .gltf .dae .usda .stl .ply; what the format cannot carry is listed as "lost"',
  );

/**
 * The whole command line: each option is declared once, and both parsing and `--help` come from it.
 *
 * @param done what becomes of a command's result
 * @param tell what becomes of lines before it
 * @param message what becomes of help, and of what is wrong with the options
 */
export function program(
  done: (result: Result) => void,
  tell: (line: object) => void,
  message: (text: string) => void,
): Command {
  const root = new Command('yard-brace')
    .description('Check, mend, wrap and deliver environment art with its collision.')
    .addHelpText(
      'after',
      '\nResults are one JSON line on stdout, messages go to stderr.\nExit 0: done. 1: findings that stop. 2: bad input or usage.',
    )
    .helpCommand(false)
    .configureHelp({ helpWidth: 110 })
    .configureOutput({ writeOut: message, writeErr: message })
    .exitOverride();

  const command = (name: string, files: string, says: string, options: Option[], run: Run) => {
    const made = root
      .command(name)
      .description(says)
      .argument(`[${files}...]`)
      .exitOverride()
      .action(async (paths: string[]) => done(await run(paths, asTyped(made), tell)));
    options.forEach((option) => made.addOption(option));
  };

  command(
    'inspect',
    'files',
    'What a file holds (OBJ, GLB, glTF, COLLADA, USDA, STL, PLY): size in metres, units, tree, materials, faults. Material libraries, buffers and pictures in the same folder are found by themselves; others are named after the file.',
    [unit()],
    inspect,
  );
  command(
    'deliver',
    'files',
    'Name and write a delivery for each target; several targets get a folder each. Each mesh file is a piece; one that cannot be delivered stops no other.',
    [
      targets(),
      rulesFile(),
      new Option('--preset <name>', 'choices of a delivery that the rules keep by a name'),
      new Option(
        '--container <format>',
        'glb, gltf, dae, obj, usda; default: the first that the target takes',
      ),
      new Option(
        '--files <what>',
        'piece, part or top-node: what makes a file; default: as the target has it',
      ),
      new Option('--together <name>', 'all pieces in one file of this name, each where it stood'),
      new Option(
        '--variant <number>',
        'names end in this number, so that nothing that left before is replaced',
      ),
      new Option(
        '--values <how>',
        'values (default) or pictures: how material values without a picture leave',
      ),
      new Option('--code <text>', 'by which a studio follows it; stands in manifest and sheet'),
      new Option('--note <text>', 'for whoever imports it; stands in manifest and sheet'),
      new Option(
        '--proxies <kind>',
        'own (default: the shapes of the file), none, hull, box (one round everything), hull-per-shell, box-per-shell, ladder',
      ),
      new Option('--max-shapes <count>', 'with --proxies ladder: shapes at most, 1 to 64; default: 16'),
      new Option(
        '--agent-detail <length>',
        'with --proxies ladder: below this length detail does not matter',
      ),
      new Option(
        '--clearance <x,y,z,sx,sy,sz>',
        'with --proxies ladder: centre and size of a box that nothing may enter; may be given again',
      ).argParser(again),
      new Option(
        '--pivot <anchor>',
        'where the pivot goes: base-centre, centre or origin; default: base-centre',
      ),
      new Option('--name <name>', 'name of the mesh; default: from the file name'),
      unit('unit of the file; default: what the format states; a file that states none needs it'),
      new Option(
        '--out <folder>',
        'folder for the files; made when missing, files of the same name are replaced',
      ),
    ],
    deliver,
  );
  command(
    'run',
    'recipe files',
    'Do a recipe to many files: a JSON line a file, in their order, and a summary. One that is stopped or refused stops no other.',
    [
      targets(),
      rulesFile(),
      unit('unit of the files; default: what each states, or the likely one'),
      new Option(
        '--out <folder>',
        'folder for what leaves; made when missing, files of the same name are replaced',
      ),
      new Option(
        '--workers <count>',
        'files that are worked on at a time; default: as many as there are cores',
      ),
    ],
    run,
  );
  command(
    'readback',
    'files',
    'Decide from the bytes of delivered files alone what a level would get. Files of one delivery are named together.',
    [targets(), rulesFile()],
    readback,
  );
  command(
    'assemble',
    'files',
    'Put a piece together again from the manifest of a delivery: every mesh where it sat in the source. Its files lie beside it, or are named after it.',
    [outFile()],
    assemble,
  );
  command(
    'names',
    'names',
    'Whether names can stand in a target’s files, and what a pattern finds in them. Exit 1: one of them cannot.',
    [
      targets(),
      rulesFile(),
      new Option(
        '--pattern <text>',
        'fields in braces with text between, such as SM_{subject:pascal}_{variant:2}',
      ),
      new Option(
        '--check <file>',
        'names of this file’s piece, parts and pictures, as they would be composed',
      ),
    ],
    names,
  );
  command(
    'mend',
    'files',
    'Weld, delete, fill, orient, reduce, recompute normals; in this order, whatever the order of the options. One that finds nothing to do is said and skipped.',
    [
      outFile(),
      new Option('--weld <mm>', 'millimetres within which vertices become one'),
      new Option('--remove <kinds>', 'doubled, hidden, zero-area, specks, unused; several with commas'),
      new Option('--fill-holes', 'close open borders'),
      new Option('--bores', 'with --fill-holes: a border inside another one stays a hole'),
      new Option('--join-borders', 'join borders that lie nearest to each other by a band of faces'),
      new Option('--longest <metres>', 'with --fill-holes: only borders shorter than so many metres'),
      new Option('--outward', 'flip faces so that neighbours agree and shells face outward'),
      new Option('--share <share>', 'reduce to this share of the triangles, 0 to 1'),
      new Option('--error <metres>', 'reduce as far as the surface moves no more than so many metres'),
      new Option('--normals <degrees>', 'recompute normals: edges above so many degrees are hard'),
      only(),
      unit(),
    ],
    mend,
  );
  command(
    'bake',
    'files',
    'Put position, rotation and scale into the vertices: all transforms are then identity, and nothing has moved.',
    [
      outFile(),
      new Option('--part <name>', 'only this part with all below it; default: the whole tree, unit included'),
      new Option('--keep <what>', 'what stays on the nodes: position, rotation, or both with a comma'),
      unit(),
    ],
    bake,
  );
  command(
    'pivot',
    'files',
    'Write the piece with its pivot at the origin; the result says where that was.',
    [
      outFile(),
      new Option(
        '--at <anchor|x,y,z>',
        'base-centre (default), centre, origin, as-it-came, lowest-contact, centroid, or three numbers in metres',
      ),
      unit(),
    ],
    pivot,
  );
  command(
    'split',
    'files',
    'Split parts by shells or by materials; each new one is named, numbered and stays where it was.',
    [
      outFile(),
      new Option('--by <what>', 'shells or materials'),
      only(),
      new Option('--smallest <metres>', 'shells smaller than this stay with their neighbour'),
      unit(),
    ],
    split,
  );
  command(
    'change',
    'files',
    'Do operations one after the other: move, mirror, repeat, bend, stretch, lay along a line, cut off, materials, UVs and all others that the bench has.',
    [
      outFile(),
      new Option('--do <operations.json>', 'a list of operations; parts are named by their names'),
      unit(),
    ],
    change,
  );
  command(
    'hull',
    'file',
    'The convex hull of all triangles, in the unit of the file. Exit 1: the points are flat and have none ("span" says how).',
    [
      new Option('--max-verts <count>', 'at most so many corners, 4 or more'),
      new Option(
        '--side <side>',
        'with --max-verts: outside contains everything and grows little (default), inside lies within, between keeps the volume',
      ),
      new Option('--out <obj>', 'the hull as OBJ'),
    ],
    hull,
  );
  command(
    'decompose',
    'file',
    'Break all triangles into convex shapes, as a ladder of counts. Lengths are in the unit of the file.',
    [
      new Option('--max-shapes <count>', 'shapes on the highest rung, 1 to 64; default: 32'),
      new Option('--max-verts <count>', 'max corners of a hull, 4 or more; default: 32'),
      new Option(
        '--agent-detail <length>',
        'below this length detail does not matter; the first rung within it is "goodEnough"',
      ),
      new Option(
        '--clearance <x,y,z,sx,sy,sz>',
        'centre and size of a box that nothing may enter; may be given again',
      ).argParser(again),
      new Option('--area-material <name>', 'only the faces of this material'),
      new Option(
        '--targets <ids>',
        'how the shapes lie as each of these targets gets them; several with commas',
      ),
      new Option('--no-primitives', 'hulls, and boxes only where they are exact'),
      new Option('--no-crossing', 'shapes meet within a tenth of a millimetre and do not overlap'),
      new Option(
        '--rung <count>',
        'the rung with at most so many shapes; default: the one that fits best, by deviation times volume filled or left out',
      ),
      new Option('--out <obj>', "the rung's shapes as OBJ, one group each"),
    ],
    decompose,
  );
  command(
    'wrap',
    'file',
    'One shape around all triangles, around each part or each shell. Lengths are in the unit of the file.',
    [
      new Option(
        '--kind <kind>',
        'suggested (default), box, upright-box, smallest-box, sphere, capsule, cylinder, tapered-cylinder, wedge, hull, hull-6, hull-10, hull-14, hull-18, hull-26',
      ),
      new Option('--per <what>', 'piece (default), part or shell'),
      new Option('--material <name>', 'only the faces of this material'),
      new Option('--max-verts <count>', 'max corners of a hull, 4 or more; default: 32'),
      new Option('--out <obj>', 'the shapes as OBJ, one group each'),
    ],
    wrap,
  );
  command(
    'compare',
    'files',
    'ART and PROXIES: how far proxies lie from the art, what they fill and leave bare. Every mesh of PROXIES counts as its convex hull, as importers take it; those that cave in are listed in "cavedIn".',
    [],
    compare,
  );
  command(
    'judge',
    'files',
    'Whether each mesh is closed and convex. "cavesIn" lists its faces below the hull, "filled" is the volume an importer would add. Exit 1: one of them is open or not convex. With PROXIES and ART: the set as the bench judges it, each shape, each part, pairs that cross, bare areas and blocked clearances. Exit 1: it is felt, or something is blocked.',
    [
      new Option('--agent-detail <length>', 'below this length deviation does not matter'),
      new Option(
        '--clearance <x,y,z,sx,sy,sz>',
        'centre and size of a box that has to stay open; may be given again',
      ).argParser(again),
    ],
    judge,
  );
  command(
    'trial',
    'files',
    'ART and PROXIES: an agent walks at the proxies from all sides, through every opening, over and under everything. "openings" say what is missing, "blocked" where air stops it, "contacts" how the art lies at what it touches; "falls", "jolts", "stumbles", "stuck" and "slips" are places. Lengths are metres. Exit 1: it does not get through everything.',
    [
      new Option('--agent <name>', 'who walks, by name or id of the rules'),
      rulesFile(),
      unit('unit of both files; default: what they state, or m'),
      new Option('--target <id>', 'collide as this target gets the proxies; default: as they are').argParser(
        again,
      ),
      new Option(
        '--clearance <x,y,z,sx,sy,sz>',
        'centre and size of an opening to go through; may be given again. Default: those found in the art',
      ).argParser(again),
    ],
    trial,
  );
  return root;
}

/** Options by the names they are typed with, as texts; a switch that was given is 'true'. */
function asTyped(command: Command): Options {
  const given = command.options.flatMap((option): [string, string | string[]][] => {
    const value: unknown = command.getOptionValue(option.attributeName());
    const name = option.long!.slice(2);
    if (option.negate) return value === false ? [[name, 'true']] : [];
    if (value === undefined) return [];
    return [[name, Array.isArray(value) ? (value as string[]) : String(value)]];
  });
  return Object.fromEntries(given);
}
