import { extensionOf, isBesideFile, isMeshFile } from '../format/index.js';
import { twinOf } from './collision-twin.js';
import { isManifestFile } from './manifest.js';

/** A file among others that came with it. */
export interface FileAmongOthers {
  name: string;
  /** its place in the folders that came, with “/” between them; its name alone where it came alone */
  path: string;
}

/** Files in the order of work: each mesh file with everything that may stand beside it. */
export interface SortedFiles<F> {
  meshes: { file: F; beside: F[] }[];
  /** files that belong to no mesh, each with the reason */
  ignored: { file: F; why: string }[];
}

const OPEN = 'OBJ, GLB, glTF, COLLADA, USDA, STL or PLY';
/** Formats that only the programs read which write them. */
const CLOSED = new Set(['fbx', 'dwg']);

/**
 * A mesh file takes along what is named in it, which is only known after reading, so all others are offered to it:
 * those of its own folder first, and of several that bear one name only the nearest. A file that holds the collision of
 * another comes with that one.
 */
export function sortFiles<F extends FileAmongOthers>(files: readonly F[]): SortedFiles<F> {
  const models = files.filter(({ name }) => isMeshFile(name));
  const twins = new Set(models.map((file) => twinAmong(file, models)));
  const meshes = models.filter((file) => !twins.has(file));
  const others = files.filter(({ name }) => !isMeshFile(name));
  const known = others.filter(({ name }) => isBesideFile(name));
  return {
    meshes: meshes.map((file) => ({ file, beside: besideFiles(file, files) })),
    ignored: [
      ...(meshes.length ? [] : known).map((file) => ({
        file,
        why: `${file.name}: no mesh among the files; import ${OPEN}, with its material library and pictures beside it.`,
      })),
      ...others.filter((file) => !known.includes(file)).map((file) => ({ file, why: reasonFor(file.name) })),
    ],
  };
}

/** What is offered to a mesh file among others, the nearest first; to a manifest of a delivery all of them. */
export function besideFiles<F extends FileAmongOthers>(main: F, files: readonly F[]): F[] {
  const others = files.filter((file) => file !== main);
  if (isManifestFile(main.name)) return nearestOfEachName(main, others);
  const twin = twinAmong(main, others);
  const known = others.filter(({ name }) => isBesideFile(name));
  return [...(twin ? [twin] : []), ...nearestOfEachName(main, known)];
}

function reasonFor(name: string): string {
  const extension = extensionOf(name);
  if (CLOSED.has(extension))
    return `${name}: .${extension} is a closed format; export the mesh as GLB, glTF, COLLADA or OBJ from the program it comes from.`;
  return `${name}: ${extension ? `.${extension} files` : 'files without an ending'} are not read; import ${OPEN}.`;
}

/** The collision file of a model, in its own folder. */
const twinAmong = <F extends FileAmongOthers>(model: F, files: readonly F[]): F | undefined =>
  twinOf(
    model.name,
    files.filter((other) => folderOf(other) === folderOf(model)),
  );

function nearestOfEachName<F extends FileAmongOthers>(main: F, others: readonly F[]): F[] {
  const byName = new Map<string, F>();
  const nearest = others
    .map((file, i) => ({ file, i, away: stepsBetween(folderOf(main), folderOf(file)) }))
    .sort((a, b) => a.away - b.away || a.i - b.i);
  for (const { file } of nearest) {
    const name = file.name.toLowerCase();
    if (!byName.has(name)) byName.set(name, file);
  }
  return [...byName.values()];
}

const folderOf = ({ path }: FileAmongOthers): string => path.slice(0, path.lastIndexOf('/') + 1);

/** How many folders up and down from one to the other. */
function stepsBetween(one: string, other: string): number {
  const [from, to] = [one.split('/'), other.split('/')];
  let same = 0;
  while (same < from.length && same < to.length && from[same] === to[same]) same++;
  return from.length + to.length - 2 * same;
}
