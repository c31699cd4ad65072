import { MAX_NODES, type Scene } from '../piece/index.js';
import { asUtf8 } from './as-utf8.js';
import { checkScene } from './check-scene.js';
import { FormatError } from './format-error.js';
import { readCollada } from './collada/collada-reader.js';
import { readGltf } from './gltf/gltf-reader.js';
import { checkInputFile, extensionOf, findBeside, type InputFile } from './input-file.js';
import { readMtl } from './obj/mtl.js';
import { ObjReader } from './obj/obj-reader.js';
import { readPly } from './ply/ply-reader.js';
import { readStl } from './stl/stl-reader.js';
import { readUsda } from './usda/usda-reader.js';
import { countText } from '../math/figures.js';

export interface ReadOptions {
  /** called with the share read, 0 to 1 */
  progress?: (share: number) => void;
  /** whether what a remark says of unit and axes counts, in formats that state none. Default true */
  remarks?: boolean;
}

/** Formats that hold a mesh; other files stand beside one of these. */
export const MESH_EXTENSIONS = ['obj', 'glb', 'gltf', 'dae', 'usda', 'stl', 'ply'] as const;

/** What may stand beside a mesh file: material libraries, buffers, pictures. */
export const BESIDE_EXTENSIONS = ['mtl', 'bin', 'png', 'jpg', 'jpeg', 'webp'] as const;

export const isBesideFile = (name: string): boolean =>
  (BESIDE_EXTENSIONS as readonly string[]).includes(extensionOf(name));

export const isMeshFile = (name: string): boolean =>
  (MESH_EXTENSIONS as readonly string[]).includes(extensionOf(name));

/**
 * Read one mesh file with what stands beside it (material libraries, buffers, pictures).
 *
 * @throws FormatError and nothing else
 */
export async function readFile(
  file: InputFile,
  beside: readonly InputFile[] = [],
  options: ReadOptions = {},
): Promise<Scene> {
  const scene = checkScene(file.name, await readAny(file, beside, options));
  const count = scene.nodes.length;
  if (count > MAX_NODES)
    throw new FormatError(
      file.name,
      `it has ${countText(count)} nodes, and a piece takes ${countText(MAX_NODES)}`,
      'join parts or export fewer at a time',
    );
  return scene;
}

async function readAny(file: InputFile, beside: readonly InputFile[], options: ReadOptions): Promise<Scene> {
  [file, ...beside].forEach(checkInputFile);
  const extension = extensionOf(file.name);
  if (extension === 'obj') return readObj(asUtf8(file), beside, options);
  if (extension === 'glb' || extension === 'gltf') return readGltf(file, beside);
  if (extension === 'dae') return readCollada(asUtf8(file), beside, options.progress);
  if (extension === 'usda') return readUsda(asUtf8(file), beside);
  if (extension === 'stl') return readStl(file, options.progress);
  if (extension === 'ply') return readPly(file, options.progress);
  throw new FormatError(
    file.name,
    `files ending in “.${extension}” are not read`,
    'export the mesh as OBJ, GLB, glTF, COLLADA, USDA, STL or PLY',
  );
}

async function readObj(
  file: InputFile,
  beside: readonly InputFile[],
  { progress, remarks }: ReadOptions,
): Promise<Scene> {
  const reader = new ObjReader(file.name, remarks);
  let read = 0;
  for await (const chunk of file.chunks()) {
    reader.push(chunk);
    read += chunk.length;
    progress?.(read / file.size);
  }
  const { scene, libraries } = reader.finish();
  for (const library of libraries) {
    const found = findBeside(beside, library);
    if (found) await readMtl(scene, asUtf8(found), beside);
    else scene.notes.push({ about: 'material-library', library: library.slice(0, 80) });
  }
  return scene;
}
