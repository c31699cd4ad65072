/** What the person typed cannot be done as typed. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}

const GENERAL = `yard-brace COMMAND

Commands:
  inspect FILE…          what a file holds: size, units, tree, materials, faults
  deliver FILE…          wrap, name and write a delivery for a target
  readback FILE…         what an importer makes of delivered files

yard-brace COMMAND --help says more. Results are one JSON line on stdout, messages go to stderr.
Exit 0: done. 1: findings that stop. 2: bad input or usage.`;

export const USAGE: Record<string, string> = {
  '': GENERAL,
  inspect: `yard-brace inspect FILE [BESIDE…] [--unit m|cm|mm|in]

Reads FILE (OBJ, GLB or glTF). Files named after it stand beside it: material libraries, buffers,
pictures; those in the same folder are found by themselves. Sizes are in metres.

  --unit   unit of the file; default: what the format states, or the likely one`,
  deliver: `yard-brace deliver FILE [BESIDE…] --target prefix-tags --proxies KIND --out DIR
                   [--pivot base-centre|centre|origin] [--name NAME] [--unit m|cm|mm|in]

  --target   target profile: prefix-tags
  --proxies  hull, box (one round everything), hull-per-part, box-per-part
  --pivot    where the pivot goes; default: base-centre
  --name     name of the mesh; default: from the file name
  --unit     unit of the file; default: what the format states; a file that states none needs it
  --out      folder for the files; made when missing, files of the same name are replaced`,
  readback: `yard-brace readback FILE… --target prefix-tags

Decides from the bytes of delivered files alone what a level would get.`,
};
