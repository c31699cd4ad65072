import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  boundsOf,
  joinMeshes,
  memoryFile,
  plainMesh,
  plainNode,
  readFile as readScene,
  writeScene,
  type Scene,
} from '@yard-brace/core';
import assimpjs from 'assimpjs';
import { yardBrace } from './testing/run.js';

function box(size: number, x: number, lift = 0) {
  const points = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((k) => [
    x + (k & 1 ? size : 0),
    lift + (k & 2 ? size : 0),
    lift + (k & 4 ? size : 0),
  ]);
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const faces = quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]);
  return plainMesh(points, faces);
}

/** Two boxes in one lump and a third inside one of them, below a scaled, turned, mirrored node, in centimetres. */
const lump = (): Scene => ({
  unit: { metres: 0.01, stated: true },
  nodes: [
    { ...plainNode('root', null), scale: [2, 2, 2] },
    {
      ...plainNode('Léaf & post', 0, 0),
      rotation: [0, 0.6, 0, 0.8],
      scale: [-1, 1, 1.5],
      translation: [5, 0, 0],
    },
  ],
  meshes: [{ name: 'lump', mesh: joinMeshes([box(30, 0), box(20, 60), box(10, 65, 5)]) }],
  materials: [],
  pictures: [],
  leftOut: [],
  notes: [],
});

jasmine.DEFAULT_TIMEOUT_INTERVAL = 60_000;

