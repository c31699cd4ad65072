import { centerOfParts, FIRST_AGENTS, quatAbout, type Vec3 } from '@yard-brace/core';
import { Picking, type Picked } from '../../../../state/picking';
import { Told } from '../../../../api/told';
import { SetGrowth } from '../../../../state/set-growth';
import { ShelfStore } from '../../../../state/shelf-store';
import { ViewMarks } from '../../../../state/view-marks';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { postDocument, postPiece, shelfPiece, threeParts } from '../../../../testing/post';
import { shown } from '../../../../testing/shown';
import { passageFacts } from './passage-facts';
import { SizeStep } from './size-step';
import { transformRows } from './transform-rows';
import { walkFacts } from './walk-panel';

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

  it('bakes the whole tree but for exceptions, and says which transforms there are', async () => {
    const document = threeParts();
    const nodes = document.nodes.map((node, i) =>
      i === 1
        ? { ...node, translation: [1, 2, 3] as Vec3, rotation: quatAbout([0, 1, 0], Math.PI / 2) }
        : node,
    );
    await open({ ...document, nodes });
    expect(
      transformRows(bench.store.document).map(({ id, bad, cells }) => [id, bad, ...Object.values(cells)]),
    ).toEqual([
      ['n1', false, 'frame', '0, 0, 0', '0°', '1'],
      ['n2', true, 'leaf', '1, 2, 3', '90°', '1'],
      ['n3', false, 'sill', '0, 0, 0', '0°', '1'],
    ]);
    bench.jobs['operate']!.and.returnValue(new Promise(() => undefined));
    page.one('[data-testid=bake]').click();
    await page.rest();
    const asked = () => bench.jobs['operate']!.calls.mostRecent().args[1];
    expect(asked()).toEqual({ op: 'bake', parts: [], keepPosition: false, keepRotation: false });
    page.one<HTMLInputElement>('yb-bake-panel [data-row=n1] input').click();
    await page.tick('rotation');
    page.one('[data-testid=bake]').click();
    await page.rest();
    expect(asked()).toEqual({
      op: 'bake',
      parts: [],
      except: ['n1'],
      keepPosition: false,
      keepRotation: true,
    });
  });

  it('transforms are told where the piece has them, however it was turned', async () => {
    const document = threeParts();
    const nodes = document.nodes.map((node, i) =>
      i === 1 ? { ...node, translation: [1, 2, 3] as Vec3 } : node,
    );
    const turned = { ...document.placing, turn: quatAbout([0, 1, 0], Math.PI / 2) };
    const [, leaf] = transformRows({ ...document, nodes, placing: turned });
    expect(leaf!.cells['position']).toBe('3, 2, -1');
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

  it('reads its own sides, its reach along an edge or square to a face, and angles', async () => {
    expect(page.one('[data-testid=own-sides]').textContent).toBe('2.00 × 2.00 × 2.00 m');
    bench.jobs['extent']!.and.resolveTo(1.25);
    await page.press('Square to a face');
    await pick(at(0, 0, 0));
    expect(page.one('[data-testid=reading]').textContent).toContain('1.2500 m square to that face');
    expect(bench.jobs['extent']!.calls.mostRecent().args[1]).toEqual([0, 0, 1]);
    await page.press('Angle');
    await pick(
      { ...at(0, 0, 0), kind: 'edge' },
      {
        ...at(0, 0, 0),
        kind: 'edge',
        edge: [
          [0, 0, 0],
          [1, 1, 0],
        ],
      },
    );
    expect(page.all('[data-testid=reading]')[1]!.textContent).toContain('45.00° between them');
  });

  it('tapes stay on the features that they were laid to', async () => {
    await page.press('Between two points');
    await pick(at(0, 0, 0), at(2, 0, 0));
    bench.store.apply({ kind: 'resize', factor: 2, about: [0, 0, 0] });
    await page.rest();
    expect(shown(bench.get(ViewMarks).tapes$)[0]![1]).toEqual([4, 0, 0]);
  });

  it('turns chosen parts by themselves, about their pivots, where only they have other axes', async () => {
    await open(threeParts());
    expect(page.text).not.toContain('the rest keeps its axes');
    bench.selection.chooseParts(new Set(['n2']));
    await page.rest();
    await page.tick('the rest keeps its axes');
    await page.press('X +90°');
    const { args } = bench.jobs['operate']!.calls.mostRecent();
    expect(args[1]).toEqual({
      op: 'move',
      parts: ['n2'],
      by: [0, 0, 0],
      turn: quatAbout([1, 0, 0], Math.PI / 2),
      about: centerOfParts(bench.store.document, ['n2']),
    });
    bench.selection.chooseParts(new Set());
    await page.rest();
    await page.press('X +90°');
    expect(title()).toContain('The piece is rotated');
  });

  it('says what is likely up with its reason, turns by quarters, and marks the front', async () => {
    bench.jobs['likelyAxes']!.and.resolveTo({
      up: { up: [0, 0, 1], standsOn: 0.3, looksUp: 0 },
      now: { up: [0, 1, 0], standsOn: 0.1, looksUp: 0 },
      forward: null,
    });
    bench.store.apply({ kind: 'resize', factor: 2, about: [0, 0, 0] });
    await page.rest();
    expect(page.one('[data-testid=likely-up]').textContent).toContain(
      'Z is likely up: it would stand on 30 %',
    );
    await page.press('Turn it so');
    const { turn } = bench.proposals.proposal!.edit as { turn: number[] };
    expect(turn.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([-0.707107, 0, 0, 0.707107]);
    await page.press('Y −90°');
    expect(title()).toContain('Y −90°');
    await page.tick('show it');
    expect(bench.get(ViewSettingsStore).settings.forward).toBeTrue();
  });

  it('further references of a typed size stand beside it, each where it was put', async () => {
    await page.press('Stand it beside');
    const view = bench.get(ViewSettingsStore);
    expect(view.settings.typedReferences).toEqual([
      { id: 'typed-1', kind: 'figure', height: 1.8, name: 'figure of 1.80 m' },
    ]);
    await page.press('Place …');
    await pick({ ...at(3, 0, 1), kind: 'ground', part: '' });
    expect([...view.settings.referencePlaces]).toEqual([['typed-1', [3, 0, 1]]]);
    page.one<HTMLButtonElement>('[aria-label="Take figure of 1.80 m away"]').click();
    await page.rest();
    expect(view.settings.typedReferences).toEqual([]);
  });

  it('offers to grow when an agent does not pass, with what is then to spare', async () => {
    bench.jobs['wallMetres']!.and.resolveTo(0.2);
    page.one('[data-testid=add-clearance]').click();
    await page.rest();
    await pick(at(0, 0, 0), at(0.66, 1.9, 0));
    await page.press('Grow by 6.1 % for the deckhand');
    expect(title()).toMatch(/^Grown by 6.1 % the deckhand passes, with 0\.\d+ mm to spare\.$|to spare/);
    expect(bench.proposals.proposal!.edit).toEqual(
      jasmine.objectContaining({ kind: 'resize', factor: 1.061 }),
    );
  });

  it('grows the pieces beside it along, shown before it is kept, one step to undo in each', async () => {
    bench.jobs['wallMetres']!.and.resolveTo(0.2);
    bench.api.shelf = [shelfPiece(7, 'Tall post')];
    await bench.get(ShelfStore).load(1);
    bench.get(SetGrowth);
    bench.store.showBeside([7]);
    await page.rest();
    page.one('[data-testid=add-clearance]').click();
    await page.rest();
    await pick(at(0, 0, 0), at(0.66, 1.9, 0));
    const saved = spyOn(bench.api, 'savePiece').and.callThrough();
    await page.press('Grow by 6.1 % for the deckhand');
    const about = bench.store.document.pivot.position;
    expect(bench.proposals.proposal!.beside).toEqual({
      pieces: [{ id: 7, name: 'Tall post' }],
      factor: 1.061,
      about,
    });
    bench.proposals.keep();
    await page.rest();
    const others = saved.calls.allArgs().filter(([id]) => id === 7);
    expect(others.length).toBe(1);
    const [, , state] = others[0]!;
    expect('history' in state && state.history!.edits.at(-1)).toEqual({
      kind: 'resize',
      factor: 1.061,
      about,
    });
    expect(bench.said()).toBe('“Tall post” grew along; it has one step to undo.');
    expect(shown(bench.store.beside$)).toEqual([7]);
    // Alone it is said that the others stay.
    bench.store.undo();
    await page.rest();
    await page.tick('grow along');
    await page.press('Grow by');
    expect(bench.proposals.proposal!.beside).toBeUndefined();
    spyOn(bench.api, 'piece').and.rejectWith(new Told('The server is away.'));
    bench.proposals.propose({
      source: 'size',
      title: 'x',
      edit: { kind: 'resize', factor: 2, about },
      beside: { pieces: [{ id: 7, name: 'Tall post' }], factor: 2, about },
    });
    bench.proposals.keep();
    await page.rest();
    expect(bench.notices.notices.map(({ text }) => text)).toContain(
      '“Tall post” stays as it is: The server is away.',
    );
  });

  it('shows nothing beside a piece that came to the bench while others still grew', async () => {
    bench.get(SetGrowth);
    const about: Vec3 = [0, 0, 0];
    const edit = { kind: 'resize' as const, factor: 2, about };
    const beside = { pieces: [{ id: 7, name: 'Tall post' }], factor: 2, about };
    bench.proposals.propose({ source: 'size', title: 'x', edit, beside });
    const answer = bench.api.savePiece;
    let go!: () => void;
    bench.api.savePiece = async (...args) => {
      if (args[0] === 7) await new Promise<void>((resolve) => (go = resolve));
      return answer(...args);
    };
    bench.proposals.keep();
    await page.rest();
    const opened = bench.store.open(2);
    await page.rest();
    await opened.catch(() => undefined);
    go();
    await page.rest();
    expect([bench.store.piece.id, shown(bench.store.beside$)]).toEqual([2, []]);
  });

  it('steps and slopes of art and shapes are compared with each agent', () => {
    const stairs = (rise: number) => ({ stairs: { steps: 4, rise, run: 0.3 }, slopeDegrees: null });
    const agent = { ...FIRST_AGENTS[1]!, step: 0.35, slopeDegrees: 45 };
    const facts = walkFacts(stairs(0.4), { stairs: null, slopeDegrees: 30 }, [agent]);
    expect(facts.map(({ name, now, text }) => [name, now, text])).toEqual([
      ['steps', '4 of 400.0 mm', 'none'],
      ['run of a step', '300.0 mm', 'none'],
      ['slope', 'none', '30°'],
      ['deckhand', '✕ 50.0 mm too high', '✓ walks up'],
    ]);
    expect(walkFacts({ stairs: null, slopeDegrees: null }, null, [agent])).toEqual([]);
  });

  it('references stand beside it with their heights', async () => {
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
