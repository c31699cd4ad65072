import { Document, WebIO } from '@gltf-transform/core';
import {
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import { MeshoptEncoder } from 'meshoptimizer';
import { type Mesh, meshBounds } from '../mesh/index.js';
import { pieceDocumentSchema, type Scene, sceneNoteText } from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { FormatError, memoryFile, readFile, writeGlb } from './index.js';
import { writeGltf } from './gltf/gltf-writer.js';

const utf16 = (text: string, big = false): Uint8Array => {
  const out = new Uint8Array(2 + text.length * 2);
  const view = new DataView(out.buffer);
  view.setUint16(0, 0xfeff, !big);
  for (let i = 0; i < text.length; i++) view.setUint16(2 + i * 2, text.charCodeAt(i), !big);
  return out;
};
const utf8 = (text: string) => new TextEncoder().encode(text);
const OBJ = 'o Poller Nö\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n';
const DAE = `<?xml version="1.0" encoding="UTF-16"?><COLLADA version="1.4.1"><library_geometries><geometry id="g" name="Ö"><mesh>
<source id="p"><float_array id="a" count="9">0 0 0 1 0 0 0 1 0</float_array><technique_common><accessor source="#a" count="3" stride="3">
<param name="X" type="float"/><param name="Y" type="float"/><param name="Z" type="float"/></accessor></technique_common></source>
<vertices id="v"><input semantic="POSITION" source="#p"/></vertices><triangles count="1"><input semantic="VERTEX" source="#v" offset="0"/><p>0 1 2</p></triangles>
</mesh></geometry></library_geometries><library_visual_scenes><visual_scene id="s"><node name="Tür"><instance_geometry url="#g"/></node></visual_scene></library_visual_scenes>
<scene><instance_visual_scene url="#s"/></scene></COLLADA>`;

/** A file that comes in chunks of one byte: nothing may depend on where a chunk ends. */
const trickled = (name: string, bytes: Uint8Array) => ({
  ...memoryFile(name, bytes),
  async *chunks() {
    for (const byte of bytes) yield Uint8Array.of(byte);
  },
});
const nodeNames = ({ nodes }: Scene) => nodes.map(({ name }) => name);

describe('files of other makes', () => {
  it('are read as UTF-16 with a byte order mark, OBJ and COLLADA, however they arrive', async () => {
    for (const big of [false, true]) {
      for (const make of [memoryFile, trickled]) {
        expect(nodeNames(await readFile(make('a.obj', utf16(OBJ, big))))).toEqual(['Poller Nö']);
        expect(nodeNames(await readFile(make('a.dae', utf16(DAE, big))))).toEqual(['Tür']);
      }
    }
    expect(nodeNames(await readFile(trickled('a.obj', utf8(`\ufeff${OBJ}`))))).toEqual(['Poller Nö']);
    expect(nodeNames(await readFile(memoryFile('a.dae', utf8(`\ufeff${DAE}`))))).toEqual(['Tür']);
  });

  describe('with compression', () => {
    const source = () => sceneOf(boxMesh([1, 2, 3], [4, 5, 6]), 'Crate');
    const sameBox = (scene: Scene) => {
      const { min, max } = meshBounds(scene.meshes[0]!.mesh);
      [3, 3, 3].forEach((v, k) => expect(min[k]).toBeCloseTo(v, 2));
      [5, 7, 9].forEach((v, k) => expect(max[k]).toBeCloseTo(v, 2));
      expect(scene.meshes[0]!.mesh.indices.length).toBe(36);
    };

    it('by meshopt, as GLB and as glTF with a buffer that is not there', async () => {
      await MeshoptEncoder.ready;
      const io = new WebIO()
        .registerExtensions([EXTMeshoptCompression])
        .registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
      const document = await io.readBinary(await writeGlb(source()));
      document.createExtension(EXTMeshoptCompression).setRequired(true);
      sameBox(await readFile(memoryFile('crate.glb', await io.writeBinary(document))));
      const { json, resources } = await io.writeJSON(document);
      expect(json.buffers!.some(({ uri }) => uri === undefined)).toBeTrue();
      const beside = Object.entries(resources).map(([name, bytes]) => memoryFile(name, bytes));
      sameBox(await readFile(memoryFile('crate.gltf', utf8(JSON.stringify(json))), beside));
    });

    it('by Draco', async () => {
      // Its encoder finds its own file in Node only; reading it in a browser is tried end to end.
      if (!('process' in globalThis)) pending('no encoder in a browser');
      const { default: draco } = await import('draco3d');
      const io = new WebIO()
        .registerExtensions([KHRDracoMeshCompression])
        .registerDependencies({ 'draco3d.encoder': await draco.createEncoderModule() });
      const document = await io.readBinary(await writeGlb(source()));
      document.createExtension(KHRDracoMeshCompression).setRequired(true);
      sameBox(await readFile(memoryFile('crate.glb', await io.writeBinary(document))));
    });

    it('that claims to come to more than it can is refused', async () => {
      await MeshoptEncoder.ready;
      const io = new WebIO()
        .registerExtensions([EXTMeshoptCompression])
        .registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
      const document = await io.readBinary(await writeGlb(source()));
      document.createExtension(EXTMeshoptCompression).setRequired(true);
      const { json, resources } = await io.writeJSON(document);
      const view = json.bufferViews!.find(({ extensions }) => extensions)!;
      (view.extensions!['EXT_meshopt_compression'] as { count: number }).count = 2 ** 30;
      const beside = Object.entries(resources).map(([name, bytes]) => memoryFile(name, bytes));
      await expectAsync(
        readFile(memoryFile('bomb.gltf', utf8(JSON.stringify(json))), beside),
      ).toBeRejectedWithError(FormatError, /buffer view \d: it claims to come to \d+ bytes/);
    });
  });

  it('with moved textures have their UVs moved', async () => {
    const document = new Document();
    const buffer = document.createBuffer();
    const vec = (type: 'VEC2' | 'VEC3', array: number[]) =>
      document.createAccessor().setType(type).setArray(Float32Array.from(array)).setBuffer(buffer);
    const transform = document.createExtension(KHRTextureTransform).createTransform();
    transform
      .setOffset([0.5, 0.25])
      .setScale([2, 4])
      .setRotation(Math.PI / 2);
    const png = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
    const texture = document.createTexture('oak').setImage(png).setMimeType('image/png');
    const material = document.createMaterial('oak').setBaseColorTexture(texture);
    material.getBaseColorTextureInfo()!.setExtension('KHR_texture_transform', transform);
    const primitive = document
      .createPrimitive()
      .setMaterial(material)
      .setAttribute('POSITION', vec('VEC3', [0, 0, 0, 1, 0, 0, 0, 1, 0]))
      .setAttribute('TEXCOORD_0', vec('VEC2', [0, 0, 1, 0, 0, 1]));
    document
      .createScene()
      .addChild(document.createNode('a').setMesh(document.createMesh().addPrimitive(primitive)));
    const io = new WebIO().registerExtensions([KHRTextureTransform]);
    const scene = await readFile(memoryFile('oak.glb', await io.writeBinary(document)));
    // Scaled, then turned, then shifted, as the extension says.
    const uv = [...scene.meshes[0]!.mesh.uvs[0]!].map((v) => Math.round(v * 1e5) / 1e5);
    expect(uv).toEqual([0.5, 0.25, 0.5, -1.75, 4.5, 0.25]);
  });

  it('with numbers beyond all measure are refused by their reader, in its own sentence', async () => {
    const stl =
      'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 1e308\nvertex 1e308 0 0\nvertex 0 1e308 0\nendloop\nendfacet\nendsolid\n';
    for (const [name, text] of [
      ['far.stl', stl],
      ['far.obj', 'v 0 0 0\nv 1e77 0 0\nv 0 1e77 0\nf 1 2 3\n'],
    ] as const)
      await expectAsync(readFile(memoryFile(name, utf8(text)))).toBeRejectedWithError(
        FormatError,
        /farther than anything that can be measured; check the unit/,
      );
    const near = await readFile(memoryFile('near.obj', utf8('v 0 0 0\nv 1e29 0 0\nv 0 1e29 0\nf 1 2 3\n')));
    expect(pieceDocumentSchema.safeParse(pieceOf(near).document).success).toBeTrue();
  });

  it('with material values that are none get the usual ones, with a note; the piece can be stored', async () => {
    const glb = await writeGlb({
      ...sceneOf(boxMesh([1, 1, 1])),
      materials: [{ ...(await import('../piece/index.js')).plainMaterial('oak') }],
    });
    const { json } = await new WebIO().binaryToJSON(glb);
    json.materials = [
      {
        name: 'oak \ud800',
        pbrMetallicRoughness: {
          metallicFactor: 'shiny' as unknown as number,
          roughnessFactor: null as unknown as number,
        },
        alphaMode: 'GLASS' as 'MASK',
      },
    ];
    json.nodes![0]!.name = 'crate \udc00';
    const mesh = json.meshes![0]!.primitives[0] as { material?: number };
    mesh.material = 0;
    const bytes = (await new WebIO().binaryToJSON(glb)).resources['@glb.bin']!;
    json.buffers![0]!.uri = 'odd.bin';
    const scene = await readFile(memoryFile('odd.gltf', utf8(JSON.stringify(json))), [
      memoryFile('odd.bin', bytes),
    ]);
    expect(scene.materials[0]).toEqual(
      jasmine.objectContaining({ metalness: 0, roughness: 0.9, alpha: 'opaque' }),
    );
    expect(scene.notes.map(sceneNoteText).join()).toContain('the usual ones stand in');
    expect([scene.materials[0]!.name, scene.nodes[0]!.name]).toEqual(['oak \ufffd', 'crate \ufffd']);
    expect(pieceDocumentSchema.safeParse(pieceOf(scene).document).success).toBeTrue();
  });

  it('with something that can be mended are read, and what was mended is said', async () => {
    const said = async (name: string, bytes: Uint8Array) => {
      const scene = await readFile(memoryFile(name, bytes));
      return { ...scene, said: scene.notes.map(sceneNoteText) };
    };
    const bare = await said('bare.obj', utf8(`${OBJ}f\nf 1 2 3\n   f   \n`));
    expect(bare.meshes[0]!.mesh.indices.length).toBe(6);
    expect(bare.said).toEqual(['2 lines that do not belong there were passed over, the first is line 6.']);

    const commas = DAE.replace('0 0 0 1 0 0 0 1 0', '0,5 0 0 1,25 0 0 0,5 1e0 -0,75');
    const dae = await said('commas.dae', utf8(commas.replace('UTF-16', 'UTF-8')));
    expect([...dae.meshes[0]!.mesh.positions]).toEqual([0.5, 0, 0, 1.25, 0, 0, 0.5, 1, -0.75]);
    expect(dae.said).toEqual(['Numbers are written with decimal commas and were read so.']);
    await expectAsync(
      readFile(memoryFile('a.dae', utf8(commas.replace('0,5 0', '0,5,1 0')))),
    ).toBeRejectedWithError(FormatError, /“0,5,1” in <float_array> is not a finite number/);

    const ply = await said(
      'stray.ply',
      utf8(
        'ply\nformat ascii 1.0\ntexture wood.png\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n',
      ),
    );
    expect(ply.said).toEqual(['1 line that does not belong there was passed over, line 3.']);

    const document = new Document();
    const buffer = document.createBuffer();
    const of = (type: 'VEC3' | 'VEC4', numbers: number[]) =>
      document.createAccessor().setType(type).setArray(Float32Array.from(numbers)).setBuffer(buffer);
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', of('VEC3', [0, 0, 0, 1, 0, 0, 0, 1, 0]))
      .setAttribute('NORMAL', of('VEC3', [0, 0, 1, NaN, 0, 1, 0, 0, 1]))
      .setAttribute('TANGENT', of('VEC4', [1, 0, 0, 1]))
      .setAttribute('COLOR_0', of('VEC4', [1, 1, 1, Infinity, 1, 1, 1, 1, 1, 1, 1, 1]));
    document
      .createScene()
      .addChild(document.createNode('a').setMesh(document.createMesh('sail').addPrimitive(primitive)));
    const glb = await said('odd.glb', await new WebIO().writeBinary(document));
    expect(glb.meshes[0]!.mesh.normals).toBeUndefined();
    expect(glb.said).toEqual([
      'Normals of “sail” were not finite; they are made anew.',
      'Tangents of “sail” were too few; they are made anew.',
      'Colours of “sail” were not finite; they were left out.',
    ]);
  });

  it('of an older glTF are refused by its name', async () => {
    const first = { asset: { version: '1.0' }, meshes: { m: {} }, accessors: { a: {} } };
    await expectAsync(readFile(memoryFile('old.gltf', utf8(JSON.stringify(first))))).toBeRejectedWithError(
      FormatError,
      /the file says glTF version 1\.0, and only version 2 is read/,
    );
  });

  it('with extensions that are not read are told as left out, and the library beneath says nothing', async () => {
    const heard: unknown[] = [];
    const { console } = globalThis as unknown as { console: Record<string, (...words: unknown[]) => void> };
    for (const way of ['debug', 'log', 'info', 'warn', 'error'])
      spyOn(console, way).and.callFake((...words) => void heard.push(words));
    const [file, buffer] = await writeGltf(sceneOf(boxMesh([1, 2, 3]), 'Crate'), 'glass');
    const gltf = JSON.parse(new TextDecoder().decode(file!.bytes)) as object;
    const extensionsUsed = ['KHR_materials_volume', 'XYZ_odd'];
    const { leftOut } = await readFile(
      memoryFile('glass.gltf', utf8(JSON.stringify({ ...gltf, extensionsUsed }))),
      [memoryFile(buffer!.name, buffer!.bytes)],
    );
    expect(leftOut.map(({ name }) => name)).toEqual(extensionsUsed);
    expect(heard).toEqual([]);
  });

  it('that are not as the format demands are refused without a word of the language', async () => {
    const broken = {
      asset: { version: '2.0' },
      materials: [{ pbrMetallicRoughness: { baseColorFactor: 7 } }],
      nodes: [{ translation: [1, 'x', 2] }],
    };
    for (const json of [broken, { ...broken, nodes: [] }])
      await readFile(memoryFile('odd.gltf', utf8(JSON.stringify(json)))).then(
        () => fail('it was read'),
        (error) => {
          expect(error).toBeInstanceOf(FormatError);
          expect(error.message).not.toMatch(/Invalid input|undefined|iterable|not a function/);
        },
      );
  });
});

describe('faces of many corners', () => {
  const mesh = (scene: Scene): Mesh => scene.meshes[0]!.mesh;
  const polygon = (points: readonly (readonly [number, number])[]) =>
    `${points.map(([x, y]) => `v ${x} ${y} 0`).join('\n')}\nf ${points.map((_, i) => i + 1).join(' ')}\n`;
  const area = ({ positions: p, indices }: Mesh) => {
    let sum = 0;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [indices[i]! * 3, indices[i + 1]! * 3, indices[i + 2]! * 3];
      sum += ((p[b]! - p[a]!) * (p[c + 1]! - p[a + 1]!) - (p[b + 1]! - p[a + 1]!) * (p[c]! - p[a]!)) / 2;
    }
    return sum;
  };

  it('stay what they are when they are long and hollow', async () => {
    const n = 6000;
    const star = Array.from({ length: n }, (_, i): [number, number] => {
      const r = i % 2 ? 1 : 2;
      return [Math.cos((i / n) * 2 * Math.PI) * r, Math.sin((i / n) * 2 * Math.PI) * r];
    });
    const found = mesh(await readFile(memoryFile('star.obj', utf8(polygon(star)))));
    const wanted = star.reduce((sum, [x, y], i) => {
      const [u, v] = star[(i + 1) % n]!;
      return sum + (x * v - u * y) / 2;
    }, 0);
    expect(found.indices.length).toBe((n - 2) * 3);
    expect(Math.abs(area(found) / wanted - 1)).toBeLessThan(1e-9);
  });
});
