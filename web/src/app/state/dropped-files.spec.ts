import { atPath, droppedFiles, MAX_DROPPED_FILES, pathOf } from './dropped-files';

const fileEntry = (path: string): FileSystemFileEntry =>
  ({
    isFile: true,
    isDirectory: false,
    fullPath: path,
    file: (done: (file: File) => void) => done(new File(['x'], path.split('/').pop()!)),
  }) as unknown as FileSystemFileEntry;
/** A folder that tells its entries two at a time. */
const folder = (path: string, ...entries: FileSystemEntry[]): FileSystemDirectoryEntry =>
  ({
    isFile: false,
    isDirectory: true,
    fullPath: path,
    createReader: () => {
      let at = 0;
      return {
        readEntries: (done: (some: FileSystemEntry[]) => void) => {
          done(entries.slice(at, at + 2));
          at += 2;
        },
      };
    },
  }) as unknown as FileSystemDirectoryEntry;
const dropped = (...entries: FileSystemEntry[]) =>
  droppedFiles({
    items: entries.map((entry) => ({ webkitGetAsEntry: () => entry })),
    files: entries.map((entry) => new File(['x'], entry.fullPath.split('/').pop()!)),
  } as unknown as DataTransfer);

describe('files that are dropped', () => {
  it('come out of folders in folders, in the order of their paths, with where they stood', async () => {
    const { files } = await dropped(
      folder(
        '/kit',
        fileEntry('/kit/b.obj'),
        folder(
          '/kit/tex',
          fileEntry('/kit/tex/b.png'),
          fileEntry('/kit/tex/a.png'),
          fileEntry('/kit/tex/c.png'),
        ),
        fileEntry('/kit/a.obj'),
      ),
    );
    expect(files.map(pathOf)).toEqual([
      '/kit/a.obj',
      '/kit/b.obj',
      '/kit/tex/a.png',
      '/kit/tex/b.png',
      '/kit/tex/c.png',
    ]);
  });

  it('are taken as they are when there is no folder among them', async () => {
    expect((await dropped(fileEntry('/z.obj'), fileEntry('/a.obj'))).files.map(({ name }) => name)).toEqual([
      'z.obj',
      'a.obj',
    ]);
  });

  it('that cannot be read are named, and the others come', async () => {
    const torn = {
      ...fileEntry('/kit/torn.obj'),
      file: (_done: unknown, failed: () => void) => failed(),
    } as unknown as FileSystemEntry;
    const closed = {
      ...folder('/kit/closed'),
      createReader: () => ({ readEntries: (_done: unknown, failed: () => void) => failed() }),
    } as unknown as FileSystemEntry;
    const { files, missing } = await dropped(folder('/kit', torn, closed, fileEntry('/kit/a.obj')));
    expect(files.map(pathOf)).toEqual(['/kit/a.obj']);
    expect(missing).toHaveSize(2);
    expect(missing.join()).toMatch(/kit\/closed could not be read.*kit\/torn.obj could not be read/);
  });

  it('are taken up to a limit that is said', async () => {
    const many = Array.from({ length: MAX_DROPPED_FILES + 1 }, (_, i) => fileEntry(`/kit/${i}.png`));
    const { files, missing } = await dropped(folder('/kit', ...many));
    expect(files).toHaveSize(MAX_DROPPED_FILES);
    expect(missing).toEqual([jasmine.stringMatching(/^Only 2,000 files of the dropped folders were taken/)]);
    expect((await dropped(folder('/kit', ...many.slice(1)))).missing).toEqual([]);
  });

  it('know their path from where they were chosen, or their name', () => {
    expect(pathOf(new File([''], 'a.obj'))).toBe('a.obj');
    expect(pathOf(atPath(new File([''], 'a.obj'), '/kit/a.obj'))).toBe('/kit/a.obj');
  });
});
