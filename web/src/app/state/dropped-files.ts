import { countText } from '@yard-brace/core';

/** Most files that are taken out of dropped folders. */
export const MAX_DROPPED_FILES = 2000;

const paths = new WeakMap<File, string>();

/** Where a file stood among what was dropped or chosen: its path from there, or its name alone. */
export const pathOf = (file: File): string => paths.get(file) ?? (file.webkitRelativePath || file.name);

/** A file as it comes out of a dropped folder. */
export function atPath(file: File, path: string): File {
  paths.set(file, path);
  return file;
}

/** The same with its place, among others. */
export const placed = (file: File) => ({ file, name: file.name, path: pathOf(file) });

export interface Dropped {
  files: File[];
  /** sentences on what was dropped and did not come */
  missing: string[];
}

/** The files of a drop, folders gone through; in the order of their paths, so that it is the same every time. */
export async function droppedFiles(transfer: DataTransfer): Promise<Dropped> {
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
  if (entries.every((entry) => entry.isFile)) return { files: [...transfer.files], missing: [] };
  const files: { path: string; file: File }[] = [];
  const missing: string[] = [];
  const waiting: FileSystemEntry[] = [...entries];
  for (let entry = waiting.pop(); entry; entry = waiting.pop()) {
    if (files.length === MAX_DROPPED_FILES) {
      missing.push(
        `Only ${countText(MAX_DROPPED_FILES)} files of the dropped folders were taken; drop fewer folders at a time.`,
      );
      break;
    }
    const { fullPath } = entry;
    try {
      if (entry.isFile) {
        const file = await fileOf(entry as FileSystemFileEntry);
        files.push({ path: fullPath, file: atPath(file, fullPath) });
      } else waiting.push(...(await listed((entry as FileSystemDirectoryEntry).createReader())));
    } catch {
      missing.push(
        `${fullPath.slice(1)} could not be read; see whether it is still there, and drop it again.`,
      );
    }
  }
  return { files: files.sort((a, b) => (a.path < b.path ? -1 : 1)).map(({ file }) => file), missing };
}

const fileOf = (entry: FileSystemFileEntry): Promise<File> =>
  new Promise((resolve, reject) => entry.file(resolve, reject));

/** A folder tells its entries a hundred at a time. */
async function listed(reader: FileSystemDirectoryReader): Promise<FileSystemEntry[]> {
  const all: FileSystemEntry[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) =>
      reader.readEntries(resolve, reject),
    );
    if (some.length === 0) return all;
    all.push(...some);
  }
}
