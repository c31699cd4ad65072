import fc from 'fast-check';
import { validateBytes } from 'gltf-validator';
import { boundsOf, composeMatrix } from '../math/index.js';
import { massOf, type Mesh, topologyOf, transformMesh } from '../mesh/index.js';
import { surveyMesh } from '../solid/index.js';
import { plainMaterial, plainNode, type Scene, wholeMesh, sceneNoteText } from '../piece/index.js';
import { boxMesh, sceneOf, text, threeParts } from '../testing/meshes.js';
import { FormatError } from './format-error.js';
import { writeGlb } from './gltf/gltf-writer.js';
import { MAX_FILE_BYTES, memoryFile } from './input-file.js';
import { ObjReader } from './obj/obj-reader.js';
import { writeObj } from './obj/obj-writer.js';
import { readFile } from './read-files.js';

const readObj = (content: string, name = 'art.obj') => readFile(memoryFile(name, text(content)));
const refusal = async (promise: Promise<unknown>): Promise<string> => {
  try {
    await promise;
  } catch (error) {
    expect(error).toBeInstanceOf(FormatError);
    return (error as Error).message;
  }
  throw new Error('nothing was refused');
};

const TETRA = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n';
/** 1 x 1 PNG. */
const PNG = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='),
  (c) => c.charCodeAt(0),
);

/** A mesh with everything a vertex can carry, two materials and normals of length 1. */
function richMesh(): Mesh {
  const mesh = threeParts();
  const n = mesh.positions.length / 3;
  mesh.normals = Float32Array.from({ length: n * 3 }, (_, i) => (i % 3 === 1 ? 1 : 0));
  mesh.tangents = Float32Array.from({ length: n * 4 }, (_, i) => (i % 4 === 0 || i % 4 === 3 ? 1 : 0));
  mesh.uvs = [Float32Array.from({ length: n * 2 }, (_, i) => (i % 7) / 8)];
  mesh.colors = Float32Array.from({ length: n * 4 }, (_, i) => (i % 4 === 3 ? 1 : (i % 5) / 4));
  const half = 24;
  mesh.groups = [
    { material: 1, start: 0, count: half },
    { material: 0, start: half, count: mesh.indices.length / 3 - half },
  ];
  return mesh;
}

function richScene(): Scene {
  const brass = {
    ...plainMaterial('brass'),
    baseColor: [0.8, 0.6, 0.2, 1] as [number, number, number, number],
    metalness: 1,
    roughness: 0.25,
    emissive: [0, 0, 2] as [number, number, number],
    doubleSided: true,
  };
  const oak = {
    ...plainMaterial('oak'),
    pictures: { baseColor: { picture: 0, uvSet: 0, wrap: ['clamp', 'mirror'] as ['clamp', 'mirror'] } },
  };
  return {
    unit: { metres: 1, stated: true },
    nodes: [
      { ...plainNode('root', null), translation: [0, 3, 0] },
      { ...plainNode('Leaf', 0, 0), scale: [-2, 1, 0.5], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2] },
    ],
    meshes: [{ name: 'leaf mesh', mesh: richMesh() }],
    materials: [oak, brass],
    pictures: [{ name: 'oak.png', type: 'image/png', bytes: PNG }],
    leftOut: [],
    notes: [],
  };
}

