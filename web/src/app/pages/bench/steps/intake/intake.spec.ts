import { Router } from '@angular/router';
import type { NewArtReport, ProxyFit } from '@yard-brace/core';
import { NewArtStore } from '../../../../state/new-art-store';
import { ShelfStore } from '../../../../state/shelf-store';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { postDocument, postPiece, threeParts } from '../../../../testing/post';
import { contentFacts } from './content-panel';
import { IntakeStep } from './intake-step';
import { fitSummary, misfits, newArtSummary, partDetail, pivotOutcome } from './new-art-texts';
import { Told } from '../../../../api/told';

const report = (change: Partial<NewArtReport> = {}): NewArtReport => ({
  parts: [{ part: 'n1', name: 'Post', became: 'changed', off: 0.03, triangles: { before: 4, after: 6 } }],
  pivots: [],
  proxies: [],
  size: { before: [1, 1, 1], after: [1, 2, 1] },
  edit: { kind: 'resize', factor: 2, about: [0, 0, 0] } as never,
  ...change,
});
const fit = (fits: boolean): ProxyFit => ({
  fits,
  proxyOutside: { before: 0.001, after: 0.05 },
  artOutside: { before: 0, after: 0.2 },
});

describe('the intake step', () => {
  let bench: TestBench;
  let page: TestPage<IntakeStep>;
  const open = async (document = postDocument(2)) => {
    bench = await testBench(postPiece(document));
    page = await bench.show(IntakeStep);
  };
  beforeEach(() => open());

  it('says what the piece is made of, and where its files are', () => {
    const facts = Object.fromEntries(
      contentFacts(bench.store.document).map(({ name, text }) => [name, text]),
    );
    expect(facts['Triangles']).toBe('4');
    expect(facts['Nodes, parts, shells']).toBe('1, 1, 1');
    expect(facts['Surface']).toBe('closed');
    const link = page.one<HTMLAnchorElement>('yb-source-panel a');
    expect([link.textContent, link.download]).toEqual(['post.obj', 'post.obj']);
  });

  it('a file of several pieces becomes them; the original stays unless a box is ticked', async () => {
    const document = threeParts();
    const apart = document.nodes.map((node, i) => ({
      ...node,
      parent: null,
      translation: [i * 50, 0, 0] as [number, number, number],
      bounds: { min: [i * 50, 0, 0], max: [i * 50 + 2, 2, 2] } as typeof node.bounds,
    }));
    await open({ ...document, nodes: apart });
    const split = spyOn(bench.get(ShelfStore), 'splitIntoPieces').and.resolveTo(3);
    const turned = spyOn(bench.get(Router), 'navigate').and.callFake(async () => {
      bench.notices.leave();
      return true;
    });
    await page.press('Split into 3 pieces');
    expect(turned).toHaveBeenCalledWith(['/yards', 1]);
    expect(split.calls.mostRecent().args[0]).toEqual(jasmine.objectContaining({ id: 1, remove: false }));
    expect(bench.said()).toBe('Post was split into 3 pieces; it stays on the shelf.');
    await page.tick('and remove this piece');
    split.and.rejectWith(new Told('There is no room.'));
    await page.press('Split into 3 pieces');
    expect(split.calls.mostRecent().args[0].remove).toBeTrue();
    expect(bench.said()).toBe('There is no room.');
  });

  describe('new art', () => {
    const compare = async (change: Partial<NewArtReport> = {}, fits: ProxyFit[] = []) => {
      bench.jobs['newArt']!.and.resolveTo({ report: report(change), fits });
      await bench.get(NewArtStore).compare({ file: new File(['x'], 'post.obj'), beside: [] });
      await page.rest();
    };

    it('is reported before anything is replaced, kept as one edit, and gone when it is discarded', async () => {
      await compare({}, [fit(true), fit(false)]);
      expect(page.text).toContain('1 part changed. 1.00 × 1.00 × 1.00 m becomes 1.00 × 2.00 × 1.00 m.');
      expect(page.text).toContain('1 of 2 proxies no longer fits; the others are left alone.');
      expect(page.all('[data-testid=new-art] [data-row]').map((row) => row.dataset['row'])).toEqual([
        'Shape 2',
      ]);
      expect(bench.store.document.placing.factor).toBe(1);
      bench.proposals.discard();
      await page.rest();
      expect(page.has('[data-testid=new-art]')).toBeFalse();
      await compare();
      bench.proposals.keep();
      await page.rest();
      expect(bench.store.document.placing.factor).toBe(2);
      expect(page.has('[data-testid=new-art]')).toBeFalse();
    });

    it('compared with a piece that was changed meanwhile is not laid over it', async () => {
      let finish!: (value: unknown) => void;
      bench.jobs['newArt']!.and.returnValue(new Promise((resolve) => (finish = resolve)));
      const comparing = bench.get(NewArtStore).compare({ file: new File(['x'], 'post.obj'), beside: [] });
      bench.store.apply({ kind: 'rename-piece', name: 'Other' });
      finish({ report: report(), fits: [] });
      await comparing;
      expect(bench.proposals.proposal).toBeNull();
      expect(bench.said()).toContain('compare it again');
    });

    it('that cannot be read says why', async () => {
      bench.jobs['newArt']!.and.rejectWith(new Told('post.obj: the file is empty; export it again.'));
      await bench.get(NewArtStore).compare({ file: new File([''], 'post.obj'), beside: [] });
      expect(bench.said()).toBe('post.obj: the file is empty; export it again.');
    });
  });
});

describe('words of new art', () => {
  it('sums up parts and size', () => {
    expect(newArtSummary(report({ size: { before: [1, 1, 1], after: [1, 1, 1] } }))).toBe(
      '1 part changed. The size is the same.',
    );
    const part = (became: 'same' | 'new' | 'gone' | 'moved') => ({ ...report().parts[0]!, became });
    expect(
      newArtSummary(report({ parts: [part('new'), part('same'), part('same'), part('gone')] })),
    ).toContain('2 parts unchanged, 1 part new, 1 part removed.');
    expect([partDetail(part('new')), partDetail(part('gone')), partDetail(part('moved'))]).toEqual([
      '6 triangles',
      '4 triangles',
      '30.0 mm',
    ]);
  });

  it('says what becomes of a pivot and of proxies', () => {
    const pivot = { part: null, name: 'Post', off: 0.2 };
    expect([
      pivotOutcome({ ...pivot, off: 0 } as never, true),
      pivotOutcome(pivot as never, true),
      pivotOutcome(pivot as never, false),
    ]).toEqual(['stays', 'moves along', 'is restored']);
    expect(fitSummary([fit(true)])).toBe('The proxy still fits.');
    expect(fitSummary([fit(true), fit(true)])).toBe('All 2 proxies still fit.');
    expect(fitSummary([fit(false), fit(false), fit(true)])).toBe(
      '2 of 3 proxies no longer fit; the others are left alone.',
    );
    expect(misfits([fit(true), fit(false)])).toEqual([
      { name: 'Shape 2', now: '1.0 mm → 50.0 mm', text: '0.00 mm → 200.0 mm' },
    ]);
  });
});
