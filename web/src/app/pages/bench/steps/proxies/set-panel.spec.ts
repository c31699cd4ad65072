import {
  Comparer,
  judgeSet,
  type PieceDocument,
  plainMesh,
  PREFIX_TAGS,
  proxyKey,
  replaceProxies,
  type SetFacts,
  setFactsOf,
  setOf,
  type Shape,
  takesOf,
} from '@yard-brace/core';
import { type TestBench, testBench } from '../../../../testing/bench';
import { postDocument, postPiece } from '../../../../testing/post';
import { shown } from '../../../../testing/shown';
import { ChosenAreas } from '../../../../state/chosen-areas';
import { RiddenEdges } from '../../../../state/ridden-edges';
import { SetPlaces } from '../../../../state/set-places';
import { ShapeEditor } from '../../../../state/shape-editor';
import { ViewMarks } from '../../../../state/view-marks';
import { KeptSetsPanel } from './kept-sets-panel';
import { ProxiesStep } from './proxies-step';
import { SetPanel } from './set-panel';
import { setRows } from './set-rows';

/** A cube of one metre, with its corner in the origin. */
const cube = plainMesh(
  [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, 1, 1, 0, 1, 1, 1, 1, 0, 1, 1],
  [
    [0, 2, 1, 0, 3, 2],
    [4, 5, 6, 4, 6, 7],
    [0, 1, 5, 0, 5, 4],
    [3, 6, 2, 3, 7, 6],
    [0, 4, 7, 0, 7, 3],
    [1, 2, 6, 1, 6, 5],
  ].flat(),
);
const box = (x: number, half: number): Shape => ({
  kind: 'box',
  center: [x, 0.5, 0.5],
  halfExtents: [half, 0.5, 0.5],
  rotation: [0, 0, 0, 1],
});
const comparer = new Comparer(cube);

const judged = (document: PieceDocument, felt: number): SetFacts =>
  setFactsOf(
    document,
    felt,
    takesOf(PREFIX_TAGS),
    judgeSet(comparer, { ...setOf(document), partOfFace: () => 'n1', toleranceMetres: felt }),
  );

async function judgedBench(...shapes: Shape[]): Promise<TestBench> {
  const bench = await testBench(postPiece(postDocument()));
  bench.store.apply(replaceProxies(shapes.map((shape, i) => ({ id: `s${i + 1}`, shape }))));
  const facts = judged(bench.store.document, bench.store.feltMetres);
  await bench.store.measured({
    key: proxyKey(bench.store.document),
    artOutside: facts.uncovered.max,
    proxyOutside: facts.excess.max,
    judged: facts,
  });
  return bench;
}

describe('the judged set', () => {
  it('holds each measure against what is felt, the worst first', async () => {
    const bench = await judgedBench(box(0.25, 0.25), box(1, 0.2));
    const page = await bench.show(SetPanel);
    const names = page.all('[data-measure]').map((each) => each.dataset['measure']);
    expect(names.slice(0, 3)).toEqual(['excess', 'uncovered', 'bare']);
    const rows = setRows(bench.store.document, shown(bench.store.measured$)!.judged!, 0.04);
    const row = (id: string) => rows.find((each) => each.id === id)!;
    expect(row('excess').figure).toBe('200.0 mm');
    expect(row('excess').share).toBeCloseTo(5, 1);
    expect(row('crossing').figure).toBe('0');
    expect(row('cost').note).toMatch(/^16 corners for /);
  });

  it('is judged for whoever is chosen: what one feels goes unfelt by another', async () => {
    const bench = await judgedBench(box(0.5, 0.5), box(1, 0.1));
    const step = await bench.show(ProxiesStep);
    const ids = () => step.all('[data-finding]').map((each) => each.dataset['finding']);
    expect(ids()).toContain('proxies-excess');
    expect([bench.store.feltMetres, step.text.includes('deckhand, ignores below 40.0 mm')]).toEqual([
      0.04,
      true,
    ]);
    bench.store.apply({ kind: 'set-agent', agent: 'gantry-rig' });
    expect(bench.store.feltMetres).toBe(0.25);
    const facts = judged(bench.store.document, bench.store.feltMetres);
    await bench.store.measured({
      key: proxyKey(bench.store.document),
      artOutside: facts.uncovered.max,
      proxyOutside: facts.excess.max,
      judged: facts,
    });
    await step.rest();
    expect(ids()).not.toContain('proxies-excess');
    bench.store.undo();
    expect(bench.store.feltMetres).toBe(0.04);
  });

  it('goes to the place where a measure is worst, and takes the shapes in hand that it is about', async () => {
    const bench = await judgedBench(box(0.5, 0.5), box(0.6, 0.2));
    const page = await bench.show(SetPanel);
    page.one<HTMLButtonElement>('[data-measure=crossing] button').click();
    const at = shown(bench.get(ViewMarks).place$)!;
    expect(at.map((v) => Math.round(v * 10) / 10)).toEqual([0.6, 0.5, 0.5]);
    expect([...bench.selection.selected.proxies].sort()).toEqual(['s1', 's2']);
  });

  it('keeps the figures of before in sight, paler, while what is shown is measured', async () => {
    const bench = await judgedBench(box(0.5, 0.5));
    bench.store.apply(replaceProxies([{ id: 'x', shape: box(0.4, 0.4) }]));
    const page = await bench.show(SetPanel);
    expect(page.text).toContain('Measuring the shapes');
    expect(page.all('ul.stale [data-measure]').length).toBeGreaterThan(5);
  });
});

