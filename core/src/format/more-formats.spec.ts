import fc from 'fast-check';
import { determinant3, type Quat, type Vec3 } from '../math/index.js';
import { massOf, meshBounds, topologyOf, transformMesh } from '../mesh/index.js';
import {
  MAX_NODES,
  plainMaterial,
  plainNode,
  type Scene,
  wholeMesh,
  worldMatrices,
  sceneNoteText,
} from '../piece/index.js';
import { boxMesh, sceneOf, text, threeParts } from '../testing/meshes.js';
import { FormatError } from './format-error.js';
import { memoryFile } from './input-file.js';
import { readFile } from './read-files.js';
import { writeStlText } from './stl/stl-writer.js';
import { lostIn, WRITTEN_FORMATS, writeScene, type WrittenFormat } from './write-scene.js';

const PNG = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg=='),
  (c) => c.charCodeAt(0),
);
const read = (name: string, content: string | Uint8Array, ...beside: [string, Uint8Array][]) =>
  readFile(
    memoryFile(name, typeof content === 'string' ? text(content) : content),
    beside.map(([other, bytes]) => memoryFile(other, bytes)),
  );
const refusal = async (promise: Promise<unknown>): Promise<string> => {
  try {
    await promise;
  } catch (error) {
    expect(error).toBeInstanceOf(FormatError);
    return (error as Error).message;
  }
  throw new Error('nothing was refused');
};
const again = async (scene: Scene, format: WrittenFormat): Promise<Scene> => {
  const [main, ...beside] = await writeScene(scene, format, 'art');
  return read(
    main!.name,
    main!.bytes,
    ...beside.map(({ name, bytes }) => [name, bytes] as [string, Uint8Array]),
  );
};

/** Names that are hard on every format's syntax. */
const name = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 12 }).map(
  (s) =>
    s
      .replace(/[\p{C}\u2028\u2029]/gu, '')
      .replace(/\s+/g, ' ')
      .trim() || 'Léaf & <post>',
);
const number = fc.double({ min: -50, max: 50, noNaN: true });
const small = fc.integer({ min: -64, max: 64 }).map((v) => v / 8);
const turn = fc
  .tuple(number, number, number, fc.double({ min: 1, max: 50, noNaN: true }))
  .map((q) => q.map((v) => v / Math.hypot(...q)) as Quat);
const scale = fc.constantFrom<Vec3>([1, 1, 1], [2, 2, 2], [-1, 1, 1], [1, -0.5, 2]);
const scenes = fc
  .record({
    names: fc.uniqueArray(name, { minLength: 3, maxLength: 3 }),
    at: fc.tuple(small, small, small),
    turn,
    scale,
    uv: fc.boolean(),
    normals: fc.boolean(),
    colors: fc.boolean(),
  })
  .map(({ names, at, turn: rotation, scale: s, uv, normals, colors }): Scene => {
    const mesh = threeParts();
    mesh.positions = mesh.positions.map(Math.fround);
    const n = mesh.positions.length / 3;
    if (uv) mesh.uvs = [Float32Array.from({ length: n * 2 }, (_, i) => (i % 9) / 8)];
    if (normals) mesh.normals = Float32Array.from({ length: n * 3 }, (_, i) => (i % 3 === 2 ? 1 : 0));
    if (colors)
      mesh.colors = Float32Array.from({ length: n * 4 }, (_, i) =>
        i % 4 === 3 ? 1 : Math.fround((i % 5) / 5),
      );
    mesh.groups = [
      { material: 0, start: 0, count: 12 },
      { material: 1, start: 12, count: mesh.indices.length / 3 - 12 },
    ];
    return {
      unit: { metres: 1, stated: true },
      nodes: [
        { ...plainNode(names[0]!, null), translation: at },
        { ...plainNode(names[1]!, 0, 0), rotation, scale: s },
        { ...plainNode(names[2]!, 1, 1), translation: [at[2], at[0], at[1]] },
      ],
      meshes: [
        { name: 'one', mesh },
        {
          name: 'two & <two>',
          mesh: { ...boxMesh([0.5, 0.25, 1]), groups: [{ material: 1, start: 0, count: 12 }] },
        },
      ],
      materials: [
        { ...plainMaterial('oak'), baseColor: [0.5, 0.25, 0.125, 1], roughness: 0.5 },
        {
          ...plainMaterial('tar'),
          baseColor: [1, 1, 1, 1],
          pictures: { baseColor: { picture: 0, uvSet: 0, wrap: ['repeat', 'repeat'] } },
        },
      ],
      pictures: [{ name: 'tar paper.png', type: 'image/png', bytes: PNG }],
      leftOut: [],
      notes: [],
    };
  });

