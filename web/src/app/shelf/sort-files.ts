import { extensionOf, isBesideFile, isMeshFile } from '@yard-brace/core';

/** Dropped files in the order of work: each mesh file with everything that may stand beside it. */
export interface SortedFiles {
  meshes: { file: File; beside: File[] }[];
  /** files that no mesh file came with */
  stray: string[];
}

/** A mesh file takes along what is named in it; that is only known after reading, so all neighbours are offered. */
export function sortFiles(files: readonly File[]): SortedFiles {
  const meshes = files.filter((file) => isMeshFile(file.name));
  const others = files.filter((file) => !isMeshFile(file.name));
  const known = others.filter((file) => isBesideFile(file.name));
  if (meshes.length === 0) return { meshes: [], stray: files.map((file) => file.name) };
  const lone = meshes.length === 1;
  return {
    meshes: meshes.map((file) => ({
      file,
      beside: lone
        ? known
        : known.filter((other) => extensionOf(other.name) !== 'mtl' || stem(other) === stem(file)),
    })),
    stray: others.filter((file) => !known.includes(file)).map((file) => file.name),
  };
}

const stem = (file: File) => file.name.replace(/\.[^.]*$/, '').toLowerCase();
