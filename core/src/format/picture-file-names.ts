import type { Picture } from '../piece/index.js';

const ENDINGS = { 'image/png': 'png', 'image/jpeg': 'jpg', 'image/webp': 'webp' } as const;

/** A name without its ending, as a file can be called. */
export const pictureStem = (name: string): string =>
  name.replace(/\.[^.]*$/, '').replace(/[\\/:*?"<>|]/g, '_') || 'picture';

/** A file name for each picture: its own with the right ending, made different where two are the same. */
export function pictureFileNames(pictures: readonly Pick<Picture, 'name' | 'type'>[]): string[] {
  const taken = new Set<string>();
  return pictures.map(({ name, type }) => {
    const stem = pictureStem(name);
    const ending =
      /\.jpe?g$/i.test(name) && type === 'image/jpeg' ? name.replace(/^.*\./, '') : ENDINGS[type];
    let file = `${stem}.${ending}`;
    for (let i = 2; taken.has(file.toLowerCase()); i++) file = `${stem}-${i}.${ending}`;
    taken.add(file.toLowerCase());
    return file;
  });
}
