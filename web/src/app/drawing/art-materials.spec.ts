import { stripArt } from '../testing/strip';
import { ArtObject } from './art-object';

describe('the look of art', () => {
  it('puts the checker on the set that is asked for, and on nothing where there is no such set', () => {
    const { art, document } = stripArt();
    const vertices = art.positions.length / 3;
    const uvs = [new Float32Array(vertices * 2), new Float32Array(vertices * 2).fill(0.5)];
    const object = new ArtObject({ ...art, key: 'two sets', uvs }, document, () => undefined);
    const maps = () => object.mesh.material.map(({ map }) => map);
    const look = { facing: false, wire: false };
    object.look({ ...look, checker: true, checkerSet: 1 });
    expect(maps().map((map) => map!.channel)).toEqual([1, 1]);
    expect([...object.mesh.geometry.getAttribute('uv1').array]).toEqual([...uvs[1]!]);
    object.look({ ...look, checker: true });
    expect(maps().map((map) => map!.channel)).toEqual([0, 0]);
    object.look({ ...look, checker: true, checkerSet: 2 });
    expect(maps()).toEqual([null, null]);
    object.dispose();
  });
});
