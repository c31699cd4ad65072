import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { shapeTriangles, type Shape } from '@yard-brace/core';
import { boxes } from './testing/boxes.js';
import { yardBrace } from './testing/run.js';

/** One closed L, 3 x 1 and 1 x 4, one deep. */
const ELL = `v 0 0 0\nv 3 0 0\nv 3 1 0\nv 1 1 0\nv 1 4 0\nv 0 4 0\nv 0 0 1\nv 3 0 1\nv 3 1 1\nv 1 1 1\nv 1 4 1\nv 0 4 1
f 6 5 4 3 2 1\nf 7 8 9 10 11 12\nf 1 2 8 7\nf 2 3 9 8\nf 3 4 10 9\nf 4 5 11 10\nf 5 6 12 11\nf 6 1 7 12\n`;

const objOf = (shape: Shape): string => {
  const { points, indices } = shapeTriangles(shape, { segments: 32 });
  const lines: string[] = [];
  for (let v = 0; v < points.length; v += 3) lines.push(`v ${points[v]} ${points[v + 1]} ${points[v + 2]}`);
  for (let i = 0; i < indices.length; i += 3)
    lines.push(`f ${indices[i]! + 1} ${indices[i + 1]! + 1} ${indices[i + 2]! + 1}`);
  return `${lines.join('\n')}\n`;
};

/** What is asked of an answer, whatever the command. */
interface Answer {
  code: number;
  json: {
    shapes: unknown[];
    artOutside: { max: number };
    crossings: { a: string; b: string; volume: number }[];
    bare: unknown[];
    blocked: unknown[];
    targets: Record<string, { artOutside: number }>;
  };
}

