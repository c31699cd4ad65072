import { besideFiles, type FileAmongOthers, sortFiles } from './sort-files.js';

const at = (path: string): FileAmongOthers => ({ name: path.split('/').pop()!, path });
const file = at;
const names = (files: readonly FileAmongOthers[]) => files.map(({ name }) => name);

describe('sortFiles', () => {
  it('offers everything known to each mesh, and says why the rest is ignored', () => {
    const { meshes, ignored } = sortFiles([
      file('oak.png'),
      file('gate.obj'),
      file('anything.mtl'),
      file('notes.txt'),
      file('b.STL'),
    ]);
    expect(meshes.map(({ file, beside }) => [file.name, names(beside)])).toEqual([
      ['gate.obj', ['oak.png', 'anything.mtl']],
      ['b.STL', ['oak.png', 'anything.mtl']],
    ]);
    expect(ignored.map(({ why }) => why)).toEqual([
      'notes.txt: .txt files are not read; import OBJ, GLB, glTF, COLLADA, USDA, STL or PLY.',
    ]);
  });

  it('tells files that belong together from those that are alike by name', () => {
    const files = [
      'quay/wall.obj',
      'quay/wall.mtl',
      'quay/maps/stone.png',
      'loft/wall.obj',
      'loft/wall.mtl',
      'loft/maps/stone.png',
    ].map(at);
    const { meshes } = sortFiles(files);
    expect(meshes.map(({ beside }) => beside)).toEqual([
      [files[1]!, files[2]!],
      [files[4]!, files[5]!],
    ]);
  });

  it('lets the file of a collision come with its model, of its own folder only', () => {
    const files = [
      'quay/wall.obj',
      'quay/wall_collision.obj',
      'loft/wall.obj',
      'loft/post_collision.obj',
    ].map(at);
    expect(sortFiles(files).meshes.map(({ file, beside }) => [file.path, names(beside)])).toEqual([
      ['quay/wall.obj', ['wall_collision.obj']],
      ['loft/wall.obj', []],
      ['loft/post_collision.obj', []],
    ]);
  });

  it('offers everything to a manifest, models too', () => {
    const files = ['models/Post.glb', 'Post.manifest.json', 'other/Post.glb', 'notes.txt'].map(at);
    expect(besideFiles(files[1]!, files)).toEqual([files[3]!, files[0]!]);
  });

  it('names a closed format, and what to export instead', () => {
    const { meshes, ignored } = sortFiles([file('crate.FBX'), file('a.png')]);
    expect(meshes).toEqual([]);
    expect(ignored.map(({ why }) => why)).toEqual([
      jasmine.stringMatching(/^a.png: no mesh among the files/),
      jasmine.stringMatching(/^crate.FBX: .fbx is a closed format; export the mesh as GLB/),
    ]);
  });
});
