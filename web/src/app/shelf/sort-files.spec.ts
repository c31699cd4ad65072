import { sortFiles } from './sort-files';

const file = (name: string) => new File(['x'], name);
const names = (files: File[]) => files.map(({ name }) => name);

describe('sortFiles', () => {
  it('puts everything beside a lone mesh', () => {
    const { meshes, stray } = sortFiles([
      file('oak.png'),
      file('gate.obj'),
      file('anything.mtl'),
      file('notes.txt'),
    ]);
    expect(meshes.map(({ file, beside }) => [file.name, names(beside)])).toEqual([
      ['gate.obj', ['oak.png', 'anything.mtl']],
    ]);
    expect(stray).toEqual(['notes.txt']);
  });

  it('gives each of several meshes its own library and all pictures', () => {
    const { meshes } = sortFiles([
      file('a.obj'),
      file('a.mtl'),
      file('b.OBJ'),
      file('b.mtl'),
      file('oak.png'),
    ]);
    expect(meshes.map(({ beside }) => names(beside))).toEqual([
      ['a.mtl', 'oak.png'],
      ['b.mtl', 'oak.png'],
    ]);
  });

  it('finds no mesh among other files', () => {
    expect(sortFiles([file('a.png'), file('b.txt')])).toEqual({ meshes: [], stray: ['a.png', 'b.txt'] });
  });
});
