import { TestBed } from '@angular/core/testing';
import { FIRST_AGENTS, replaceProxies } from '@yard-brace/core';
import { boxRound } from '../../../testing/crate';
import { type TestBench, testBench, TestPage } from '../../../testing/bench';
import { shown } from '../../../testing/shown';
import { HandWalkStore } from '../../../state/hand-walk';
import { ShapeOverlay } from './shape-overlay';

describe('what lies over the shapes', () => {
  let bench: TestBench;
  let page: TestPage<ShapeOverlay>;
  const tags = () => page.all('.tag').map((each) => each.textContent!.trim());
  const pointed = () => shown(bench.selection.pointed$);
  const point = (x: number, y: number) =>
    page
      .one('path.dot')
      .dispatchEvent(new PointerEvent('pointermove', { bubbles: true, clientX: x, clientY: y }));

  beforeEach(async () => {
    bench = await testBench();
    bench.store.apply(
      replaceProxies(['a', 'b', 'c', 'd'].map((id) => ({ id, shape: boxRound([0, 0, 0], 1) }))),
    );
    const fixture = TestBed.createComponent(ShapeOverlay);
    document.body.append(fixture.nativeElement as HTMLElement);
    Object.assign((fixture.nativeElement as HTMLElement).style, { position: 'fixed', inset: '0' });
    const at = (id: string, x: number, behind = false) => ({ id, x, y: 100, behind });
    fixture.componentRef.setInput('scene', null);
    fixture.componentRef.setInput('tabs', []);
    fixture.componentRef.setInput('tags', [at('a', 100), at('b', 110), at('c', 120), at('d', 300, true)]);
    page = new TestPage(fixture);
    await page.rest();
  });
  afterEach(() => page.fixture.destroy());

  it('are tags where there is room, one line of dots where there is none, nothing behind the eye', () => {
    expect(tags()).toEqual(['1']);
    expect(page.one('path.dot').getAttribute('d')).toBe('M110.0 96.0h0M120.0 96.0h0');
  });

  it('the nearest dot answers the pointer, and becomes a tag', async () => {
    point(118, 95);
    await page.rest();
    expect([pointed(), tags()]).toEqual(['c', ['3']]);
  });

  it('whoever is steered sees the way: only what is chosen or pointed at has a tag', async () => {
    bench.jobs['beginWalk']!.and.resolveTo({ at: [0, 0, 0], height: 1.8, stands: true, stoppedBy: null });
    bench.jobs['endWalk']!.and.resolveTo(undefined);
    const walk = bench.get(HandWalkStore);
    bench.selection.point('b');
    await walk.begin(FIRST_AGENTS[1]!);
    await page.rest();
    expect([tags(), page.has('path')]).toEqual([['2'], false]);
    walk.end();
    await page.rest();
    expect(page.has('path')).toBeTrue();
  });
});
