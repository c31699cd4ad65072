import { type Edit, removeProxy, replaceProxies } from '@yard-brace/core';
import { type TestBench, testBench } from '../testing/bench';
import { shown } from '../testing/shown';
import { type Proposals } from './proposals';

const rename: Edit = { kind: 'rename-piece', name: 'Other' };
const sphere = (id: string) => ({
  id,
  shape: { kind: 'sphere' as const, center: [0, 0, 0] as [number, number, number], radius: 1 },
});

describe('Proposals', () => {
  let bench: TestBench;
  let proposals: Proposals;
  beforeEach(async () => {
    bench = await testBench();
    ({ proposals } = bench);
  });
  const propose = (edit: Edit) => proposals.propose({ source: 'operation', title: 'A change.', edit });

  it('shows a change without making it, until it is kept', () => {
    const proposal = propose(rename);
    expect([proposal.preview.name, bench.store.document.name]).toEqual(['Other', 'Post']);
    expect(proposal.madeFrom).toBe(bench.store.document);
    expect(proposals.discard()).toBeTrue();
    expect([bench.store.document.name, proposals.discard()]).toEqual(['Post', false]);
    propose(rename);
    proposals.keep();
    expect(bench.store.document.name).toBe('Other');
    expect(proposals.proposal).toBeNull();
    expect(bench.notices.notices).toEqual([]);
    bench.store.undo();
    expect(bench.store.document.name).toBe('Post');
  });

  it('there is one at a time, whatever it is of', () => {
    propose(rename);
    const shapes = propose(replaceProxies([sphere('a')]));
    expect(shown(proposals.proposal$)).toBe(shapes);
    proposals.keep();
    expect([bench.store.document.name, bench.store.document.proxies.length]).toEqual(['Post', 1]);
    proposals.keep();
    expect(bench.store.document.proxies.length).toBe(1);
  });

  it('goes, with a word, when what it was made from changes', () => {
    propose(replaceProxies([sphere('a')]));
    bench.store.apply({ kind: 'set-unit', unit: 'cm' });
    expect(proposals.proposal).toBeNull();
    expect(bench.said()).toContain('is discarded');
    proposals.keep();
    expect(bench.store.document.proxies).toEqual([]);
    propose(rename);
    bench.store.undo();
    expect(proposals.proposal).toBeNull();
  });

  it('goes without a word when another piece comes', async () => {
    propose(rename);
    await bench.store.open(2);
    expect(proposals.proposal).toBeNull();
    expect(bench.notices.notices).toEqual([]);
  });

  it('stays through a save, which changes nothing of the piece', async () => {
    bench.store.apply({ kind: 'rename-mesh', name: 'Saved' });
    propose(rename);
    await bench.store.settled();
    expect(proposals.proposal).not.toBeNull();
  });

  it('an edit that names what is gone does nothing', () => {
    propose(removeProxy('nobody'));
    proposals.keep();
    expect(bench.store.document.proxies).toEqual([]);
  });
});
