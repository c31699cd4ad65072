import { type Mesh, plainMesh, shareVertices } from '../../mesh/index.js';
import { plainNode, type Scene } from '../../piece/index.js';
import { FormatError } from '../format-error.js';
import { checkInnerName, type InputFile } from '../input-file.js';
import { GrowableFloats } from '../growable.js';
import { textLines } from '../text-lines.js';
import { countText } from '../../math/figures.js';

const AGAIN = 'export it again';
const HEADER_BYTES = 84;
const RECORD_BYTES = 50;

/**
 * STL, text or binary. What it is, is decided by its size and content and not by its first word: binary
 * files that start with "solid" are common. Places that are the same become one vertex.
 *
 * @throws FormatError and nothing else
 */
export async function readStl(
  file: InputFile,
  progress: (share: number) => void = () => undefined,
): Promise<Scene> {
  const start = await firstBytes(file, 1024);
  const declared =
    start.length >= HEADER_BYTES ? new DataView(start.buffer, start.byteOffset).getUint32(80, true) : -1;
  const binarySize = HEADER_BYTES + declared * RECORD_BYTES;
  const words = new TextDecoder().decode(start).trimStart();
  if (declared >= 0 && binarySize === file.size) return readBinary(file, declared);
  const looksText = words.startsWith('solid') && !start.includes(0);
  if (looksText) return readText(file, progress);
  if (declared < 0)
    throw new FormatError(file.name, `the file has ${file.size} bytes, fewer than an STL header`, AGAIN);
  if (file.size > binarySize) return readBinary(file, declared);
  throw new FormatError(
    file.name,
    `the header promises ${countText(declared)} triangles and the file holds ${countText(Math.max(0, Math.floor((file.size - HEADER_BYTES) / RECORD_BYTES)))}`,
    AGAIN,
    { byte: 80 },
  );
}

async function firstBytes(file: InputFile, most: number): Promise<Uint8Array> {
  for await (const chunk of file.chunks()) return chunk.slice(0, most);
  return new Uint8Array();
}

async function readBinary(file: InputFile, count: number): Promise<Scene> {
  if (count === 0)
    throw new FormatError(file.name, 'the file has no triangles', 'export the mesh with its faces', {
      byte: 80,
    });
  const bytes = await file.bytes();
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const positions = new Float64Array(count * 9);
  let coloured = 0;
  for (let t = 0; t < count; t++) {
    const at = HEADER_BYTES + t * RECORD_BYTES;
    for (let k = 0; k < 9; k++) {
      const value = view.getFloat32(at + 12 + k * 4, true);
      if (!Number.isFinite(value))
        throw new FormatError(
          file.name,
          `triangle ${t + 1} has a coordinate that is not a finite number`,
          AGAIN,
          {
            byte: at + 12 + k * 4,
          },
        );
      positions[t * 9 + k] = value;
    }
    if (view.getUint16(at + 48, true)) coloured++;
  }
  const scene = sceneFrom([{ name: stemOf(file.name), mesh: triangles(positions) }]);
  const extra = file.size - (HEADER_BYTES + count * RECORD_BYTES);
  if (extra > 0) scene.notes.push({ about: 'bytes-ignored', bytes: extra });
  if (coloured) scene.notes.push({ about: 'attributes-ignored', triangles: coloured });
  return scene;
}

async function readText(file: InputFile, progress: (share: number) => void): Promise<Scene> {
  const solids: { name: string; points: GrowableFloats }[] = [];
  let solid: (typeof solids)[number] | undefined;
  let corners = 0;
  let number = 0;
  let read = 0;
  const fail = (wrong: string): never => {
    throw new FormatError(file.name, wrong, 'mend the line or export again', { line: number });
  };
  for await (const line of textLines(file.name, file.chunks())) {
    number++;
    read += line.length + 1;
    if ((number & 0xffff) === 0) progress(Math.min(1, read / file.size));
    const words = line.trim();
    if (words === '') continue;
    if (words.startsWith('vertex')) {
      const values = words.slice(6).trim().split(/\s+/).map(Number);
      if (values.length !== 3 || !values.every(Number.isFinite)) fail('a vertex needs three finite numbers');
      if (!solid) fail('a vertex stands outside a solid');
      solid!.points.push3(values[0]!, values[1]!, values[2]!);
      corners++;
    } else if (words.startsWith('endloop')) {
      if (corners !== 3) fail(`a facet has ${corners} corners instead of 3`);
      corners = 0;
    } else if (words.startsWith('solid')) {
      const name = checkInnerName(file.name, 'solid', words.slice(5).trim(), { line: number });
      solids.push(
        (solid = {
          name: name || `${stemOf(file.name)}${solids.length ? ` ${solids.length + 1}` : ''}`,
          points: new GrowableFloats(),
        }),
      );
    } else if (!/^(facet|outer\s+loop|endfacet|endsolid)\b/.test(words)) {
      fail(`“${words.split(/\s/)[0]!.slice(0, 30)}” is not STL`);
    }
  }
  if (corners !== 0) fail('the file is cut off inside a facet');
  const filled = solids.filter(({ points }) => points.length > 0);
  if (filled.length === 0)
    throw new FormatError(file.name, 'the file has no triangles', 'export the mesh with its faces');
  return sceneFrom(filled.map(({ name, points }) => ({ name, mesh: triangles(points.view()) })));
}

const stemOf = (name: string) => name.replace(/\.[^.]*$/, '');

const triangles = (positions: Float64Array): Mesh =>
  shareVertices(
    plainMesh(
      positions,
      Uint32Array.from({ length: positions.length / 3 }, (_, i) => i),
    ),
  );

const sceneFrom = (meshes: Scene['meshes']): Scene => ({
  unit: { metres: 1, stated: false },
  nodes: meshes.map(({ name }, i) => plainNode(name, i)),
  meshes,
  materials: [],
  pictures: [],
  leftOut: [],
  notes: [],
});
