import type { FoundOpening } from '@yard-brace/core';
import { testBench } from '../../../../testing/bench';
import { postDocument, postPiece } from '../../../../testing/post';
import { FoundOpeningsPanel } from './found-openings-panel';

const opening = (width: number, height: number, x = 0): FoundOpening => ({
  center: [x, height / 2, 0],
  halfExtents: [width / 2, height / 2, 0.2],
  rotation: [0, 0, 0, 1],
  toFloor: true,
});

describe('openings that are found', () => {
  it('are listed with who passes, kept free one by one or all that the deckhand needs', async () => {
    const bench = await testBench(postPiece(postDocument()));
    bench.jobs['openings']!.and.resolveTo([opening(1, 2), opening(0.4, 0.5, 5), opening(0.1, 0.2, 9)]);
    const page = await bench.show(FoundOpeningsPanel);
    await page.press('Find openings');
    const said = page.all('[data-opening]').map((each) => each.textContent!.replace(/\s+/g, ' ').trim());
    expect(said[0]).toContain('deckhand, gull pass');
    expect(said[1]).toContain('gull passes');
    expect(said[2]).toContain('nobody passes: it may be closed');
    await page.press('Keep 1 free for a deckhand');
    expect(bench.store.document.clearances.map(({ id, center }) => [id, center])).toEqual([
      ['c1', [0, 1, 0]],
    ]);
    // What is kept is no longer offered.
    expect(page.all('[data-opening]').length).toBe(2);
    await page.press('Keep free');
    expect(bench.store.document.clearances.map(({ name }) => name)).toEqual(['opening 1', 'opening 2']);
  });

  it('are forgotten with the art they were found in, and none are said', async () => {
    const bench = await testBench(postPiece(postDocument()));
    bench.jobs['openings']!.and.resolveTo([opening(1, 2)]);
    const page = await bench.show(FoundOpeningsPanel);
    await page.press('Find openings');
    bench.store.apply({ kind: 'resize', factor: 2, about: [0, 0, 0] });
    await page.rest();
    expect(page.has('[data-opening]')).toBeFalse();
    bench.jobs['openings']!.and.resolveTo([]);
    await page.press('Find openings');
    expect(bench.said()).toContain('No way goes through');
  });
});
