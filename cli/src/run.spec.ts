import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { boxes } from './testing/boxes.js';

const BIN = fileURLToPath(new URL('../bin/yard-brace.mjs', import.meta.url));
type Box = [number, number, number, number, number, number];
interface Line {
  file?: string;
  outcome?: string;
  says?: string;
  deliveries?: { agreed: boolean; mesh: string }[];
  summary?: Record<string, unknown>;
}

const runs = (...args: readonly string[]) =>
  new Promise<{ code: number; lines: Line[]; stderr: string }>((resolve) => {
    execFile(process.execPath, [BIN, 'run', ...args], (error, stdout, stderr) => {
      const lines = stdout.split('\n').flatMap((line) => (line ? [JSON.parse(line) as Line] : []));
      resolve({ code: error ? Number(error.code) : 0, lines, stderr });
    });
  });

const RECIPE = {
  format: 1,
  name: 'Boxes',
  steps: [
    { op: 'unit', parameters: { unit: 'cm' } },
    { op: 'pivot', parameters: { anchor: 'base-centre' } },
    { op: 'wrap', parameters: { kind: 'box', per: 'shell' } },
    { op: 'check', parameters: { maxShapes: 2 } },
    { op: 'deliver', parameters: { target: 'prefix-tags' } },
  ],
};

describe('yard-brace run', () => {
  let folder: string;
  const at = (name: string) => join(folder, name);
  const put = (name: string, text: string) => writeFile(at(name), text);
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'yard-brace-run-'));
    await put('boxes.json', JSON.stringify(RECIPE));
    for (let i = 1; i <= 6; i++) await put(`post ${i}.obj`, boxes([0, 0, 0, 10 * i, 100, 10]));
    await put('letter.obj', 'Dear all,\n');
    await put('row.obj', boxes(...([0, 50, 100] as const).map((x) => [x, 0, 0, x + 10, 10, 10] as Box)));
  });
  afterAll(() => rm(folder, { recursive: true }));

  it('does a recipe to each file in their order, and stops or refuses one without the others', async () => {
    const files = ['post 3.obj', 'letter.obj', 'post 1.obj', 'row.obj'].map(at);
    const { code, lines } = await runs(at('boxes.json'), ...files, '--out', at('out'));
    expect(code).toBe(1);
    expect(lines.map(({ file, outcome }) => [file?.slice(folder.length + 1), outcome])).toEqual([
      ['post 3.obj', 'done'],
      ['letter.obj', 'refused'],
      ['post 1.obj', 'done'],
      ['row.obj', 'stopped'],
      [undefined, undefined],
    ]);
    expect(lines[0]!.deliveries?.[0]).toEqual(jasmine.objectContaining({ mesh: 'Post_03', agreed: true }));
    expect(lines[3]!.says).toBe(
      'Stopped at step 4, check that nothing is wrong: It has 3 shapes, more than 2.',
    );
    expect(lines[4]!.summary).toEqual({
      recipe: 'Boxes',
      files: 4,
      done: 2,
      stopped: 1,
      refused: 1,
      deliveries: 2,
    });
    expect((await readdir(at('out'))).filter((name) => name.endsWith('.glb')).sort()).toEqual([
      'Post_01.glb',
      'Post_03.glb',
    ]);
  });

  it('comes to the same bytes with one worker as with several', async () => {
    const posts = [1, 2, 3, 4, 5, 6].map((i) => at(`post ${i}.obj`));
    const one = await runs(at('boxes.json'), ...posts, '--out', at('one'), '--workers', '1');
    const four = await runs(at('boxes.json'), ...posts, '--out', at('four'), '--workers', '4');
    expect([one.code, four.code]).toEqual([0, 0]);
    expect(four.lines).toEqual(one.lines);
    const names = await readdir(at('one'));
    expect(names.length).toBeGreaterThanOrEqual(18);
    for (const name of names)
      expect(await readFile(join(at('four'), name))).toEqual(await readFile(join(at('one'), name)));
  });

  it('lets no piece replace another one of the same name', async () => {
    await put('post_1.obj', boxes([0, 0, 0, 1, 1, 1]));
    const { lines } = await runs(at('boxes.json'), at('post 1.obj'), at('post_1.obj'), '--out', at('same'));
    expect(lines.map(({ outcome }) => outcome)).toEqual(['done', 'refused', undefined]);
    expect(lines[1]!.says).toContain('is named Post_01, too');
  });

  it('delivers for the targets that are named, in a folder each', async () => {
    const { code } = await runs(
      at('boxes.json'),
      at('post 1.obj'),
      '--target',
      'suffix-tags',
      '--target',
      'twin-file',
      '--out',
      at('two'),
    );
    expect(code).toBe(0);
    expect((await readdir(at('two'))).sort()).toEqual(['suffix-tags', 'twin-file']);
  });

  it('says what is wrong with a recipe, and where', async () => {
    await put(
      'wrong.json',
      JSON.stringify({ ...RECIPE, steps: [{ op: 'weld', parameters: { metres: 'much' } }] }),
    );
    await put('torn.json', '{"format": 1,');
    const said = async (...args: string[]) => {
      const { code, stderr } = await runs(...args);
      expect(code).toBe(2);
      return stderr;
    };
    expect(await said(at('wrong.json'), at('post 1.obj'))).toContain(
      '“steps.0.parameters.metres” has to be a number',
    );
    expect(await said(at('torn.json'), at('post 1.obj'))).toContain('is no JSON');
    expect(await said(at('nowhere.json'), at('post 1.obj'))).toContain('there is no such file');
    expect(await said(at('boxes.json'), at('post 1.obj'))).toContain('--out names the folder');
    expect(await said(at('boxes.json'), '--out', at('out'))).toContain('Name the files');
    expect(await said(at('boxes.json'), at('post 1.obj'), '--out', at('out'), '--workers', '0')).toContain(
      '--workers takes 1 to 64',
    );
  });
});