describe('what goes out and comes back in', () => {
  for (const format of WRITTEN_FORMATS) {
    it(`is the same as ${format}, but for what is said to be lost`, async () => {
      await fc.assert(
        fc.asyncProperty(scenes, async (scene) => {
          const back = await again(scene, format);
          const lost = lostIn(format, scene).join('; ');
          const [before, after] = [wholeMesh(scene), wholeMesh(back)];
          expect(after.indices.length).toBe(before.indices.length);
          const close = format === 'glb' || format === 'gltf' || format === 'stl' ? 1e-3 : 1e-9;
          expect(Math.abs(massOf(after).volume - massOf(before).volume)).toBeLessThan(close);
          expect(Math.abs(massOf(after).centroid[0] - massOf(before).centroid[0])).toBeLessThan(close);
          expect(topologyOf(after).openEdges).toBe(0);
          expect(after.uvs.length).toBe(lost.includes('UVs') ? 0 : before.uvs.length);
          expect(!!after.normals).toBe(!!before.normals && !lost.includes('normals'));
          expect(!!after.colors).toBe(!!before.colors && !lost.includes('colours'));
          const expected = lost.includes('materials') ? [] : scene.materials;
          expect(back.materials.map((m) => m.name).sort()).toEqual(expected.map((m) => m.name).sort());
          if (expected.length) {
            const oak = back.materials.find((m) => m.name === 'oak')!;
            expect([
              ...oak.baseColor.map((c) => Math.fround(c)),
              Math.round(oak.roughness * 1e6) / 1e6,
            ]).toEqual([0.5, 0.25, 0.125, 1, 0.5]);
            expect(back.pictures.map((p) => p.bytes)).toEqual([PNG]);
          }
          if (!lost.includes('tree')) {
            expect(back.nodes.map((node) => [node.name, node.parent])).toEqual(
              scene.nodes.map((node) => [node.name, node.parent]),
            );
            worldMatrices(back.nodes).forEach((m, i) =>
              m.forEach((v, k) =>
                expect(Math.abs(v - worldMatrices(scene.nodes)[i]![k]!)).toBeLessThan(1e-4),
              ),
            );
          }
          expect(back.notes).toEqual([]);
        }),
        { numRuns: 25 },
      );
    });
  }

  it('writes the same bytes every time, and STL as text reads as STL', async () => {
    const scene = sceneOf(threeParts(), 'solid name');
    for (const format of WRITTEN_FORMATS)
      expect(await writeScene(scene, format, 'a')).toEqual(await writeScene(scene, format, 'a'));
    const back = await read('a.stl', writeStlText(scene));
    expect([back.nodes[0]!.name, massOf(wholeMesh(back)).volume]).toEqual([
      'solid name',
      massOf(threeParts()).volume,
    ]);
  });
});

const COLLADA = (body: string, asset = '') =>
  `<?xml version="1.0"?><COLLADA version="1.4.1"><asset>${asset}</asset><library_geometries><geometry id="g" name="Leaf"><mesh>
<source id="p"><float_array id="pa" count="12">0 0 0  2 0 0  0 1 0  0 0 3</float_array><technique_common><accessor source="#pa" count="4" stride="3"/></technique_common></source>
<vertices id="v"><input semantic="POSITION" source="#p"/></vertices>
<polylist count="4" material="oak"><input semantic="VERTEX" source="#v" offset="0"/><vcount>3 3 3 3</vcount><p>0 2 1 0 1 3 1 2 3 0 3 2</p></polylist>
</mesh></geometry></library_geometries>${body}</COLLADA>`;
const SCENE = (nodes: string) =>
  `<library_visual_scenes><visual_scene id="s">${nodes}</visual_scene></library_visual_scenes><scene><instance_visual_scene url="#s"/></scene>`;
const LEAF = '<instance_geometry url="#g"/>';