describe('findings of the set', () => {
  it('propose their fix with figures, and say so when nothing comes of it', async () => {
    const bench = await judgedBench(box(0.25, 0.25));
    const list = await bench.show(ProxiesStep);
    const edit = {
      kind: 'put-proxies' as const,
      changed: [{ id: 's2', shape: box(0.75, 0.25) }],
      removed: [],
    };
    const before = comparer.compare([box(0.25, 0.25)]);
    bench.jobs['fixShapes']!.and.resolveTo({
      edit,
      before,
      after: comparer.compare([box(0.25, 0.25), box(0.75, 0.25)]),
    });
    await list.press('Wrap 1 bare area');
    const [document, , fix] = bench.jobs['fixShapes']!.calls.mostRecent().args;
    expect([document, fix]).toEqual([bench.store.document, { fix: 'wrap-bare' }]);
    const { proposal } = bench.proposals;
    expect(proposal!.preview.proxies.length).toBe(2);
    expect(proposal!.figures.find(({ name }) => name === 'Uncovered')).toEqual(
      jasmine.objectContaining({ now: '500.0 mm', good: true }),
    );
    bench.proposals.discard();
    bench.jobs['fixShapes']!.and.resolveTo(null);
    await list.press('Wrap 1 bare area');
    expect(bench.said()).toBe('No area of the art is bare any more.');
  });
});

describe('where a set is not as it should be', () => {
  it('is shown while the step is open and the judgement is of what is there, and not over a proposal', async () => {
    const bench = await judgedBench(box(0.25, 0.25));
    const places = {
      bare: [],
      lenses: [{ pair: ['a', 'b'] as [string, string], points: [0, 0, 0], faces: [] }],
    };
    bench.jobs['setPlaces']!.and.resolveTo(places);
    const shownPlaces = () => shown(bench.get(SetPlaces).places$);
    expect(shownPlaces()).toBeNull();
    const step = await bench.show(ProxiesStep);
    expect(shownPlaces()).toBe(places);
    bench.proposals.propose({
      source: 'set',
      title: 'Fewer',
      edit: replaceProxies([]),
      figures: [],
    });
    expect(shownPlaces()).toBeNull();
    bench.proposals.discard();
    await step.rest();
    expect(shownPlaces()).toBe(places);
    // What was asked before a proposal came up is not drawn over it.
    bench.proposals.propose({ source: 'set', title: 'Fewer', edit: replaceProxies([]), figures: [] });
    let answer!: (found: typeof places) => void;
    bench.jobs['setPlaces']!.and.returnValue(new Promise((resolve) => (answer = resolve)));
    bench.proposals.discard();
    bench.proposals.propose({ source: 'set', title: 'Fewer', edit: replaceProxies([]), figures: [] });
    answer(places);
    await step.rest();
    expect(shownPlaces()).toBeNull();
    bench.proposals.discard();
    bench.store.apply(replaceProxies([{ id: 'x', shape: box(0.4, 0.4) }]));
    expect(shownPlaces()).toBeNull();
    expect(bench.jobs['setPlaces']).toHaveBeenCalledTimes(4);
  });
});

