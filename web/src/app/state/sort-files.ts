import { extensionOf, isBesideFile, isMeshFile, twinOf } from '@yard-brace/core';
import { pathOf } from './dropped-files';

/** Dropped files in the order of work: each mesh file with everything that may stand beside it. */
export interface SortedFiles {
  meshes: { file: File; beside: File[] }[];
  /** files that belong to no mesh, each with the reason */
  ignored: { file: File; why: string }[];
}

const OPEN = 'OBJ, GLB, glTF, COLLADA, USDA, STL or PLY';
/** Formats that only the programs read which write them. */
const CLOSED = new Set(['fbx', 'dwg']);

/**
 * A mesh file takes along what is named in it, which is only known after reading, so all others are offered to it:
 * those of its own folder first, and of several that bear one name only the nearest.
 */
export function sortFiles(files: readonly File[]): SortedFiles {
  const models = files.filter((file) => isMeshFile(file.name));
  const near = (file: File) =>
    models.filter((other) => folderOf(other).join('/') === folderOf(file).join('/'));
  const twins = new Map(models.map((file) => [file, twinOf(file.name, near(file))]));
  // A file that holds the collision of another comes with that one.
  const collision = new Set([...twins.values()].filter((twin) => twin !== undefined));
  const meshes = models.filter((file) => !collision.has(file));
  const others = files.filter((file) => !isMeshFile(file.name));
  const known = others.filter((file) => isBesideFile(file.name));
  return {
    meshes: meshes.map((file) => {
      const twin = twins.get(file);
      return { file, beside: [...(twin ? [twin] : []), ...nearestOfEachName(file, known)] };
    }),
    ignored: [
      ...(meshes.length ? [] : known).map((file) => ({
        file,
        why: `${file.name}: no mesh among the files; import ${OPEN}, with its material library and pictures beside it.`,
      })),
      ...others.filter((file) => !known.includes(file)).map((file) => ({ file, why: reasonFor(file.name) })),
    ],
  };
}

function reasonFor(name: string): string {
  const extension = extensionOf(name);
  if (CLOSED.has(extension))
    return `${name}: .${extension} is a closed format; export the mesh as GLB, glTF, COLLADA or OBJ from the program it comes from.`;
  return `${name}: ${extension ? `.${extension} files` : 'files without an ending'} are not read; import ${OPEN}.`;
}

function nearestOfEachName(mesh: File, others: readonly File[]): File[] {
  const byName = new Map<string, File>();
  const nearest = others
    .map((file, i) => ({ file, i, away: stepsBetween(folderOf(mesh), folderOf(file)) }))
    .sort((a, b) => a.away - b.away || a.i - b.i);
  for (const { file } of nearest) {
    const name = file.name.toLowerCase();
    if (!byName.has(name)) byName.set(name, file);
  }
  return [...byName.values()];
}

const folderOf = (file: File): string[] => pathOf(file).split('/').slice(0, -1);

/** How many folders up and down from one to the other. */
function stepsBetween(from: readonly string[], to: readonly string[]): number {
  let same = 0;
  while (same < from.length && same < to.length && from[same] === to[same]) same++;
  return from.length + to.length - 2 * same;
}