describe('COLLADA', () => {
  it('takes unit and up axis from the file and leaves no turn and no scale on a node', async () => {
    const scene = await read(
      'a.dae',
      COLLADA(
        SCENE(`<node name="Leaf"><translate>1 2 3</translate><scale>1 2 1</scale>${LEAF}</node>`),
        '<unit meter="0.0254"/><up_axis>Z_UP</up_axis>',
      ),
    );
    expect(scene.unit).toEqual({ metres: 0.0254, stated: true });
    expect(scene.nodes[0]).toEqual({
      name: 'Leaf',
      parent: null,
      mesh: 0,
      translation: [1, 3, -2],
      rotation: [0, 0, 0, 1],
      scale: [1, 1, 2],
    });
    expect(meshBounds(scene.meshes[0]!.mesh)).toEqual({ min: [0, 0, -1], max: [2, 3, 0] });
    expect(massOf(scene.meshes[0]!.mesh).volume).toBeCloseTo(1, 12);
    const feet = await read(
      'a.dae',
      COLLADA(SCENE(`<node name="Leaf">${LEAF}</node>`), '<unit meter="0.3"/>'),
    );
    expect([feet.unit.metres, massOf(feet.meshes[0]!.mesh).volume]).toEqual([1, jasmine.any(Number)]);
    expect(massOf(feet.meshes[0]!.mesh).volume).toBeCloseTo(0.3 ** 3, 9);
  });

  it('takes matrices apart, and two nodes for one that shears', async () => {
    const m = '2 0 0 5  0 3 0 6  0 0 -1 7  0 0 0 1';
    const scene = await read(
      'a.dae',
      COLLADA(
        SCENE(
          `<node name="A"><matrix>${m}</matrix>${LEAF}</node><node name="B"><matrix>1 0.5 0 0  0 1 0 0  0 0 1 0  0 0 0 1</matrix>${LEAF}</node>`,
        ),
      ),
    );
    expect(scene.nodes.map((node) => node.name)).toEqual(['A', 'B', 'B (sheared)']);
    const world = worldMatrices(scene.nodes);
    expect(determinant3(world[0]!)).toBeCloseTo(-6, 9);
    expect([...world[2]!].map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([
      1, 0, 0, 0, 0.5, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1,
    ]);
    expect(massOf(transformMesh(scene.meshes[0]!.mesh, world[0]!)).volume).toBeCloseTo(6, 9);
  });

  it('follows instanced nodes, binds materials anew, lists cameras, lights, skins and animations', async () => {
    const scene = await read(
      'a.dae',
      COLLADA(
        `<library_effects><effect id="e"><profile_COMMON><newparam sid="su"><surface type="2D"><init_from>i</init_from></surface></newparam><newparam sid="sa"><sampler2D><source>su</source></sampler2D></newparam><technique><lambert><diffuse><texture texture="sa" texcoord="UV0"/></diffuse></lambert></technique></profile_COMMON></effect></library_effects>
<library_images><image id="i"><init_from>file:///C:/x/oak%20bark.png</init_from></image></library_images>
<library_materials><material id="m1" name="Oak"><instance_effect url="#e"/></material></library_materials>
<library_nodes><node id="n" name="Post">${LEAF}</node></library_nodes><library_animations><animation id="spin"/></library_animations>` +
          SCENE(
            `<node name="A"><instance_node url="#n"/><instance_camera url="#c"/></node><node name="B"><instance_light url="#l"/><instance_geometry url="#g"><bind_material><technique_common><instance_material symbol="oak" target="#m1"/></technique_common></bind_material></instance_geometry></node>`,
          ),
      ),
      ['oak bark.png', PNG],
    );
    expect(scene.nodes.map(({ name: n, parent }) => [n, parent])).toEqual([
      ['A', null],
      ['Post', 0],
      ['B', null],
    ]);
    expect(scene.meshes.map(({ mesh }) => mesh.groups[0]!.material)).toEqual([-1, 0]);
    expect([scene.materials[0]!.name, scene.pictures.map((p) => p.name)]).toEqual(['Oak', ['oak bark.png']]);
    expect(scene.leftOut).toEqual([
      { kind: 'camera', name: 'A' },
      { kind: 'light', name: 'B' },
      { kind: 'animation', name: 'spin' },
    ]);
  });

  it('takes trees 2,000 deep and refuses tricks with one sentence each', async () => {
    const deep = await read(
      'a.dae',
      COLLADA(SCENE(`${'<node name="d">'.repeat(2000)}${LEAF}${'</node>'.repeat(2000)}`)),
    );
    expect(deep.nodes.length).toBe(2000);
    const laughs = `<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><COLLADA>&b;</COLLADA>`;
    expect(await refusal(read('a.dae', laughs))).toMatch(
      /^a\.dae, line 1: it declares a document type, which is not read; export it without one\.$/,
    );
    expect(await refusal(read('a.dae', '<COLLADA>&xxe;</COLLADA>'))).toContain('the XML is broken');
    expect(
      await refusal(
        read('a.dae', COLLADA(SCENE(`<node id="n" name="Loop">${LEAF}<instance_node url="#n"/></node>`))),
      ),
    ).toContain('node “Loop”: the node contains itself');
    expect(
      await refusal(read('a.dae', COLLADA(SCENE(`<node name="A"><instance_geometry url="#gone"/></node>`)))),
    ).toContain('names the geometry “gone”, which is not there');
    expect(
      await refusal(read('a.dae', COLLADA(SCENE(`<node name="A"><matrix>1 2 3</matrix>${LEAF}</node>`)))),
    ).toContain('<matrix> has 3 numbers instead of 16');
    expect(
      await refusal(read('a.dae', COLLADA(SCENE(`<node>${LEAF}</node>`)).replace('0 3 2<', '0 3 9<'))),
    ).toContain('a corner names entry 9 of a source with 4');
    expect(
      await refusal(read('a.dae', COLLADA(SCENE(`<node>${LEAF}</node>`)).replace('2 0 0 ', '2 nan 0 '))),
    ).toContain('“nan” in <float_array> is not a finite number');
    expect(await refusal(read('a.dae', COLLADA('')))).toContain('its scene shows no triangles');
    expect(await refusal(read('a.dae', '<svg/>'))).toContain('<svg> is not COLLADA');
    expect(
      await refusal(read('a.dae', COLLADA(SCENE(`<node>${LEAF}</node>`.repeat(MAX_NODES + 5))))),
    ).toContain('20,005 nodes, and a piece takes 20,000');
  });
});

describe('STL', () => {
  it('knows binary from text by size and content, not by the first word', async () => {
    const bytes = (await writeScene(sceneOf(boxMesh([1, 1, 1])), 'stl', 'a'))[0]!.bytes;
    const lying = bytes.slice();
    lying.set(text('solid crate exported'));
    const scene = await read('crate.stl', lying);
    expect([
      scene.meshes[0]!.mesh.positions.length / 3,
      massOf(scene.meshes[0]!.mesh).volume,
      scene.unit.stated,
    ]).toEqual([8, 8, false]);
    expect((await read('a.stl', Uint8Array.of(...bytes, 0, 0))).notes).toEqual([
      { about: 'bytes-ignored', bytes: 2 },
    ]);
  });

  it('refuses what is cut off or is none', async () => {
    const bytes = (await writeScene(sceneOf(boxMesh([1, 1, 1])), 'stl', 'a'))[0]!.bytes;
    expect(await refusal(read('a.stl', bytes.slice(0, 300)))).toBe(
      'a.stl, byte 80: the header promises 12 triangles and the file holds 4; export it again.',
    );
    const nan = bytes.slice();
    new DataView(nan.buffer).setFloat32(84 + 12, NaN, true);
    expect(await refusal(read('a.stl', nan))).toContain(
      'triangle 1 has a coordinate that is not a finite number',
    );
    expect(
      await refusal(
        read('a.stl', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nendloop\n'),
      ),
    ).toContain('line 6: a facet has 2 corners instead of 3');
    expect(await refusal(read('a.stl', 'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\n'))).toContain(
      'cut off inside a facet',
    );
    expect(await refusal(read('a.stl', 'solid a\nhello\n'))).toContain('line 2: “hello” is not STL');
    expect(await refusal(read('a.stl', 'solid a\nendsolid a\n'))).toContain('has no triangles');
  });
});

const PLY = (header: string, body: string) => `ply\nformat ascii 1.0\n${header}end_header\n${body}`;
const XYZ = 'property float x\nproperty float y\nproperty float z\n';
const QUAD = PLY(
  `comment by hand\nelement vertex 4\n${XYZ}property uchar red\nproperty uchar green\nproperty uchar blue\nelement edge 1\nproperty int vertex1\nproperty int vertex2\nelement face 1\nproperty list uchar int vertex_indices\n`,
  '0 0 0 255 0 0\n2 0 0 0 255 0\n2 1 0 0 0 255\n0 1 0 255 255 255\n0 1\n4 0 1 2 3\n',
);

describe('PLY', () => {
  it('reads text and both byte orders, colours, and passes over what it does not know', async () => {
    const scene = await read('a.ply', QUAD);
    expect([massOf(scene.meshes[0]!.mesh).area, [...scene.meshes[0]!.mesh.colors!.slice(4, 8)]]).toEqual([
      2,
      [0, 1, 0, 1],
    ]);
    expect(scene.notes.map(sceneNoteText)).toEqual(['1 “edge” ignored.']);
    for (const little of [true, false]) {
      const header = text(
        `ply\nformat binary_${little ? 'little' : 'big'}_endian 1.0\nelement vertex 3\nproperty double x\nproperty float y\nproperty short z\nelement face 2\nproperty uchar flags\nproperty list ushort uint vertex_index\nend_header\n`,
      );
      const bytes = new Uint8Array(header.length + 3 * 14 + (3 + 12) + 3);
      bytes.set(header);
      const view = new DataView(bytes.buffer);
      let at = header.length;
      for (const [x, y, z] of [
        [0, 0, 0],
        [4, 0, 0],
        [0, 3, 2],
      ] as const) {
        view.setFloat64(at, x, little);
        view.setFloat32(at + 8, y, little);
        view.setInt16(at + 12, z, little);
        at += 14;
      }
      view.setUint16(at + 1, 3, little);
      [0, 1, 2].forEach((v, k) => view.setUint32(at + 3 + k * 4, v, little));
      const mesh = (await read('a.ply', bytes)).meshes[0]!.mesh;
      expect([[...mesh.indices], mesh.positions[8]]).toEqual([[0, 1, 2], 2]);
    }
  });

  it('refuses headers that lie, before it takes memory for them', async () => {
    expect(await refusal(read('a.ply', QUAD.replace('vertex 4', 'vertex 4000000000')))).toMatch(
      /the header promises at least [\d,]+ bytes and the file has \d+/,
    );
    expect(await refusal(read('a.ply', QUAD.replace('face 1', 'face 9')))).toMatch(
      /the file ends before the counts of its header are reached/,
    );
    expect(await refusal(read('a.ply', QUAD.replace('4 0 1 2 3', '4 0 1 2 7')))).toContain(
      'face 1 names vertex 7, and there are 4',
    );
    expect(await refusal(read('a.ply', QUAD.replace('4 0 1 2 3', '99999999 0 1 2 3')))).toContain(
      'a list claims a length of 99999999',
    );
    expect(await refusal(read('a.ply', QUAD.replace('2 1 0 0', '2 x 0 0')))).toContain('“x” is not a number');
    expect(await refusal(read('a.ply', QUAD.replace('ascii', 'morse')))).toContain(
      'line 2: the format “morse” is not known',
    );
    expect(await refusal(read('a.ply', QUAD.replace('property float x', 'property quux x')))).toContain(
      'property type',
    );
    expect(await refusal(read('a.ply', QUAD.replace('end_header', 'end')))).toContain('no “end_header”');
    expect(await refusal(read('a.ply', PLY(`element vertex 1\n${XYZ}`, '0 0 0\n')))).toContain(
      'points and no faces',
    );
    expect(await refusal(read('a.ply', 'hello'))).toContain('line 1: the file does not start with “ply”');
  });
});

describe('fuzzed files of every format', () => {
  it('are read or refused with one sentence, never anything else', async () => {
    const scene = sceneOf(threeParts());
    const sources: [string, Uint8Array][] = [['t.stl', writeStlText(scene)]];
    for (const format of ['dae', 'stl', 'ply'] as const) {
      const [main] = await writeScene(scene, format, 'f');
      sources.push([main!.name, main!.bytes]);
    }
    sources.push(['q.ply', text(QUAD)]);
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...sources),
        fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        fc.option(fc.nat()),
        async ([file, bytes], changes, cut) => {
          const broken = bytes.slice(0, cut === null ? bytes.length : cut % bytes.length);
          // Most changes go where structure is: the start of the file.
          for (const [at, value] of changes)
            if (broken.length) broken[at % Math.min(broken.length, at % 2 ? 400 : broken.length)] = value;
          try {
            const back = await read(file, broken);
            expect(back.meshes.every(({ mesh }) => mesh.positions.every(Number.isFinite))).toBeTrue();
            expect(
              back.meshes.every(({ mesh }) => mesh.indices.every((v) => v < mesh.positions.length / 3)),
            ).toBeTrue();
          } catch (error) {
            expect(error)
              .withContext(String((error as Error).stack))
              .toBeInstanceOf(FormatError);
            expect((error as Error).message).toMatch(/^[^\n]+; [^\n]+\.$/);
          }
        },
      ),
      { numRuns: 600 },
    );
  });
});