describe('what is meant', () => {
  it('is accepted as it stands, by the finding or by the figure, and judged again beyond that', async () => {
    const bench = await judgedBench(box(0.5, 0.5), box(1, 0.2));
    const page = await bench.show(ProxiesStep);
    const accepted = () => bench.store.document.proxies.map(({ acceptedExcess }) => acceptedExcess);
    await page.press('Accept shape 2 as it stands');
    expect(accepted()).toEqual([undefined, 0.2]);
    bench.get(ShapeEditor).choose('s2');
    await page.rest();
    const field = page.one<HTMLInputElement>('[aria-label="Accepted excess"]');
    expect(field.value).toContain('200');
    field.value = '0';
    field.dispatchEvent(new Event('change'));
    await page.rest();
    expect(accepted()).toEqual([undefined, undefined]);
  });

  it('is art that is left out: chosen where it is bare, left out by faces, counted in again', async () => {
    const bench = await judgedBench(box(0.25, 0.25));
    const list = await bench.show(ProxiesStep);
    const { mesh } = bench.store.document.nodes[0]!;
    const faces = [{ part: 'n1', mesh: mesh!, runs: [2, 3] }];
    bench.jobs['bareFaces']!.and.resolveTo(faces);
    const chosen = spyOn(bench.get(ChosenAreas), 'choose');
    const cleared = spyOn(bench.selection, 'clearFaces');
    // While they are looked for, what was chosen before is chosen no more: a quick click would leave that out.
    bench.jobs['bareFaces']!.and.callFake(async () => (expect(cleared).toHaveBeenCalledTimes(1), faces));
    await list.press('Choose their faces');
    expect(chosen).toHaveBeenCalledOnceWith({ faces });
    spyOn(bench.selection, 'facesByPart').and.returnValue([
      { part: 'n1', faces: Uint32Array.from([2, 3, 4]) },
    ]);
    bench.get(ChosenAreas).collide(false);
    await list.rest();
    expect(bench.store.document.noCollision).toEqual(faces);
    expect(list.one('[data-testid=left-out]').textContent).toContain('3 faces left out of collision');
    await list.press('Count in');
    expect(bench.store.document.noCollision).toEqual([]);
  });
});

describe('edges that are ridden', () => {
  it('are marked along the run that was chosen, named, judged, and forgotten', async () => {
    const bench = await judgedBench(box(0.5, 0.4));
    const step = await bench.show(ProxiesStep);
    spyOnProperty(bench.selection, 'lastRun').and.returnValue([{ part: 'n1', sides: Uint32Array.of(4) }]);
    bench.jobs['riddenEdge']!.and.resolveTo(null);
    await bench.get(RiddenEdges).markRun();
    expect(bench.said()).toContain('no single run');
    const line: [number, number, number][] = [
      [0, 1, 0],
      [1, 1, 0],
    ];
    bench.jobs['riddenEdge']!.and.resolveTo({
      line,
      sides: [
        [
          [0, -1, 0],
          [0, 0, 1],
        ],
      ],
    });
    await bench.get(RiddenEdges).markRun();
    expect(bench.jobs['riddenEdge']!.calls.mostRecent().args[1]).toEqual([
      { part: 'n1', sides: Uint32Array.of(4) },
    ]);
    await step.rest();
    const row = () => step.one('[data-edge=e1]');
    expect(row().textContent).toContain('1.00 m');
    const name = row().querySelector('input')!;
    name.value = 'coping';
    name.dispatchEvent(new Event('change'));
    await step.rest();
    expect(bench.store.document.riddenEdges.map((edge) => edge.name)).toEqual(['coping']);
    const facts = judged(bench.store.document, bench.store.feltMetres);
    const [found] = setRows(bench.store.document, facts, 0.04).filter(({ id }) => id === 'edges');
    expect([found!.figure, found!.note, found!.share]).toEqual(['0 of 1', '125.0 mm without an edge', 2]);
    row().querySelector<HTMLButtonElement>('[aria-label="Forget coping"]')!.click();
    await step.rest();
    expect(step.all('[data-edge]').length).toBe(0);
  });
});

describe('sets beside the one in use', () => {
  it('are kept with how they lay, shown before they are used, and forgotten', async () => {
    const bench = await judgedBench(box(0.5, 0.4));
    const page = await bench.show(KeptSetsPanel);
    page.one<HTMLInputElement>('[aria-label="Name of the set"]').value = 'rough';
    page.one('[aria-label="Name of the set"]').dispatchEvent(new Event('input'));
    await page.rest();
    await page.press('Keep these 1 shape');
    const cells = [...page.one('[data-set=rough]').children].map((each) => each.textContent!.trim());
    expect(cells.slice(0, 5)).toEqual(['rough', '1', '8', '100.0 mm', '1']);
    bench.store.apply(
      replaceProxies([
        { id: 'x', shape: box(0.5, 0.1) },
        { id: 'y', shape: box(0.7, 0.1) },
      ]),
    );
    await page.rest();
    await page.press('Use');
    expect(bench.proposals.proposal!.preview.proxies.map(({ id }) => id)).toEqual(['s1']);
    expect(bench.proposals.proposal!.figures[0]).toEqual({ name: 'Shapes', now: '2', next: '1' });
    bench.proposals.keep();
    expect(bench.store.document.proxies.map(({ id }) => id)).toEqual(['s1']);
    bench.store.apply({ kind: 'resize', factor: 2, about: [0, 0, 0] });
    await page.rest();
    expect(page.one('[data-set=rough] [title]').getAttribute('title')).toContain('has changed since');
    page.one<HTMLButtonElement>('[aria-label="Forget rough"]').click();
    await page.rest();
    expect(bench.store.document.sets).toEqual([]);
  });
});
