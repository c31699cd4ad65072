/** Most files that are taken out of dropped folders. */
export const MOST_DROPPED = 2000;

const paths = new WeakMap<File, string>();

/** Where a file stood among what was dropped or chosen: its path from there, or its name alone. */
export const pathOf = (file: File): string => paths.get(file) ?? (file.webkitRelativePath || file.name);

/** A file as it comes out of a dropped folder. */
export function atPath(file: File, path: string): File {
  paths.set(file, path);
  return file;
}

/** The files of a drop, folders gone through; in the order of their paths, so that it is the same every time. */
export async function droppedFiles(transfer: DataTransfer): Promise<File[]> {
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
  if (entries.every((entry) => entry.isFile)) return [...transfer.files];
  const files: { path: string; file: File }[] = [];
  const waiting: FileSystemEntry[] = [...entries];
  for (let entry = waiting.pop(); entry && files.length < MOST_DROPPED; entry = waiting.pop()) {
    if (entry.isFile) {
      const file = await new Promise<File | null>((resolve) =>
        (entry as FileSystemFileEntry).file(resolve, () => resolve(null)),
      );
      if (file) files.push({ path: entry.fullPath, file: atPath(file, entry.fullPath) });
    } else waiting.push(...(await listed((entry as FileSystemDirectoryEntry).createReader())));
  }
  return files.sort((a, b) => (a.path < b.path ? -1 : 1)).map(({ file }) => file);
}

/** A folder tells its entries a hundred at a time. */
async function listed(reader: FileSystemDirectoryReader): Promise<FileSystemEntry[]> {
  const all: FileSystemEntry[] = [];
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve) =>
      reader.readEntries(resolve, () => resolve([])),
    );
    if (some.length === 0) return all;
    all.push(...some);
  }
}