describe('yard-brace hull, decompose, compare, judge', () => {
  let folder: string;
  const at = (name: string) => join(folder, name);
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'yard-brace-convex-'));
    await writeFile(at('ell.obj'), ELL);
    await writeFile(at('ball.obj'), objOf({ kind: 'sphere', center: [0, 0, 0], radius: 1 }));
    await writeFile(at('pair.obj'), boxes([0, 0, 0, 1, 1, 1], [1, 0, 0, 3, 1, 1]));
    await writeFile(at('flat.obj'), 'v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n');
  });
  afterAll(() => rm(folder, { recursive: true }));

  it('hull keeps to its corners on the side asked for', async () => {
    const full = await yardBrace('hull', at('ell.obj'));
    expect(full.code).toBe(0);
    expect(full.json as object).toEqual(
      jasmine.objectContaining({ span: 'solid', vertices: 10, side: 'exact' }),
    );
    const outside = await yardBrace(
      'hull',
      at('ball.obj'),
      '--max-verts',
      '32',
      '--side',
      'outside',
      '--out',
      at('h.obj'),
    );
    expect(outside.json['vertices']).toBeLessThanOrEqual(32);
    expect(outside.json['volumeChange']).toBeGreaterThan(0);
    expect(outside.json['standsOut']).toBeLessThan(1e-9);
    const by = await yardBrace('hull', at('ball.obj'), '--max-verts', '32');
    expect<unknown>(by.json['side']).toBe('between');
    expect(Math.abs(by.json['volumeChange'] as number)).toBeLessThan(0.03);
    expect((await yardBrace('judge', at('h.obj'))).code).toBe(0);
    const flat = await yardBrace('hull', at('flat.obj'));
    expect<unknown>([flat.code, flat.json['span']]).toEqual([1, 'plane']);
  });

  it('decompose writes one group for each shape, with its figures and its time on one line', async () => {
    const { code, json, stdout } = await yardBrace('decompose', at('ell.obj'), '--out', at('shapes.obj'));
    expect(code).toBe(0);
    expect(stdout.trim().split('\n').length).toBe(1);
    expect(json['shapes']).toBe(2);
    expect(json['ms']).toBeGreaterThan(0);
    expect((json['ladder'] as { shapes: number }[]).map(({ shapes }) => shapes)).toEqual([1, 2]);
    const text = await readFile(at('shapes.obj'), 'utf8');
    expect(text.match(/^o /gm)!.length).toBe(2);
    const compared = await yardBrace('compare', at('ell.obj'), at('shapes.obj'));
    expect(compared.json['overfill']).toBeLessThan(1e-3);
    expect((compared.json['proxyOutside'] as unknown as { max: number }).max).toBeLessThan(1e-6);
    const one = await yardBrace('decompose', at('ell.obj'), '--rung', '1');
    expect(one.json['rung']).toBe(1);
  });

  it('decompose keeps clearances free and marks who is served', async () => {
    const { json } = await yardBrace(
      'decompose',
      at('ell.obj'),
      '--clearance',
      '2,3,0.5,1.9,3.9,2',
      '--agent-detail',
      '0.05',
      '--out',
      at('free.obj'),
    );
    expect(json['goodEnough']).toBe(2);
    const vertices = [...(await readFile(at('free.obj'), 'utf8')).matchAll(/^v (\S+) (\S+)/gm)];
    expect(vertices.some(([, x, y]) => Number(x) > 1.06 && Number(y) > 1.06)).toBeFalse();
  });

  it('compare and judge say what is wrong with shapes that cave in', async () => {
    const judged = await yardBrace('judge', at('ell.obj'));
    expect(judged.code).toBe(1);
    expect((judged.json['shapes'] as unknown as { filled: number }[])[0]!.filled).toBeCloseTo(3, 6);
    expect((await yardBrace('judge', at('pair.obj'))).code).toBe(0);
    const compared = await yardBrace('compare', at('ell.obj'), at('ell.obj'));
    expect((compared.json['cavedIn'] as unknown as string[]).length).toBe(1);
    expect(compared.json['overfill']).toBeGreaterThan(2.9);
  });

  it('answers bad input with one sentence and exit 2', async () => {
    for (const [args, says] of [
      [['hull'], /Name a file/],
      [['hull', at('ell.obj'), '--max-verts', '3'], /4 or more/],
      [['hull', at('ell.obj'), '--side', 'left'], /outside, inside or between/],
      [['decompose', at('ell.obj'), '--max-shapes', '99'], /1 to 64/],
      [['decompose', at('ell.obj'), '--clearance', '1,2,3'], /x,y,z,sx,sy,sz/],
      [['decompose', at('ell.obj'), '--clearance', '0,0,0,99,99,99'], /swallow/],
      [['decompose', at('ell.obj'), '--agent-detail', '-1'], /0 or more/],
      [['decompose', at('ell.obj'), '--out', at('x.glb')], /ends in .obj/],
      [['compare', at('ell.obj')], /proxies/],
    ] as const) {
      const { code, stderr, stdout } = await yardBrace(...args);
      expect(code).withContext(args.join(' ')).toBe(2);
      expect(stderr).toMatch(says);
      expect(stdout).toBe('');
    }
  });

  it('wraps each part in the kind that serves, or what one material covers', async () => {
    await writeFile(at('parts.obj'), boxes([0, 0, 0, 1, 1, 1], [3, 0, 0, 4, 2, 1]));
    const { json } = (await yardBrace(
      'wrap',
      at('parts.obj'),
      '--per',
      'part',
      '--out',
      at('wrapped.obj'),
    )) as unknown as Answer;
    expect(json.shapes).toEqual([
      { kind: 'box', part: 'box_0' },
      { kind: 'box', part: 'box_1' },
    ]);
    expect(json.artOutside.max).toBeLessThan(1e-9);
    expect((await readFile(at('wrapped.obj'), 'utf8')).match(/^o /gm)!.length).toBe(2);
    const ball = (await yardBrace('wrap', at('parts.obj'), '--kind', 'sphere')) as unknown as Answer;
    expect(ball.json.shapes).toEqual([{ kind: 'sphere', part: 'box_0' }]);
    expect((await yardBrace('wrap', at('parts.obj'), '--kind', 'blob')).code).toBe(2);
    expect((await yardBrace('wrap', at('parts.obj'), '--material', 'oak')).stderr).toContain(
      'the material “oak”',
    );
  });

  it('judges a set against its art: what crosses, what is bare, what blocks, and stops for it', async () => {
    await writeFile(at('art.obj'), boxes([0, 0, 0, 4, 1, 1]));
    await writeFile(at('set.obj'), boxes([0, 0, 0, 2, 1, 1], [1.5, 0, 0, 3, 1, 1]));
    const { json, code } = (await yardBrace(
      'judge',
      at('set.obj'),
      at('art.obj'),
      '--agent-detail',
      '0.04',
      '--clearance',
      '2.5,0.5,0.5,0.4,2,2',
    )) as unknown as Answer;
    expect(code).toBe(1);
    expect(json.crossings.map(({ a, b }) => [a, b])).toEqual([['box_0', 'box_1']]);
    expect(json.crossings[0]!.volume).toBeCloseTo(0.5, 9);
    expect(json.bare.length).toBe(1);
    expect(json.blocked).toEqual([jasmine.objectContaining({ opening: 'clearance 1', shape: 'box_1' })]);
    expect(json.shapes.length).toBe(2);
    await writeFile(at('good.obj'), boxes([0, 0, 0, 2, 1, 1], [2, 0, 0, 4, 1, 1]));
    expect((await yardBrace('judge', at('good.obj'), at('art.obj'), '--agent-detail', '0.04')).code).toBe(0);
    const told = (await yardBrace(
      'decompose',
      at('art.obj'),
      '--targets',
      'prefix-tags',
    )) as unknown as Answer;
    expect(told.json.targets['prefix-tags']!.artOutside).toBeLessThan(1e-6);
  });
});
