import { MAX_JSON_BYTES } from '@yard-brace/contract';
import {
  BlobHasher,
  countText,
  FormatError,
  inMetres,
  isManifestFile,
  type InputFile,
  type Manifest,
  meshNameFrom,
  type PieceDocument,
  putTogether,
  readFile,
  readManifest,
  type Scene,
  setApart,
  takeIn,
  twinOf,
  withTwin,
} from '@yard-brace/core';
import type { Progress } from '../messages';
import { asBodies, storeBlobs } from './store-blobs';

/** The server refuses what is longer; the request adds a little to the document. */
const MAX_DOCUMENT_CHARACTERS = MAX_JSON_BYTES * 0.98;

/** Read a mesh file with what stands beside it, store its bytes, answer with the new piece's document. */
export async function importFile(file: File, beside: File[], progress: Progress): Promise<PieceDocument> {
  const besides = beside.map((other) => ({ other, input: inputFrom(other), read: false }));
  for (const each of besides) {
    const { bytes } = each.input;
    each.input.bytes = () => ((each.read = true), bytes());
  }
  const inputs = besides.map(({ input }) => input);
  const manifest = isManifestFile(file.name) ? readManifest(file.name, await file.text()) : null;
  const read = manifest
    ? await assembled(manifest, inputs)
    : await readFile(inputFrom(file), inputs, {
        progress: (share) => progress(share * 0.5, `Reading ${file.name}`),
      });
  progress(0.5, `Looking through ${file.name}`);
  const twin = manifest ? undefined : twinOf(file.name, inputs);
  const apart = setApart(twin ? withTwin(read, await readFile(twin, inputs)) : read);
  // Only what was read belongs to the piece: several files may have been dropped with the same pictures.
  const used = [file, ...besides.filter((each) => each.read).map(({ other }) => other)];
  const sources = await Promise.all(
    used.map(async (source) => ({ name: source.name, blob: await hashOf(source), bytes: source.size })),
  );
  const { document, blobs } = takeIn(apart.scene, {
    files: sources,
    ...(manifest ? { name: manifest.piece } : {}),
    meshName: manifest ? () => manifest.mesh : meshNameFrom,
    proxies: apart.proxies,
    aside: apart.aside,
    progress: (share) => progress(0.5 + share * 0.2, `Looking through ${file.name}`),
  });
  if (JSON.stringify(document).length > MAX_DOCUMENT_CHARACTERS)
    throw new FormatError(
      file.name,
      `its tree of ${countText(document.nodes.length)} nodes is larger than what a piece may hold`,
      'join parts or export fewer at a time',
    );
  const bodies = [...sources.map((source, i): [string, Blob] => [source.blob, used[i]!]), ...asBodies(blobs)];
  await storeBlobs(bodies, (share) => progress(0.7 + share * 0.3, `Storing ${file.name}`));
  return document;
}

/** The whole of a delivery: every mesh of its manifest where it sat, from the model files beside it. */
async function assembled(manifest: Manifest, inputs: readonly InputFile[]): Promise<Scene> {
  const models = new Map<string, Scene>();
  for (const { file } of manifest.meshes) {
    const input = inputs.find(({ name }) => name.toLowerCase() === file.toLowerCase());
    if (input && !models.has(file)) models.set(file, inMetres(await readFile(input, [...inputs])));
  }
  return putTogether(manifest, models);
}

function inputFrom(file: File): InputFile {
  return {
    name: file.name,
    size: file.size,
    bytes: async () => new Uint8Array(await readable(file, file.arrayBuffer())),
    async *chunks() {
      const reader = file.stream().getReader();
      for (;;) {
        const { done, value } = await readable(file, reader.read());
        if (done) return;
        yield value;
      }
    },
  };
}

/** A file can go away, or turn out to be a folder, between the drop and the reading. */
async function readable<T>(file: File, reading: Promise<T>): Promise<T> {
  try {
    return await reading;
  } catch {
    throw new FormatError(
      file.name,
      'the file cannot be read from the disk',
      'check that it is still there and drop it again',
    );
  }
}

async function hashOf(file: File): Promise<string> {
  const hasher = new BlobHasher();
  for await (const chunk of inputFrom(file).chunks()) hasher.add(chunk);
  return hasher.id();
}