describe('OBJ reader', () => {
  it('reads objects, groups, materials, negative indices and polygons into a tree', async () => {
    const scene = await readObj(
      `# a comment\r\nmtllib x.mtl\r\no Gate\r\nv 0 0 0\r\nv 2 0 0\r\nv 2 1 0\r\nv 0 1 0\r\nvt 0 0\r\nvt 1 0\r\nvt 1 1\r\nvn 0 0 1\r\nusemtl oak\r\nf 1/1/1 2/2/1 3/3/1 4\r\ng Leaf\r\nf -4//-1 -3//-1 -2//-1\r\nl 1 2\r\n`,
    );
    expect(scene.nodes.map(({ name, parent }) => [name, parent])).toEqual([
      ['Gate', null],
      ['Leaf', 0],
    ]);
    expect(scene.materials.map((m) => m.name)).toEqual(['oak']);
    expect(scene.meshes.map((m) => m.mesh.indices.length / 3)).toEqual([2, 1]);
    expect([...scene.meshes[1]!.mesh.normals!]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
    expect(scene.meshes[0]!.mesh.uvs[0]!.slice(0, 4)).toEqual(Float32Array.of(0, 1, 1, 1));
    expect(scene.leftOut).toEqual([{ kind: 'lines', name: '1 × “l”' }]);
    expect(sceneNoteText(scene.notes[0]!)).toContain('x.mtl');
  });

  it('keeps hollow polygons hollow', async () => {
    const scene = await readObj(
      'v 0 0 0\nv 4 0 0\nv 4 3 0\nv 3 3 0\nv 3 1 0\nv 1 1 0\nv 1 3 0\nv 0 3 0\nf 1 2 3 4 5 6 7 8\nf 8 7 6 5 4 3 2 1\nv 0 0 1\nv 2 0 1\nv 0.5 0.5 1\nv 0 2 1\nf -4 -3 -2 -1\n',
    );
    expect(massOf(scene.meshes[0]!.mesh).area).toBeCloseTo(8 * 2 + 1, 9);
  });

  it('reads numbers of every spelling exactly', async () => {
    const spell = fc.oneof(
      fc.double({ noNaN: true, min: -1e30, max: 1e30 }).map(String),
      fc.float({ noNaN: true, min: -Math.fround(1e29), max: Math.fround(1e29) }).map((v) => v.toFixed(6)),
      fc.integer().map(String),
    );
    await fc.assert(
      fc.asyncProperty(fc.tuple(spell, spell, spell), async (numbers) => {
        const scene = await readObj(`v ${numbers.join('   ')}\nv 0 0 0\nv 1 0 0\nf 1 2 3\n`);
        expect([...scene.meshes[0]!.mesh.positions.slice(0, 3)]).toEqual(numbers.map(Number));
      }),
    );
  });

  it('gives the same scene for any cut of the bytes into chunks', () => {
    const bytes = text(`o A\n${TETRA}usemtl \\\nblue\no B\nf 1 2 3 \\\n 4\n`);
    const whole = new ObjReader('a.obj');
    whole.push(bytes);
    const expected = whole.finish();
    fc.assert(
      fc.property(fc.array(fc.nat(bytes.length), { maxLength: 8 }), (cuts) => {
        const reader = new ObjReader('a.obj');
        const places = [0, ...cuts.sort((a, b) => a - b), bytes.length];
        for (let i = 1; i < places.length; i++) reader.push(bytes.slice(places[i - 1], places[i]));
        expect(reader.finish()).toEqual(expected);
      }),
    );
  });

  it('reads vertex colours and material constants', async () => {
    const obj = memoryFile(
      'a.obj',
      text('mtllib a.mtl\nv 0 0 0 1 0 0\nv 1 0 0 0 1 0\nv 0 1 0\nusemtl m\nf 1 2 3\n'),
    );
    const mtl = memoryFile(
      'a.mtl',
      text('newmtl m\nKd 0.1 0.2 0.3\nPr 0.4\nPm 1\nmap_Kd -s 1 1 1 tex\\Oak.PNG\nnorm gone.png\n'),
    );
    const scene = await readFile(obj, [mtl, memoryFile('oak.png', PNG)]);
    expect([...scene.meshes[0]!.mesh.colors!]).toEqual([1, 0, 0, 1, 0, 1, 0, 1, 1, 1, 1, 1]);
    expect(scene.materials[0]).toEqual(jasmine.objectContaining({ roughness: 0.4, metalness: 1 }));
    expect(scene.pictures.map((p) => p.name)).toEqual(['oak.png']);
    expect(scene.notes.map(sceneNoteText)).toEqual([
      'Picture “gone.png” of material “m” is not among the files.',
    ]);
  });

  it('refuses with one sentence that names file, line and remedy', async () => {
    expect(await refusal(readObj('Dear all,\nfind the mesh attached.\n', 'letter.obj'))).toBe(
      'letter.obj, line 1: no faces were found, and “Dear” is not OBJ; export the mesh as OBJ or GLB.',
    );
    expect(await refusal(readObj(`${TETRA}f 1 2 9\n`))).toBe(
      'art.obj, line 9: the face names vertex 9, and there are 4; mend the line or export again.',
    );
    expect(await refusal(readObj(`${TETRA}f 1 2 -5\n`))).toContain(
      'line 9: the face names vertex -5, and there are 4',
    );
    expect(await refusal(readObj(`v 0 nan 0\n${TETRA}`))).toContain(
      'line 1: a number of “v” is missing, not a number or not finite',
    );
    expect(await refusal(readObj(`v 0 1e999 0\n${TETRA}`))).toContain('line 1');
    expect(await refusal(readObj('v 0 0 0\nv 1 0 0\n'))).toContain('the file has no faces');
    expect(await refusal(readObj(`o ${'x'.repeat(10000)}\n${TETRA}`))).toContain('has 10000 characters');
    expect(await refusal(readObj(`o a\u0007b\n${TETRA}`))).toContain(
      'line 1: the object name holds a control character',
    );
    expect(await refusal(readObj(''))).toContain('the file is empty');
    expect(await refusal(readObj(TETRA, 'a/b.obj'))).toContain('path separator');
    expect(await refusal(readObj(TETRA, `${'y'.repeat(10000)}.obj`))).toContain(
      'the file name has 10004 characters',
    );
    expect(await refusal(readObj(TETRA, 'a\n.obj'))).toContain('control character');
    expect(await refusal(readObj(TETRA, 'a.dwg'))).toContain('files ending in “.dwg” are not read');
    expect(
      await refusal(readFile({ ...memoryFile('big.obj', text(TETRA)), size: MAX_FILE_BYTES + 1 })),
    ).toContain('more than the limit of 512 MB');
  });
});

describe('OBJ writer', () => {
  it('writes what reads back the same', async () => {
    const scene = richScene();
    const { obj, mtl } = writeObj(scene, 'art.mtl');
    const back = await readFile(memoryFile('art.obj', obj), [
      memoryFile('art.mtl', mtl),
      memoryFile('oak.png', PNG),
    ]);
    const before = surveyMesh(wholeMesh(scene));
    const after = surveyMesh(wholeMesh(back));
    expect(after).toEqual({
      ...before,
      vertices: after.vertices,
      doubledVertices: after.doubledVertices,
      centroid: after.centroid,
      volume: after.volume,
      area: after.area,
      zeroAreaFaces: after.zeroAreaFaces,
    });
    expect(after.volume).toBeCloseTo(before.volume, 9);
    const brass = back.materials.find((m) => m.name === 'brass')!;
    expect([brass.metalness, brass.roughness, brass.emissive]).toEqual([1, 0.25, [0, 0, 2]]);
    expect(Object.keys(back.materials.find((m) => m.name === 'oak')!.pictures)).toEqual(['baseColor']);
  });
});

describe('GLB', () => {
  it('goes out and comes back the same: tree, attributes, materials, pictures', async () => {
    const scene = richScene();
    const bytes = await writeGlb(scene);
    const report = await validateBytes(bytes);
    expect(report.issues.numErrors).withContext(JSON.stringify(report.issues.messages)).toBe(0);
    const back = await readFile(memoryFile('a.glb', bytes));
    expect(back.nodes.map((node) => [node.name, node.parent, node.scale])).toEqual(
      scene.nodes.map((node) => [node.name, node.parent, node.scale]),
    );
    expect(back.materials).toEqual(scene.materials);
    expect(back.pictures.map((p) => [p.name, p.bytes.length])).toEqual([['oak.png', PNG.length]]);
    const [mesh, original] = [back.meshes[0]!.mesh, scene.meshes[0]!.mesh];
    expect(mesh.groups.map((g) => [g.material, g.count])).toEqual(
      original.groups.map((g) => [g.material, g.count]),
    );
    expect(massOf(mesh).volume).toBeCloseTo(massOf(original).volume, 5);
    expect([
      mesh.normals!.length > 0,
      mesh.tangents!.length > 0,
      mesh.colors!.length > 0,
      mesh.uvs.length,
    ]).toEqual([true, true, true, 1]);
    expect(boundsOf(wholeMesh(back).positions).max[1]).toBeCloseTo(
      boundsOf(wholeMesh(scene).positions).max[1],
      5,
    );
  });

  it('shares one vertex list between materials when the file does', async () => {
    const { json, bin } = await taken(await writeGlb(sceneOf(boxMesh([1, 1, 1]))));
    const primitive = json.meshes[0].primitives[0];
    json.meshes[0].primitives = [primitive, { ...primitive, mode: 5 }];
    const scene = await readFile(memoryFile('a.glb', glbOf(json, bin)));
    expect(scene.meshes[0]!.mesh.positions.length / 3).toBe(8);
  });

  it('goes on without a picture that is missing or is none, and says so', async () => {
    const { json, bin } = await taken(await writeGlb(richScene()));
    for (const [uri, why] of [
      ['gone.png', 'is not among the files'],
      ['data:image/png;base64,aGVsbG8=', 'is no PNG, JPEG or WebP'],
    ]) {
      json.images[0] = { uri, name: 'oak' };
      const scene = await readFile(memoryFile('a.glb', glbOf(json, bin)));
      expect(scene.notes.map(sceneNoteText)).toEqual([`Picture “oak” ${why}.`]);
      expect(scene.materials.flatMap((material) => Object.keys(material.pictures))).toEqual([]);
    }
  });

  it('lists cameras, lights, animations and skins and leaves them out', async () => {
    const { json, bin } = await taken(await writeGlb(sceneOf(boxMesh([1, 1, 1]))));
    json.cameras = [{ type: 'perspective', perspective: { yfov: 1, znear: 0.1 } }];
    json.nodes.push({ name: 'Eye', camera: 0 });
    json.scenes[0].nodes.push(1);
    const scene = await readFile(memoryFile('a.glb', glbOf(json, bin)));
    expect(scene.leftOut).toEqual([{ kind: 'camera', name: 'Eye' }]);
  });

  it('refuses with one sentence that names file, place and remedy', async () => {
    const good = await writeGlb(richScene());
    const { json, bin } = await taken(good);
    const read = (bytes: Uint8Array) => refusal(readFile(memoryFile('art.glb', bytes)));
    const changed = (change: (copy: typeof json) => void) => {
      const copy = JSON.parse(JSON.stringify(json));
      change(copy);
      return read(glbOf(copy, bin));
    };
    expect(await read(good.slice(0, good.length / 2))).toMatch(
      /^art\.glb, byte 8: the header promises \d+ bytes and the file has \d+: it is cut off;/,
    );
    expect(await read(good.slice(0, 15))).toContain('inside the GLB header');
    const lying = good.slice();
    new DataView(lying.buffer).setUint32(8, good.length - 4, true);
    expect(await read(lying)).toContain('byte 8: the header gives a length of');
    const chunk = good.slice();
    new DataView(chunk.buffer).setUint32(12, 2 ** 31, true);
    expect(await read(chunk)).toContain('byte 12: chunk 0 claims');
    expect(await changed((j) => (j.accessors[0].count = 100000))).toMatch(
      /accessor 0: it reaches to byte \d+ of a buffer view of \d+;/,
    );
    expect(await changed((j) => (j.bufferViews[0].byteLength = 1e9))).toContain(
      'buffer view 0: it reaches to byte',
    );
    expect(await changed((j) => (j.meshes[0].primitives[0].indices = 99))).toContain(
      'mesh 0: it names accessor 99',
    );
    expect(await changed((j) => (j.nodes[1].children = [0]))).toMatch(/node \d/);
    expect(await changed((j) => (j.buffers[0].uri = 'far.bin'))).toContain(
      'buffer 0: buffer “far.bin” is not among the files',
    );
    expect(await changed((j) => (j.nodes[0].name = 'x'.repeat(10000)))).toContain('has 10000 characters');
    expect(await changed((j) => (j.extensionsRequired = ['VENDOR_thing']))).toContain(
      'without the extension VENDOR_thing',
    );
    const view =
      json.bufferViews[json.accessors[json.meshes[0].primitives[0].attributes.POSITION].bufferView];
    const nan = bin.slice();
    new DataView(nan.buffer).setFloat32(view.byteOffset ?? 0, NaN, true);
    expect(await read(glbOf(json, nan))).toMatch(/accessor \d+: element 0 is not a finite number;/);
  });

  it('tells of any four bytes whether they are a number, and a vertex that is there', async () => {
    const { json, bin: short } = await taken(await writeGlb(sceneOf(boxMesh([1, 1, 1]))));
    const { attributes, indices } = json.meshes[0].primitives[0];
    // Where the last number of an accessor stands.
    const lastOf = (accessor: number): number => {
      const { bufferView, byteOffset = 0, count, type } = json.accessors[accessor];
      const width = type === 'VEC3' ? 3 : 1;
      return (json.bufferViews[bufferView].byteOffset ?? 0) + byteOffset + (count * width - 1) * 4;
    };
    const vertices: number = json.accessors[attributes.POSITION].count;
    // Few corners are written as two bytes each; four can name any number.
    const { bufferView, byteOffset = 0, count } = json.accessors[indices];
    const from = (json.bufferViews[bufferView].byteOffset ?? 0) + byteOffset;
    const corners = Uint32Array.from(new Uint16Array(short.slice(from, from + count * 2).buffer));
    const bin = new Uint8Array([...short, ...new Uint8Array(corners.buffer)]);
    json.bufferViews.push({ buffer: 0, byteOffset: short.length, byteLength: corners.byteLength });
    json.buffers[0].byteLength = bin.length;
    Object.assign(json.accessors[indices], {
      bufferView: json.bufferViews.length - 1,
      byteOffset: 0,
      componentType: 5125,
    });
    const sentence = (bytes: Uint8Array) =>
      readFile(memoryFile('art.glb', bytes)).then(
        () => '',
        (error: Error) => error.message,
      );
    const odd = fc.constantFrom(0x7f800000, 0xff800000, 0x7fc00000, 0x7f7fffff, 0xff7fffff, 0x7149f2ca, 0);
    const bits = fc.oneof(odd, fc.integer({ min: 0, max: 0xffffffff }));
    await fc.assert(
      fc.asyncProperty(bits, async (value) => {
        const changed = bin.slice();
        const view = new DataView(changed.buffer, changed.byteOffset);
        view.setUint32(lastOf(attributes.POSITION), value, true);
        const number = view.getFloat32(lastOf(attributes.POSITION), true);
        const read = await sentence(glbOf(json, changed));
        if (!Number.isFinite(number))
          expect(read).toContain(`element ${vertices - 1} is not a finite number`);
        else if (Math.abs(number) > 1e30) expect(read).toContain('farther than anything');
        else expect(read).toBe('');
      }),
      { numRuns: 60 },
    );
    const index = fc.oneof(fc.constantFrom(vertices, 2 ** 31, 2 ** 32 - 1), fc.nat({ max: 2 * vertices }));
    await fc.assert(
      fc.asyncProperty(index, async (value) => {
        const changed = bin.slice();
        new DataView(changed.buffer, changed.byteOffset).setUint32(lastOf(indices), value, true);
        const read = await sentence(glbOf(json, changed));
        if (value < vertices) expect(read).toBe('');
        else expect(read).toContain(`names vertex ${value}, and there are ${vertices}`);
      }),
      { numRuns: 30 },
    );
  });
});

describe('fuzzed readers', () => {
  const survives = async (name: string, bytes: Uint8Array) => {
    try {
      const scene = await readFile(memoryFile(name, bytes));
      topologyOf(
        transformMesh(
          wholeMesh(scene),
          composeMatrix({ translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] }),
        ),
      );
    } catch (error) {
      expect(error)
        .withContext(String((error as Error).stack))
        .toBeInstanceOf(FormatError);
    }
  };
  const mutation = fc.array(
    fc.record({ at: fc.double({ min: 0, max: 1, noNaN: true }), byte: fc.nat(255), cut: fc.boolean() }),
    { minLength: 1, maxLength: 6 },
  );
  const mutate = (good: Uint8Array, changes: { at: number; byte: number; cut: boolean }[]) => {
    let bytes = good.slice();
    for (const { at, byte, cut } of changes) {
      const place = Math.min(bytes.length - 1, Math.floor(at * bytes.length));
      if (cut && byte < 40) bytes = bytes.slice(0, place);
      else if (place >= 0) bytes[place] = byte;
    }
    return bytes;
  };

  it('return or throw their own error, for mutated OBJ', async () => {
    const good = writeObj(richScene()).obj;
    await fc.assert(
      fc.asyncProperty(mutation, (changes) => survives('a.obj', mutate(good, changes))),
      { numRuns: 300 },
    );
  });

  it('return or throw their own error, for mutated GLB', async () => {
    const good = await writeGlb(richScene());
    await fc.assert(
      fc.asyncProperty(mutation, (changes) => survives('a.glb', mutate(good, changes))),
      { numRuns: 400 },
    );
  });

  it('return or throw their own error, for mutated JSON of a GLB', async () => {
    const { json, bin } = await taken(await writeGlb(richScene()));
    const source = text(JSON.stringify(json));
    await fc.assert(
      fc.asyncProperty(mutation, (changes) =>
        survives(
          'a.glb',
          glbOfText(
            mutate(
              source,
              changes.map((c) => ({ ...c, byte: 32 + (c.byte % 95), cut: false })),
            ),
            bin,
          ),
        ),
      ),
      { numRuns: 600 },
    );
  });
});

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- the tests bend this JSON at will
type LooseJson = any;

async function taken(glb: Uint8Array): Promise<{ json: LooseJson; bin: Uint8Array }> {
  const view = new DataView(glb.buffer, glb.byteOffset);
  const length = view.getUint32(12, true);
  return {
    json: JSON.parse(new TextDecoder().decode(glb.slice(20, 20 + length))),
    bin: glb.slice(28 + length),
  };
}

const glbOf = (json: unknown, bin: Uint8Array) => glbOfText(text(JSON.stringify(json)), bin);

function glbOfText(json: Uint8Array, bin: Uint8Array): Uint8Array {
  const padded = Math.ceil(json.length / 4) * 4;
  const bytes = new Uint8Array(28 + padded + bin.length).fill(32);
  const view = new DataView(bytes.buffer);
  [0x46546c67, 2, bytes.length, padded, 0x4e4f534a].forEach((word, i) => view.setUint32(i * 4, word, true));
  bytes.set(json, 20);
  view.setUint32(20 + padded, bin.length, true);
  view.setUint32(24 + padded, 0x004e4942, true);
  bytes.set(bin, 28 + padded);
  return bytes;
}
