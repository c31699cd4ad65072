import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FIRST_RULES, memoryFile, readFile as readScene } from '@yard-brace/core';
import { asProcess, yardBrace } from './testing/run.js';

const BOX =
  'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nv 0 0 1\nv 1 0 1\nv 1 1 1\nv 0 1 1\nf 1 4 3 2\nf 5 6 7 8\nf 1 2 6 5\nf 3 4 8 7\nf 1 5 8 4\nf 2 3 7 6\n';

describe('yard-brace', () => {
  let folder: string;
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'yard-brace-cli-'));
    await writeFile(
      join(folder, 'crate 2.obj'),
      BOX.replace(/(\d) (\d) (\d)\n(?=v|f 1 4)/g, (_, x, y, z) => `${x * 80} ${y * 60} ${z * 40}\n`),
    );
    await writeFile(join(folder, 'letter.obj'), 'Dear all,\n');
  });
  afterAll(() => rm(folder, { recursive: true }));

  it('inspects a file in one JSON line', async () => {
    const { code, json, stdout } = await asProcess('inspect', join(folder, 'crate 2.obj'));
    expect(code).toBe(0);
    expect(stdout.trim().split('\n').length).toBe(1);
    expect(json['unit']).toEqual({ name: 'cm', stated: false, confirmed: false });
    expect((json['sizeMetres'] as number[]).map((v) => v.toFixed(2))).toEqual(['0.80', '0.60', '0.40']);
    expect(json['triangles']).toBe(12);
    expect((json['faults'] as { id: string }[]).map(({ id }) => id)).toContain('unit-unconfirmed');
  });

  it('delivers, and reads back what it delivered', async () => {
    const out = join(folder, 'out');
    const { code, json } = await yardBrace(
      'deliver',
      join(folder, 'crate 2.obj'),
      '--target',
      'prefix-tags',
      '--proxies',
      'box',
      '--unit',
      'cm',
      '--out',
      out,
    );
    expect({ code, mesh: json['mesh'] as string, agreed: json['agreed'] as boolean }).toEqual({
      code: 0,
      mesh: 'Crate_02',
      agreed: true,
    });
    expect((await readdir(out)).sort()).toEqual([
      'Crate_02.glb',
      'Crate_02.import.md',
      'Crate_02.manifest.json',
    ]);
    const scene = await readScene(
      memoryFile('Crate_02.glb', new Uint8Array(await readFile(join(out, 'Crate_02.glb')))),
    );
    expect(scene.nodes.map((node) => node.name)).toEqual(['Crate_02', 'UBX_Crate_02_01']);
    const back = await yardBrace('readback', join(out, 'Crate_02.glb'), '--target', 'prefix-tags');
    expect(back.code).toBe(0);
    expect((back.json['shapes'] as { kind: string }[]).map(({ kind }) => kind)).toEqual(['box']);
  });

  it('delivers for several targets by the rules of a yard, and puts the piece together again', async () => {
    const out = join(folder, 'several');
    const rules = join(folder, 'rules.json');
    const presets = [{ name: 'text', target: 'suffix-tags', choices: { container: 'dae' } }];
    await writeFile(rules, JSON.stringify({ ...FIRST_RULES, targets: ['suffix-tags'], presets }));
    const source = join(folder, 'crate 2.obj');
    const { code, json } = await yardBrace(
      ...['deliver', source, '--unit', 'cm', '--proxies', 'ladder', '--max-shapes', '2', '--rules', rules],
      ...['--target', 'suffix-tags', '--target', 'open-physics-usd', '--out', out],
    );
    expect(code).toBe(0);
    const deliveries = json['deliveries'] as { target: string; agreed: boolean; dropped: string[] }[];
    expect(deliveries.map(({ target, agreed }) => [target, agreed])).toEqual([
      ['suffix-tags', true],
      ['open-physics-usd', true],
    ]);
    expect(deliveries[0]!.dropped.join()).toContain('leaves as a hull');
    expect(await readdir(join(out, 'open-physics-usd'))).toContain('Crate_02.usda');
    const preset = await yardBrace(
      ...[
        'deliver',
        source,
        '--unit',
        'cm',
        '--proxies',
        'box',
        '--rules',
        rules,
        '--preset',
        'text',
        '--out',
        join(out, 'p'),
      ],
    );
    expect((preset.json['files'] as { name: string }[])[0]!.name).toBe('Crate_02.dae');
    const whole = join(out, 'whole.obj');
    const again = await yardBrace(
      'assemble',
      join(out, 'open-physics-usd', 'Crate_02.manifest.json'),
      '--out',
      whole,
    );
    expect((again.json['sizeMetres'] as number[]).map((v) => v.toFixed(6))).toEqual([
      '0.800000',
      '0.600000',
      '0.400000',
    ]);
    const kept = await yardBrace('deliver', source, '--unit', 'cm', '--out', out);
    expect([kept.code, kept.stderr.includes('brings no shapes of its own')]).toEqual([2, true]);
    const newer = join(folder, 'newer.manifest.json');
    await writeFile(newer, '{"manifest": 99}');
    expect((await yardBrace('assemble', newer, '--out', whole)).stderr).toContain('a manifest of version 99');
  });

  it('says whether names can stand in a target’s files, and what a pattern finds in them', async () => {
    const { code, json } = await yardBrace(
      'names',
      'SM_Wall_01',
      'a/b',
      '--target',
      'prefix-tags',
      '--pattern',
      'SM_{subject}_{variant:2}',
    );
    expect(code).toBe(1);
    expect(json['names']).toEqual([
      { name: 'SM_Wall_01', fault: null, fields: { subject: 'Wall', variant: '1' } },
      { name: 'a/b', fault: jasmine.stringContaining('“/”'), legal: 'a_b', fields: null },
    ]);
    expect((await yardBrace('names', 'a', '--pattern', '{x')).stderr).toContain('A brace is not closed');
  });

  it('delivers many files in one call, each a piece: one that cannot be delivered is said and stops no other', async () => {
    const out = join(folder, 'many');
    const rules = join(folder, 'folders.json');
    await writeFile(rules, JSON.stringify({ ...FIRST_RULES, names: { folder: 'kit/{subject:snake}' } }));
    const wall = join(folder, 'Mauer & Fels.obj');
    await writeFile(wall, BOX);
    await writeFile(join(folder, 'crate-2.obj'), BOX);
    const files = ['crate 2.obj', 'letter.obj', 'Mauer & Fels.obj', 'crate-2.obj'].map((name) =>
      join(folder, name),
    );
    const { code, json } = await yardBrace(
      ...['deliver', ...files, '--unit', 'm', '--proxies', 'box', '--rules', rules, '--out', out],
    );
    const pieces = json['pieces'] as { file: string; mesh?: string; agreed?: boolean; refused?: string }[];
    expect(code).toBe(1);
    expect(pieces.map(({ mesh, agreed, refused }) => refused ?? [mesh, agreed])).toEqual([
      ['Crate_02', true],
      jasmine.stringContaining('letter.obj, line 1: no faces were found'),
      ['MauerFels', true],
      'crate-2.obj and crate 2.obj would both be named Crate_02; rename one.',
    ]);
    expect((await readdir(join(out, 'kit'))).sort()).toEqual(['crate_2', 'mauer_fels']);
    const named = await yardBrace('deliver', ...files, '--name', 'X', '--proxies', 'box', '--out', out);
    expect(named.stderr).toContain('--name names one mesh; of several files each has its own.');
  });

  it('delivers several in one file where they stood, as a variant, with values as pictures', async () => {
    const out = join(folder, 'together');
    await writeFile(join(folder, 'post.obj'), BOX.replaceAll('v 0', 'v 10').replaceAll('v 1 ', 'v 11 '));
    const files = ['crate 2.obj', 'post.obj'].map((name) => join(folder, name));
    const common = ['--unit', 'm', '--proxies', 'box', '--container', 'obj', '--out', out];
    const { code, json } = await yardBrace(
      ...['deliver', ...files, '--together', 'Quayside', '--variant', '3', ...common],
    );
    expect({ code, agreed: json['agreed'] as boolean, mesh: json['mesh'] as string[] }).toEqual({
      code: 0,
      agreed: true,
      mesh: ['Crate_02', 'Post'],
    });
    expect((await readdir(out)).sort()).toEqual([
      'Crate_03.import.md',
      'Crate_03.manifest.json',
      'Post_03.import.md',
      'Post_03.manifest.json',
      'Quayside.obj',
    ]);
    const scene = await readScene(
      memoryFile('Quayside.obj', new Uint8Array(await readFile(join(out, 'Quayside.obj')))),
    );
    expect(scene.nodes.map(({ name }) => name)).toEqual(
      jasmine.arrayContaining(['Crate_03', 'Post_03', 'UBX_Crate_03_01', 'UBX_Post_03_01']),
    );
    for (const [wrong, says] of [
      [['--variant', '1'], '--variant takes 2 to 9999, not “1”.'],
      [['--values', 'paint'], '--values takes values or pictures, not “paint”.'],
      [['--together', 'Quay side'], 'The file of several pieces, “Quay side”: The name holds a space'],
    ] as const) {
      const refused = await yardBrace('deliver', ...files, ...wrong, ...common);
      expect([refused.code, refused.stdout]).toEqual([2, '']);
      expect(refused.stderr).toContain(says);
    }
    const painted = await yardBrace('deliver', files[0]!, '--values', 'pictures', ...common);
    expect(painted.code).toBe(0);
  });

  it('puts a piece together again whose models, pictures and papers stand in folders of their own', async () => {
    const out = join(folder, 'folders');
    const rules = join(folder, 'own-folders.json');
    const folders = { models: 'mesh', pictures: 'mesh/tex', papers: 'docs/import' };
    await writeFile(rules, JSON.stringify({ ...FIRST_RULES, targets: ['proxy-nodes'], folders }));
    const common = ['--unit', 'cm', '--proxies', 'box', '--rules', rules, '--out', out];
    expect((await yardBrace('deliver', join(folder, 'crate 2.obj'), ...common)).code).toBe(0);
    expect((await readdir(out, { recursive: true })).sort()).toEqual(
      jasmine.arrayContaining(['docs/import/Crate_02.manifest.json', 'mesh/Crate_02.dae']),
    );
    const manifest = join(out, 'docs/import/Crate_02.manifest.json');
    const again = await yardBrace('assemble', manifest, '--out', join(out, 'whole.glb'));
    expect([again.code, again.json['meshes'] as string[]]).toEqual([0, ['Crate_02']]);
  });

  it('checks the names of a file as they would be composed', async () => {
    const wall = join(folder, 'two.obj');
    await writeFile(wall, `o Wand ä\n${BOX}`);
    const { code, json } = await yardBrace('names', '--check', wall, '--target', 'suffix-tags');
    expect({ code, names: json['names'] as string[], faults: json['faults'] as string[] }).toEqual({
      code: 0,
      names: ['Two'],
      faults: [],
    });
    const parts = join(folder, 'parts.obj');
    await writeFile(
      parts,
      `o Wand/1\n${BOX}o Cap\n${BOX.replace(/f .*/g, (face) => face.replace(/\d+/g, (n) => String(Number(n) + 8)))}`,
    );
    const bad = await yardBrace('names', '--check', parts, '--target', 'suffix-tags');
    expect(bad.code).toBe(1);
    expect((bad.json['faults'] as string[])[0]).toContain('“Wand/1”');
    expect(bad.json['fixes']).toEqual(['Name it Wand_1']);
  });

  it('exits 1 for findings that stop, and writes nothing', async () => {
    const out = join(folder, 'none');
    const { code, json } = await asProcess(
      'deliver',
      join(folder, 'crate 2.obj'),
      '--target',
      'prefix-tags',
      '--proxies',
      'hull',
      '--unit',
      'cm',
      '--name',
      'a b',
      '--out',
      out,
    );
    expect(code).toBe(1);
    expect((json['findings'] as { id: string }[]).map(({ id }) => id)).toContain('name-illegal');
    await expectAsync(readdir(out)).toBeRejected();
  });

  it('exits 2 with a sentence for bad input and bad usage, stdout empty', async () => {
    const cases: [string[], string][] = [
      [['inspect', join(folder, 'letter.obj')], 'letter.obj, line 1: no faces were found'],
      [['inspect', join(folder, 'gone.obj')], 'gone.obj: there is no such file; check the path.'],
      [['inspect'], 'Name a file.'],
      [
        [
          'deliver',
          join(folder, 'crate 2.obj'),
          '--target',
          'prefix-tags',
          '--proxies',
          'box',
          '--out',
          folder,
        ],
        'does not state its unit; say it with --unit (cm is likely)',
      ],
      [
        ['deliver', join(folder, 'crate 2.obj'), '--target', 'other', '--proxies', 'box', '--out', folder],
        '--target takes prefix-tags, suffix-tags, proxy-nodes, twin-file, open-physics-gltf, open-physics-usd, not “other”.',
      ],
      [['inspect', join(folder, 'crate 2.obj'), '--frobnicate'], '--frobnicate'],
      [['hoist'], 'There is no command “hoist”.'],
    ];
    for (const [args, message] of cases) {
      const { code, stdout, stderr } = await yardBrace(...args);
      expect({ code, stdout }).withContext(args.join(' ')).toEqual({ code: 2, stdout: '' });
      expect(stderr).toContain(message);
    }
    const [[args, message]] = cases as [[string[], string]];
    const { code, stdout, stderr } = await asProcess(...args);
    expect({ code, stdout }).toEqual({ code: 2, stdout: '' });
    expect(stderr).toContain(message);
  });

  it('explains each command', async () => {
    for (const command of ['inspect', 'deliver', 'readback', 'names', 'assemble']) {
      const { code, stderr } = await yardBrace(command, '--help');
      expect(code).toBe(0);
      expect(stderr).toContain(`yard-brace ${command}`);
    }
  });
});
