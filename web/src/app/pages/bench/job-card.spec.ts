import { compareShapes, plainMesh, stepNumber, type Vec3, WORKING_STEPS } from '@yard-brace/core';
import { type TestBench, testBench, type TestPage } from '../../testing/bench';
import { postDocument, postPiece } from '../../testing/post';
import { Stopped } from '../../workers/compute';
import { Told } from '../../api/told';
import { JobCard } from './job-card';
import { STEPS } from './steps/registry';

const post = postDocument(200, false);

describe('JobCard', () => {
  let bench: TestBench;
  let page: TestPage<JobCard>;
  const key = async (name: string) => {
    document.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
    await page.rest();
  };
  const openStep = () => page.all('[aria-expanded=true][data-step]').map((each) => each.dataset['step']);

  beforeEach(async () => {
    bench = await testBench(postPiece(post));
    page = await bench.show(JobCard);
  });

  it('lists every working step once, under the number that opens it', () => {
    expect(STEPS.map(({ id }) => id)).toEqual([...WORKING_STEPS]);
    for (const { id, number } of STEPS) expect(number).toBe(stepNumber(id));
    expect(page.all('[data-step] .number').map((each) => each.textContent)).toEqual(
      STEPS.map(({ number }) => String(number)),
    );
  });

  it('opens one step at a time, by click or by key', async () => {
    expect(openStep()).toEqual(['intake']);
    for (const { id, number } of [...STEPS.slice(1), STEPS[0]!]) {
      await key(String(number));
      expect(openStep()).toEqual([id]);
    }
    // There are no more than eight.
    await key('9');
    expect(openStep()).toEqual(['intake']);
    for (let clicks = 0; clicks < 3; clicks++) {
      page.one('[data-step=pivot]').click();
      await page.rest();
      expect(openStep()).toEqual(['pivot']);
    }
  });

  it('forgets what was pointed at in the step that closes', async () => {
    bench.selection.point('a shape');
    await key('6');
    let pointed: string | null = 'not asked';
    bench.selection.pointed$.subscribe((id) => (pointed = id)).unsubscribe();
    expect(pointed).toBeNull();
  });

  it('takes no choice of one piece over to the next', async () => {
    await key(String(stepNumber('parts')));
    await page.press('Module');
    await page.press('Bend');
    await page.type('Bend by', '30');
    const typed = () => page.one<HTMLInputElement>('input[aria-label="Bend by"]').value;
    expect(typed()).toContain('30');
    await bench.store.open(2);
    await page.rest();
    expect(page.button('Cut').getAttribute('aria-pressed')).toBe('true');
    await page.press('Bend');
    expect(typed()).toContain('90');
  });

  it('confirms the unit from its finding', async () => {
    expect(page.text).toContain('read in cm its longest side is 2.00 m');
    await page.press('Confirm cm');
    expect(bench.store.document.unit).toEqual({ name: 'cm', stated: false, confirmed: true });
    expect(page.text).not.toContain('to confirm');
  });

  it('proposes what the worker made; a stop changes nothing, a failure is said', async () => {
    await key('5');
    await page.press('Wrap');
    const wrap = async () => page.press('Wrap the piece');
    bench.jobs['makeShapes']!.and.rejectWith(new Stopped('Stopped.'));
    await wrap();
    expect([bench.proposals.proposal, bench.notices.notices.length]).toEqual([null, 0]);
    bench.jobs['makeShapes']!.and.rejectWith(new Told('The mesh cannot be fetched.'));
    await wrap();
    expect(bench.said()).toBe('The mesh cannot be fetched.');
    const shape = { kind: 'sphere' as const, center: [1, 1, 1] as Vec3, radius: 1 };
    const after = compareShapes(plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2]), [shape]);
    const edit = { kind: 'put-proxies', changed: [{ id: 'a', shape }], removed: [] };
    bench.jobs['makeShapes']!.and.resolveTo({ edit, before: null, after });
    await wrap();
    const proposal = bench.proposals.proposal!;
    expect([proposal.title, proposal.keepLabel]).toEqual([
      'Wrapped the piece: smallest box.',
      'Keep 1 shape',
    ]);
    expect(proposal.figures.slice(0, 2).map(({ name, now, next }) => `${name}: ${now} → ${next}`)).toEqual([
      'Shapes: — → 1',
      'Corners: — → 0',
    ]);
    expect(page.text).toContain('1 shape proposed');
    expect(bench.store.document.proxies).toEqual([]);
  });

  it('says a name that stops, and mends it', async () => {
    bench.store.apply({ kind: 'rename-mesh', name: 'a b' });
    await key('6');
    expect(page.text).toContain('The name holds a space');
    expect(page.text).toContain('1 step stopped');
    await page.press('Name it a_b');
    expect(bench.store.document.meshName).toBe('a_b');
  });
});