describe('yard-brace mend, bake, pivot and split', () => {
  let folder: string;
  const at = (name: string) => join(folder, name);
  const scene = async (name: string) => readScene(memoryFile(name, new Uint8Array(await readFile(at(name)))));

  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'yard-brace-reshape-'));
    const [file] = await writeScene(lump(), 'dae', 'lump');
    // The writer writes metres; the centimetres of the made-up file are put into its head.
    const text = new TextDecoder()
      .decode(file!.bytes)
      .replace('name="meter" meter="1"', 'name="centimeter" meter="0.01"');
    await writeFile(at('lump.dae'), text);
  });
  afterAll(() => rm(folder, { recursive: true }));

  it('bake leaves nodes at 0, 0, 1 in metres, in every format, and nothing moves', async () => {
    const { json: before } = await yardBrace('inspect', at('lump.dae'));
    for (const format of ['glb', 'gltf', 'obj', 'dae', 'stl', 'ply']) {
      const { code, json, stderr } = await yardBrace('bake', at('lump.dae'), '--out', at(`baked.${format}`));
      expect([code, stderr]).withContext(format).toEqual([0, '']);
      (json['sizeMetres'] as number[]).forEach((v, k) =>
        expect(v).toBeCloseTo((before['sizeMetres'] as number[])[k]!, 9),
      );
      expect(json['says']).toEqual(['2 nodes baked (1 mirrored, faces flipped); nothing moved.']);
      if (format === 'gltf') continue;
      const back = await scene(`baked.${format}`);
      for (const node of back.nodes)
        expect([node.translation, node.rotation, node.scale]).toEqual([
          [0, 0, 0],
          [0, 0, 0, 1],
          [1, 1, 1],
        ]);
    }
    const { json } = await yardBrace('bake', at('lump.dae'), '--out', at('x.stl'));
    expect(json['lost']).toContain('the tree (parts stand where they stood)');
  });

  it('mend says what each step did; split and pivot write what they say', async () => {
    const mended = await yardBrace(
      'mend',
      at('lump.dae'),
      '--remove',
      'hidden,doubled',
      '--outward',
      '--weld',
      '0.1',
      '--out',
      at('m.glb'),
    );
    expect(mended.json['says']).toEqual([
      'Welding 0.10 mm: 24 vertices become 24.',
      '12 hidden faces, 8 unused vertices removed.',
    ]);
    expect(mended.json['skipped']).toEqual(['All faces point outward already.']);
    const split = await yardBrace('split', at('m.glb'), '--by', 'shells', '--out', at('s.glb'));
    expect(split.json['parts']).toEqual(['Léaf & post', 'Léaf & post_01']);
    const pivot = await yardBrace('pivot', at('s.glb'), '--at', 'base-centre', '--out', at('p.glb'));
    const back = await scene('p.glb');
    expect(back.nodes[0]!.translation.map((v) => Math.round(v * 1e5) / 1e5 + 0)).toEqual(
      (pivot.json['pivot'] as { position: number[] }).position.map((v) => Math.round(-v * 1e5) / 1e5 + 0),
    );
  });

  it('change does any operations in a row, parts named by their names', async () => {
    await writeFile(
      at('ops.json'),
      JSON.stringify([
        { op: 'split-shells', parts: [], smallest: 0 },
        { op: 'move', parts: ['Léaf & post_01'], by: [0, 0, 2], turn: [0, 0, 0, 1], about: [0, 0, 0] },
        { op: 'mirror', parts: [], plane: { point: [0, 0, 0], normal: [1, 0, 0] }, copy: false },
      ]),
    );
    const { json } = await yardBrace('change', at('lump.dae'), '--do', at('ops.json'), '--out', at('c.glb'));
    expect((json['says'] as string[]).slice(1)).toEqual([
      '“Léaf & post_01” is moved by 2.00 m.',
      'The piece is mirrored; faces look outward as before.',
    ]);
    for (const [text, message] of [
      ['{}', 'no list of operations'],
      ['[{"op":"bend"}]', 'operation 1: “'],
      ['[{"op":"delete","parts":["gone"]}]', 'There is no part “gone”'],
      ['nonsense', 'is no JSON'],
    ] as const) {
      await writeFile(at('bad.json'), text);
      const bad = await yardBrace('change', at('lump.dae'), '--do', at('bad.json'), '--out', at('no.glb'));
      expect(bad.code).withContext(text).toBe(2);
      expect(bad.stderr).withContext(text).toContain(message);
    }
  });

  it('what is written is read back by an independent reader: places, names, counts', async () => {
    const assimp = await assimpjs();
    for (const format of ['dae', 'glb', 'gltf'] as const) {
      await yardBrace('bake', at('lump.dae'), '--out', at(`second.${format}`));
      const files = new assimp.FileList();
      files.AddFile(`second.${format}`, new Uint8Array(await readFile(at(`second.${format}`))));
      if (format === 'gltf') files.AddFile('second.bin', new Uint8Array(await readFile(at('second.bin'))));
      const result = assimp.ConvertFileList(files, 'assjson');
      expect(result.IsSuccess()).withContext(`${format} ${result.GetErrorCode()}`).toBeTrue();
      const read = JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent()));
      const points = read.meshes.flatMap((mesh: { vertices: number[] }) => mesh.vertices);
      const own = await scene(format === 'gltf' ? 'second.glb' : `second.${format}`);
      const [a, b] = [boundsOf(points), boundsOf(own.meshes[0]!.mesh.positions)];
      for (let k = 0; k < 3; k++) {
        expect(a.min[k]!).withContext(format).toBeCloseTo(b.min[k]!, 4);
        expect(a.max[k]!).withContext(format).toBeCloseTo(b.max[k]!, 4);
      }
      expect(
        read.meshes.reduce((sum: number, mesh: { faces: unknown[] }) => sum + mesh.faces.length, 0),
      ).toBe(36);
      // Readers that go by the id of a COLLADA node get the name as far as an id can hold it.
      expect(JSON.stringify(read.rootnode)).toContain(format === 'dae' ? 'Léaf___post' : 'Léaf & post');
    }
  });

  it('says what is wrong with the options and writes nothing', async () => {
    for (const [args, message] of [
      [['mend', at('lump.dae'), '--out', at('no.glb')], 'Name at least one mend.'],
      [['mend', at('lump.dae'), '--weld', 'wide', '--out', at('no.glb')], '--weld takes a number'],
      [['mend', at('lump.dae'), '--remove', 'bad', '--out', at('no.glb')], '--remove takes doubled'],
      [['bake', at('lump.dae'), '--out', at('no.xyz')], '--out names the file to write'],
      [
        ['bake', at('lump.dae'), '--part', 'Keel', '--out', at('no.glb')],
        'There is no part “Keel”; there are root, Léaf & post.',
      ],
      [['pivot', at('lump.dae'), '--at', 'top', '--out', at('no.glb')], '--at takes base-centre'],
      [
        ['split', at('lump.dae'), '--by', 'colour', '--out', at('no.glb')],
        '--by takes shells, materials, not “colour”.',
      ],
      [['split', at('gone.dae'), '--by', 'shells', '--out', at('no.glb')], 'there is no such file'],
    ] as const) {
      const { code, stderr } = await yardBrace(...args);
      expect([code, stderr.includes(message)])
        .withContext(stderr)
        .toEqual([2, true]);
    }
    expect((await readdir(folder)).filter((name) => name.startsWith('no.'))).toEqual([]);
  });
});
