import { FormatError, hashOfFile, inMetres, type InputFile, readFile } from '../format/index.js';
import { countText } from '../math/index.js';
import { meshNameFrom } from '../naming/index.js';
import { type Intake, type Scene, takeIn } from '../piece/index.js';
import { twinOf, withTwin } from './collision-twin.js';
import { isManifestFile, type Manifest, readManifest } from './manifest.js';
import { putTogether } from './put-together.js';
import { setApart } from './set-apart.js';

/** Characters that the document of a piece has at most, as JSON: what carries it takes a little more. */
const MAX_DOCUMENT_CHARACTERS = 31 * 2 ** 20;

/** A piece as it was read, with the files that belong to it. */
export interface ReadPiece<F extends InputFile> extends Intake {
  /** the main file and those beside it that were read, in the order of the document's source files */
  used: F[];
}

/**
 * Read a mesh file, or the manifest of a delivery, as a new piece: proxies that were drawn before are recognised, and the
 * collision that stands in a file of its own comes along.
 *
 * @param beside what may be named in it; only what is read belongs to the piece
 * @param progress told of the share that is done, 0 to 1, and of what is done
 * @throws FormatError, ManifestError or PutTogetherError, each with a sentence
 */
export async function readPiece<F extends InputFile>(
  file: F,
  beside: readonly F[],
  progress: (share: number, what: string) => void = () => undefined,
): Promise<ReadPiece<F>> {
  const read = new Set<F>();
  const watched = new Map<InputFile, F>(beside.map((other) => [watch(other, () => read.add(other)), other]));
  const inputs = [...watched.keys()];
  const manifest = isManifestFile(file.name)
    ? readManifest(file.name, new TextDecoder().decode(await file.bytes()))
    : null;
  const scene = manifest
    ? await assembled(manifest, inputs)
    : await readFile(file, inputs, { progress: (share) => progress(share * 0.7, `Reading ${file.name}`) });
  const looking = `Looking through ${file.name}`;
  progress(0.7, looking);
  const twin = manifest ? undefined : twinOf(file.name, inputs);
  const apart = setApart(twin ? withTwin(scene, await readFile(twin, inputs)) : scene);
  const used = [file, ...beside.filter((other) => read.has(other))];
  const files = [];
  for (const source of used)
    files.push({ name: source.name, blob: await hashOfFile(source), bytes: source.size });
  const intake = takeIn(apart.scene, {
    files,
    ...(manifest ? { name: manifest.piece } : {}),
    meshName: manifest ? () => manifest.mesh : meshNameFrom,
    proxies: apart.proxies,
    aside: apart.aside,
    progress: (share) => progress(0.7 + share * 0.3, looking),
  });
  if (JSON.stringify(intake.document).length > MAX_DOCUMENT_CHARACTERS)
    throw new FormatError(
      file.name,
      `its tree of ${countText(intake.document.nodes.length)} nodes is larger than what a piece may hold`,
      'join parts or export fewer at a time',
    );
  return { ...intake, used };
}

/** The same file, which says when it is read. */
const watch = (file: InputFile, isRead: () => void): InputFile => ({
  name: file.name,
  size: file.size,
  bytes: () => (isRead(), file.bytes()),
  chunks: () => (isRead(), file.chunks()),
});

/** The whole of a delivery: every mesh of its manifest where it sat, from the model files beside it. */
async function assembled(manifest: Manifest, inputs: readonly InputFile[]): Promise<Scene> {
  const models = new Map<string, Scene>();
  for (const { file } of manifest.meshes) {
    const input = inputs.find(({ name }) => name.toLowerCase() === file.toLowerCase());
    if (input && !models.has(file)) models.set(file, inMetres(await readFile(input, inputs)));
  }
  return putTogether(manifest, models);
}
