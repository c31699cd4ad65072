import { FIRST_AGENTS, quatAbout, type Vec3 } from '@yard-brace/core';
import { Picking, type Picked } from '../../../../state/picking';
import { ShelfStore } from '../../../../state/shelf-store';
import { ViewMarks } from '../../../../state/view-marks';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { postDocument, postPiece, shelfPiece, threeParts } from '../../../../testing/post';
import { shown } from '../../../../testing/shown';
import { passageFacts } from './passage-facts';
import { SizeStep } from './size-step';
import { transformFacts } from './transform-facts';

const at = (x: number, y: number, z: number): Picked => ({
  kind: 'vertex',
  at: [x, y, z],
  normal: [0, 0, 1],
  edge: [
    [0, 0, 0],
    [1, 0, 0],
  ],
  part: 'n1',
});

describe('the size step', () => {
  let bench: TestBench;
  let page: TestPage<SizeStep>;
  const open = async (document = postDocument(2)) => {
    bench = await testBench(postPiece(document));
    bench.api.shelf = [shelfPiece(7, 'Tall post', { size: [1, 6, 1] })];
    await bench.get(ShelfStore).load(1);
    page = await bench.show(SizeStep);
  };
  beforeEach(() => open());
  const pick = async (...points: Picked[]) => {
    for (const point of points) {
      bench.get(Picking).pick(point);
      await page.rest();
    }
  };
  const title = () => bench.proposals.proposal!.title;
  const proposedSize = () => {
    const { min, max } = bench.proposals.proposal!.preview.whole;
    const { factor } = bench.proposals.proposal!.preview.placing;
    return min.map((v, k) => (max[k]! - v) * factor);
  };

  it('takes the unit of the file, and each unit says what size it would give', async () => {
    await open(postDocument(200, false));
    const row = (unit: string) => page.one(`[data-unit=${unit}]`).textContent!;
    expect(row('cm')).toContain('2.00 × 2.00 × 2.00 m');
    expect(row('cm')).toContain('likely');
    expect(row('m')).toContain('200.00');
    page.one<HTMLButtonElement>('[data-unit=mm] button').click();
    await page.rest();
    expect(bench.store.document.unit).toEqual({ name: 'mm', stated: false, confirmed: true });
  });

  it('is scaled by a factor, to a height, by a known length, or to the side of another piece', async () => {
    await page.type('Scale factor', '1.5');
    expect(title()).toBe('The piece is scaled by 1.5; its base stays.');
    expect(proposedSize()).toEqual([3, 3, 3]);
    await page.tick('about the pivot');
    await page.type('Target height', '1');
    expect(title()).toBe('The piece is scaled by 0.5; its pivot stays.');
    await page.press('Known length');
    await pick(at(0, 0, 0), at(0.5, 0, 0));
    expect(page.text).toContain('500.0 mm');
    await page.type('What the length should be', '2');
    expect(title()).toContain('scaled by 4;');
    expect(page.button('Match').disabled).toBeTrue();
    await page.choose('Piece to match', 'Tall post');
    await page.press('Match');
    expect(title()).toContain('scaled by 3;');
    expect(bench.store.document.placing.factor).toBe(1);
    bench.proposals.keep();
    expect(bench.store.document.placing.factor).toBe(3);
  });

  it('a factor of 1, or of nothing, is no change', async () => {
    await page.type('Scale factor', '1');
    await page.type('Scale factor', '');
    expect(bench.proposals.proposal).toBeNull();
  });

  it('up is put up by turning the piece, and no node', async () => {
    await page.press('Z is up');
    expect(title()).toBe('The piece is rotated (Z is up); its nodes keep their transforms.');
    bench.proposals.keep();
    const { document } = bench.store;
    expect(document.placing.turn).not.toEqual([0, 0, 0, 1]);
    expect(document.nodes[0]!.rotation).toEqual([0, 0, 0, 1]);
  });

  it('bakes the whole tree or a part, and says which transforms there are', async () => {
    const document = threeParts();
    const nodes = document.nodes.map((node, i) =>
      i === 1
        ? { ...node, translation: [1, 2, 3] as Vec3, rotation: quatAbout([0, 1, 0], Math.PI / 2) }
        : node,
    );
    await open({ ...document, nodes });
    expect(transformFacts({ nodes })).toEqual([{ name: 'leaf', text: '1, 2, 3 · 90° · 1, 1, 1' }]);
    bench.jobs['operate']!.and.returnValue(new Promise(() => undefined));
    page.one('[data-testid=bake]').click();
    await page.rest();
    const asked = () => bench.jobs['operate']!.calls.mostRecent().args[1];
    expect(asked()).toEqual({ op: 'bake', parts: [], keepPosition: false, keepRotation: false });
    await page.choose('What to bake', 'leaf');
    await page.tick('rotation');
    page.one('[data-testid=bake]').click();
    await page.rest();
    expect(asked()).toEqual({ op: 'bake', parts: ['n2'], keepPosition: false, keepRotation: true });
  });

  it('many transforms are not listed without end, and how many more there are is said', async () => {
    const document = threeParts();
    const nodes = Array.from({ length: 9 }, (_, i) => ({
      ...document.nodes[0]!,
      id: `n${i + 1}`,
      name: `post ${i}`,
      translation: [i + 1, 0, 0] as Vec3,
    }));
    await open({ ...document, nodes });
    expect(page.text).not.toContain('post 8');
    await page.press('Show 3 more');
    expect(page.text).toContain('post 8');
    expect(page.text).not.toContain('more');
  });

  it('measures between two points, lists and removes what was measured', async () => {
    await page.press('Between two points');
    await pick(at(0, 0, 0), at(0, 0.3, 0.4));
    expect(page.one('yb-tape-panel li').textContent).toContain('500.0 mm');
    page.one<HTMLButtonElement>('[aria-label="Remove measurement 1"]').click();
    await page.rest();
    expect(shown(bench.get(ViewMarks).tapes$)).toEqual([]);
    await page.tick('dimensions on the piece');
    expect(shown(bench.get(ViewSettingsStore).settings$).dimensions).toBeTrue();
  });

  it('references stand beside it with their heights, another piece at its place', async () => {
    await page.tick('door');
    await page.tick('cube');
    expect(shown(bench.get(ViewSettingsStore).settings$).references).toEqual(['door', 'cube']);
    await page.tick('door');
    expect(shown(bench.get(ViewSettingsStore).settings$).references).toEqual(['cube']);
  });

  it('an opening is laid corner to corner, named, resized, turned, judged for each agent and removed', async () => {
    bench.jobs['wallMetres']!.and.resolveTo(0.2);
    page.one('[data-testid=add-clearance]').click();
    await page.rest();
    await pick(at(0, 0, 0), at(1.2, 2.1, 0));
    const [clearance] = bench.store.document.clearances;
    expect(clearance!.halfExtents.map((half) => Math.round(half * 200) / 100)).toEqual([1.2, 2.1, 0.2]);
    const { name } = clearance!;
    await page.type(`${name} width`, '3');
    expect(bench.store.document.clearances[0]!.halfExtents[0]).toBe(1.5);
    await page.press('along z');
    expect(bench.store.document.clearances[0]!.through).toBe('x');
    const field = page.one<HTMLInputElement>('[aria-label="Name of the clearance"]');
    field.value = 'hatch';
    field.dispatchEvent(new Event('change', { bubbles: true }));
    await page.rest();
    expect(bench.store.document.clearances[0]!.name).toBe('hatch');
    page.one<HTMLButtonElement>('[aria-label="Remove hatch"]').click();
    await page.rest();
    expect(bench.store.document.clearances).toEqual([]);
    // Cancelled after one corner, nothing is laid.
    page.one('[data-testid=add-clearance]').click();
    await page.rest();
    await pick(at(0, 0, 0));
    bench.get(Picking).cancel();
    await page.rest();
    expect(bench.store.document.clearances).toEqual([]);
  });

  it('who passes, and by how much, is said with the sign', () => {
    const clearance = {
      id: 'c',
      name: 'hatch',
      center: [0, 1, 0] as Vec3,
      halfExtents: [0.5, 1, 0.1] as Vec3,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      through: 'z' as const,
    };
    const [first] = FIRST_AGENTS;
    const agent = { ...first!, radius: 0.3, height: 2.4, name: 'rigger' };
    expect(passageFacts(clearance, [agent])).toEqual([
      { name: '✕ rigger does not pass', text: '+400.0 mm wide, −400.0 mm high', bad: true },
    ]);
    expect(passageFacts(clearance, [{ ...agent, height: 1.8 }])[0]!.bad).toBeFalse();
  });
});
