import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FIRST_RULES } from '@yard-brace/core';
import { boxes } from './testing/boxes.js';
import { yardBrace } from './testing/run.js';

/** Two posts and a lintel: a way through of 1.2 x 2.1 m. */
const GATE: Parameters<typeof boxes> = [
  [-1.6, 0, -0.15, -0.6, 2.6, 0.15],
  [0.6, 0, -0.15, 1.6, 2.6, 0.15],
  [-0.6, 2.1, -0.15, 0.6, 2.6, 0.15],
];
/** Ten steps of 0.18 x 0.28 m. */
const STAIR = Array.from({ length: 10 }, (_, i): Parameters<typeof boxes>[0] => [
  i * 0.28,
  0,
  -1,
  i === 9 ? 5 : (i + 1) * 0.28,
  (i + 1) * 0.18,
  1,
]);

describe('yard-brace trial', () => {
  let folder: string;
  const file = async (name: string, text: string) => {
    await writeFile(join(folder, name), text);
    return join(folder, name);
  };

  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'yard-brace-trial-'));
  });
  afterAll(() => rm(folder, { recursive: true }));

  it('lets a deckhand through a gate that is drawn as it is, the same twice', async () => {
    const art = await file('gate.obj', boxes(...GATE));
    const once = await yardBrace('trial', art, art, '--agent', 'deckhand');
    expect(once.code).toBe(0);
    expect(once.json).toEqual(
      jasmine.objectContaining({ passes: true, agent: 'deckhand', stuck: [], falls: [], jolts: [] }),
    );
    const [opening] = once.json['openings'] as Record<string, unknown>[];
    expect(opening).toEqual(jasmine.objectContaining({ passes: true, missingMetres: 0 }));
    const again = await yardBrace('trial', art, art, '--agent', 'deckhand');
    expect({ ...again.json, ms: 0 }).toEqual({ ...once.json, ms: 0 });
  });

  it('tells a gantry rig what it lacks, and ends with 1', async () => {
    const art = await file('gate.obj', boxes(...GATE));
    const { code, json } = await yardBrace(
      'trial',
      art,
      art,
      '--agent',
      'gantry-rig',
      '--clearance',
      '0,1.05,0,1.2,2.1,0.3',
    );
    expect(code).toBe(1);
    expect(json['openings']).toEqual([
      jasmine.objectContaining({ passes: false, missingWidth: 1, missingHeight: 1.1, missingMetres: 1.1 }),
    ]);
  });

  it('stops one in the air of a gate that is one box', async () => {
    const art = await file('gate.obj', boxes(...GATE));
    const one = await file('one.obj', boxes([-1.6, 0, -0.15, 1.6, 2.6, 0.15]));
    const { code, json } = await yardBrace('trial', art, one, '--agent', 'deckhand');
    expect(code).toBe(1);
    const [opening] = json['openings'] as Record<string, unknown>[];
    expect(opening).toEqual(jasmine.objectContaining({ passes: false, missingMetres: 0.7, shape: 'box_0' }));
    expect(json['blockedCount']).toBeGreaterThan(0);
  });

  it('sends nobody through what is far too low, whichever way its wall faces', async () => {
    const culvert: Parameters<typeof boxes> = [
      [-1.6, 0, -0.15, -0.6, 2.6, 0.15],
      [0.6, 0, -0.15, 1.6, 2.6, 0.15],
      [-0.6, 0.9, -0.15, 0.6, 2.6, 0.15],
    ];
    const turned = culvert.map(([x0, y0, z0, x1, y1, z1]) => [z0, y0, x0, z1, y1, x1]) as typeof culvert;
    for (const all of [culvert, turned]) {
      const art = await file('culvert.obj', boxes(...all));
      const { json } = await yardBrace('trial', art, art, '--agent', 'deckhand');
      expect(json['openings']).toEqual([]);
    }
  });

  it('is shaken on steps, unless the rules of the yard allow such jolts', async () => {
    const stair = await file('stair.obj', boxes(...STAIR));
    const { code, json } = await yardBrace('trial', stair, stair, '--agent', 'deckhand');
    expect(code).toBe(1);
    expect((json['jolts'] as { metres: number }[])[0]!.metres).toBeCloseTo(0.18, 3);
    const rules = await file(
      'rules.json',
      JSON.stringify({ ...FIRST_RULES, trials: { ...FIRST_RULES.trials, joltMetres: 0.2 } }),
    );
    const allowed = await yardBrace('trial', stair, stair, '--agent', 'deckhand', '--rules', rules);
    expect(allowed.json['jolts']).toEqual([]);
    expect(allowed.code).toBe(0);
  });

  it('takes files in the unit that is given', async () => {
    const cm = (all: Parameters<typeof boxes>) => all.map((box) => box.map((v) => v * 100)) as typeof all;
    const art = await file('cm.obj', boxes(...cm(GATE)));
    const { json } = await yardBrace('trial', art, art, '--agent', 'deckhand', '--unit', 'cm');
    expect((json['openings'] as { width: number }[])[0]!.width).toBeCloseTo(1.2, 3);
  });

  it('collides as a target gets the proxies', async () => {
    const art = await file('gate.obj', boxes(...GATE));
    const { code } = await yardBrace('trial', art, art, '--agent', 'deckhand', '--target', 'suffix-tags');
    expect(code).toBe(0);
  });

  it('refuses what it cannot try in one sentence', async () => {
    const art = await file('gate.obj', boxes(...GATE));
    const nobody = await yardBrace('trial', art, art);
    expect(nobody.code).toBe(2);
    expect(nobody.stderr).toContain('Say with --agent who walks: “gantry rig”, “deckhand”, “gull”.');
    const unknown = await yardBrace('trial', art, art, '--agent', 'ox');
    expect(unknown.stderr).toContain('--agent takes “gantry rig”, “deckhand”, “gull”, not “ox”.');
    const one = await yardBrace('trial', art, '--agent', 'deckhand');
    expect(one.code).toBe(2);
    expect(one.stderr).toContain('Name the art and the file with the proxies.');
  });
});
