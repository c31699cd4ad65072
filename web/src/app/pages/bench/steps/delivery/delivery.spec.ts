import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { delivered, postDocument, postPiece } from '../../../../testing/post';
import { DeliveryStep } from './delivery-step';

describe('the delivery step', () => {
  let bench: TestBench;
  let page: TestPage<DeliveryStep>;
  const open = async (document = postDocument()) => {
    bench = await testBench(postPiece(document));
    page = await bench.show(DeliveryStep);
  };
  const left = (...ids: number[]) => (bench.api.left = ids.map((id) => delivered(id)));

  it('says what goes, delivers the saved version, and shows its files and the read-back', async () => {
    await open();
    expect(page.text).toContain('Mesh Post with no shapes');
    expect(page.has('[data-testid=read-back]')).toBeFalse();
    bench.store.apply({ kind: 'rename-mesh', name: 'Other' });
    await page.press('Deliver for');
    await bench.clock.move(10_000);
    await page.rest();
    expect(bench.api.left.map(({ version, target }) => [version, target])).toEqual([[2, 'prefix-tags']]);
    expect(page.one('[data-testid=bundle]').textContent).toContain('Download Post.zip');
    expect(page.one('[data-testid=verdict]').textContent).toContain('exactly what was drawn');
    expect(page.text).toContain('1.2 kB');
  });

  it('is of a set that is kept beside the one in use, when that is chosen', async () => {
    const document = postDocument();
    await open({ ...document, sets: [{ name: 'rough', proxies: [] }] });
    await page.choose('Shapes that leave', 'rough, 0 shapes');
    await page.press('Deliver for');
    await bench.clock.move(10_000);
    await page.rest();
    expect(bench.api.left.map(({ set }) => set)).toEqual(['rough']);
    expect(page.text).toContain('the set “rough”');
  });

  it('an error of any step keeps it here, with its sentence', async () => {
    await open();
    bench.store.apply({ kind: 'rename-mesh', name: 'no good name' });
    await page.rest();
    expect(page.one('[data-testid=deliver] button').hasAttribute('disabled')).toBeTrue();
    expect(page.text).toContain('The name holds a space, which the target does not take.');
  });

  it('what differs is said point by point, and what the importer made of names and kinds', async () => {
    await open();
    const point = { point: 'shape UCX_Post_01', expected: 'cylinder', found: 'hull', agrees: false };
    bench.api.left = [
      delivered(1, 1, {
        agreed: false,
        comparison: [point, { point: 'mesh', expected: 'Post', found: 'Post', agrees: true }],
        readBack: {
          target: 'prefix-tags',
          meshes: [],
          shapes: [],
          changed: [{ name: 'UCX_Post_01', how: 'its hull was reduced' }],
          ignored: [{ name: 'Lamp', why: 'lights are not imported' }],
        },
      }),
    ];
    page = await bench.show(DeliveryStep);
    expect(page.one('[data-testid=verdict]').textContent).toContain('1 of 2 points differ.');
    expect(page.text).toContain('shape UCX_Post_01: cylinder was drawn, hull was read.');
    expect(page.text).toContain('UCX_Post_01: its hull was reduced');
    expect(page.text).toContain('Lamp: lights are not imported');
    expect(page.text).toContain('All 2 points');
  });

  it('older deliveries are listed with how many more there are, and each can be shown', async () => {
    await open();
    left(5, 4, 3, 2, 1);
    page = await bench.show(DeliveryStep);
    const earlier = () => page.all('yb-earlier-panel li button');
    expect([earlier().length, page.button('Show 3 more') !== null]).toEqual([1, true]);
    await page.press('Show 3 more');
    expect(earlier().length).toBe(3);
    await page.press('Show 1 more');
    expect(earlier().length).toBe(4);
    expect(page.text).not.toContain('more');
    const bundle = () => page.one<HTMLAnchorElement>('[data-testid=bundle]').getAttribute('href');
    const first = bundle();
    earlier()[0]!.click();
    await page.rest();
    expect(bundle()).not.toBe(first);
    expect(earlier().length).toBe(4);
  });

  it('that fails is said, and that is stopped is not; the piece can be delivered again', async () => {
    await open();
    const deliver = spyOn(bench.api, 'deliver').and.rejectWith(new Error('away'));
    await page.press('Deliver for');
    expect(bench.notices.notices.length).toBe(1);
    let refuse!: (error: Error) => void;
    deliver.and.callFake(
      (...args: unknown[]) =>
        new Promise((_, reject) => {
          refuse = reject;
          (args[2] as AbortSignal).addEventListener('abort', () => reject(new Error('aborted')));
        }),
    );
    page.button('Deliver for').click();
    await page.rest();
    expect(page.text).toContain('Assembling and reading back');
    await page.press('Stop delivering');
    expect(refuse).toBeDefined();
    expect(bench.notices.notices.length).toBe(1);
    expect(page.button('Deliver for').disabled).toBeFalse();
  });
});
