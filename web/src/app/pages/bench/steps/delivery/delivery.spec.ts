import {
  inventoryOf,
  pivotAt,
  pivotEdit,
  plainMaterial,
  planDelivery,
  PREFIX_TAGS,
  replaceProxies,
} from '@yard-brace/core';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { delivered, postDocument, postPiece } from '../../../../testing/post';
import type { ReadBackShapes } from '../../../../state/read-back-shapes';
import { Selection } from '../../../../state/selection';
import { ViewMarks } from '../../../../state/view-marks';
import type { ToDeliver } from '../../../../workers/jobs/weigh-delivery';
import { WEIGH_AFTER_MS } from './delivery-sizes';
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
    expect(page.text).toContain('Post.glb');
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
    expect(bench.api.left.map(({ choices }) => choices.set)).toEqual(['rough']);
    expect(page.text).toContain('the set “rough”');
  });

  it('leaves for all targets of the yard in one go, or for those that are ticked', async () => {
    const piece = postPiece(postDocument());
    const rules = { ...piece.yard.rules, targets: ['prefix-tags', 'suffix-tags', 'open-physics-usd'] };
    bench = await testBench({ ...piece, yard: { ...piece.yard, rules } });
    page = await bench.show(DeliveryStep);
    await page.press('Deliver for 3 targets');
    await bench.clock.move(10_000);
    await page.rest();
    expect(bench.api.left.map(({ target }) => target)).toEqual([
      'open-physics-usd',
      'suffix-tags',
      'prefix-tags',
    ]);
    page.one<HTMLInputElement>('input[aria-label="Deliver for suffix tags"]').click();
    await page.rest();
    await page.press('Deliver for 2 targets');
    await page.rest();
    expect(bench.api.left.map(({ target }) => target).slice(0, 2)).toEqual([
      'open-physics-usd',
      'prefix-tags',
    ]);
    await page.press('open physics, USD');
    expect(page.one('[data-testid=waybill]').textContent).toContain('Post.usda');
  });

  it('bears a code and a note for whoever imports it', async () => {
    await open();
    await page.press('Choices');
    await page.type('Tracking code', 'SG-07');
    const note = page.one<HTMLTextAreaElement>('textarea[aria-label="Note for whoever imports it"]');
    note.value = ' Use this one. ';
    note.dispatchEvent(new Event('change', { bubbles: true }));
    await page.press('Deliver for');
    await bench.clock.move(10_000);
    await page.rest();
    expect(bench.api.left[0]!.choices).toEqual({ code: 'SG-07', note: 'Use this one.' });
  });

  it('says how large its files will be, once what is chosen has stayed the same', async () => {
    await open();
    const weighed = bench.jobs['weighDelivery']!.and.callFake(async ({ choices }: ToDeliver) => [
      { name: `meshes/Post.${choices.container ?? 'glb'}`, bytes: 2400 },
      { name: 'Post.import.md', bytes: 600 },
    ]);
    await bench.clock.move(WEIGH_AFTER_MS);
    await page.rest();
    expect(page.one('[data-testid=waybill]').textContent).toMatch(/Post\.glb.*2\.4 kB.*3\.0 kB in all\./s);
    await page.press('Choices');
    await page.choose('Format', 'OBJ');
    expect(page.one('[data-testid=waybill]').textContent).not.toContain('in all');
    await bench.clock.move(WEIGH_AFTER_MS);
    await page.rest();
    expect(weighed.calls.mostRecent().args[0].choices).toEqual({ container: 'obj' });
    expect(page.one('[data-testid=waybill]').textContent).toContain('2.4 kB');
  });

  it('leaves by the same name again, or as a new variant beside it that is compared with its own kind', async () => {
    await open();
    left(1);
    await page.press('Deliver for');
    await bench.clock.move(10_000);
    await page.rest();
    await page.press('Choices');
    await page.choose('Name', 'Post_02, a new variant');
    expect(page.one('[data-testid=waybill]').textContent).toContain('Post_02.glb');
    await page.press('Deliver for');
    await page.rest();
    expect(bench.api.left[0]!.choices).toEqual({ variant: 2 });
    await page.choose('Name', 'Post_03, a new variant');
    await page.choose('Name', 'Post_02, again');
    await page.choose('Name', 'Post, again');
    expect(page.one('[data-testid=waybill]').textContent).toContain('Post.glb');
  });

  it('holds the parts that are chosen, and says how many', async () => {
    const document = postDocument();
    const [post] = document.nodes;
    await open({ ...document, nodes: [post!, { ...post!, id: 'n2', name: 'cap', parent: null }] });
    await page.press('Choices');
    bench.get(Selection).chooseParts(new Set(['n2']));
    await page.rest();
    await page.choose('Parts that leave', 'The 1 part chosen now');
    expect(page.one('[data-testid=waybill]').textContent).toContain('1 part');
    await page.press('Deliver for');
    await bench.clock.move(10_000);
    await page.rest();
    expect(bench.api.left[0]!.choices).toEqual({ parts: ['n2'] });
    await page.choose('Parts that leave', 'All 2');
    expect(page.one('[data-testid=waybill]').textContent).toContain('2 parts');
  });

  it('says which targets refuse its names before it goes, and mends them for all at once', async () => {
    const document = postDocument();
    const [post] = document.nodes;
    const piece = postPiece({
      ...document,
      nodes: [post!, { ...post!, id: 'n2', name: 'Tür (2)', parent: null }],
    });
    const rules = { ...piece.yard.rules, targets: ['prefix-tags', 'proxy-nodes'] };
    bench = await testBench({ ...piece, yard: { ...piece.yard, rules } });
    page = await bench.show(DeliveryStep);
    expect(page.all('.targets li').map((each) => each.textContent!.includes('to mend'))).toEqual([
      false,
      true,
    ]);
    await page.press('Rename');
    expect(page.text).not.toContain('to mend');
    expect(bench.store.document.nodes.map(({ name }) => /^\w+$/.test(name))).not.toContain(false);
  });

  it('is made up as it is chosen, and says what the target drops', async () => {
    await open();
    bench.store.apply(
      replaceProxies([
        {
          id: 'a',
          shape: {
            kind: 'cylinder',
            center: [0, 0, 0],
            rotation: [0, 0, 0, 1],
            halfHeight: 1,
            bottomRadius: 0.5,
            topRadius: 0.5,
          },
        },
      ]),
    );
    await page.rest();
    expect(page.one('[data-testid=losses]').textContent).toMatch(
      /1 cylinder leaves as a hull with 24 sides, in the same volume and up to [\d.]+ mm off/,
    );
    await page.press('Choices');
    await page.choose('Format', 'OBJ');
    expect(page.one('[data-testid=waybill]').textContent).toContain('Post.obj');
    await page.press('Deliver for');
    await bench.clock.move(10_000);
    await page.rest();
    expect(bench.api.left[0]!.choices).toEqual({ container: 'obj' });
    await page.press('As the profile says');
    expect(page.one('[data-testid=waybill]').textContent).toContain('Post.glb');
  });

  it('takes the names that the target has for slots of material, and the pivot for presentation where that is chosen', async () => {
    const material = { ...plainMaterial('oak'), color: [0.4, 0.3, 0.2] as [number, number, number] };
    const piece = postPiece({
      ...postDocument(),
      materials: [material],
      presentation: pivotAt('numeric', [0, 4, 0]),
    });
    const materialNames = [{ slot: 'oak', target: 'prefix-tags', own: 'M_Oak_Inst' }];
    bench = await testBench({
      ...piece,
      yard: { ...piece.yard, rules: { ...piece.yard.rules, materialNames } },
    });
    page = await bench.show(DeliveryStep);
    expect(page.one('[data-testid=waybill]').textContent).toContain('M_Oak_Inst');
    await page.press('Choices');
    await page.choose('Pivot that it leaves on', 'the one for presentation');
    await page.press('Deliver for');
    await bench.clock.move(10_000);
    await page.rest();
    expect(bench.api.left[0]!.choices.presentation).toBeTrue();
  });

  it('shows in the view what the importer has, until the step is left', async () => {
    await open();
    const box = {
      points: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1],
      indices: [0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3],
    };
    const shape = {
      name: 'UCX_Post_01',
      owner: 'Post',
      kind: 'hull' as const,
      volume: 1 / 6,
      area: 0,
      facing: 0,
      corners: 4,
      min: [0, 0, 0] as [number, number, number],
      max: [1, 1, 1] as [number, number, number],
      filled: 0.1,
      cutBack: 0,
      surface: null,
      triangles: box,
    };
    const made = delivered(1, 1);
    bench.api.left = [{ ...made, readBack: { ...made.readBack, shapes: [shape] } }];
    page = await bench.show(DeliveryStep);
    await page.press('Show in the view');
    let shown: ReadBackShapes | null = null;
    bench.get(ViewMarks).readBack$.subscribe((value) => (shown = value));
    expect([shown!.shapes.length, shown!.changed.size]).toEqual([1, 1]);
    expect(page.text).toContain('The view shows 1 shape as the importer has it');
    page.fixture.destroy();
    expect(shown).toBeNull();
  });

  it('keeps choices by a name in the rules of the yard, and takes them up again', async () => {
    await open();
    await page.press('Choices');
    await page.choose('Format', 'COLLADA');
    page.one<HTMLInputElement>('input[aria-label="Name of the preset"]').value = 'as text';
    await page.press('Keep as a preset');
    expect(bench.api.ruled.rules.presets).toEqual([
      { name: 'as text', target: 'prefix-tags', choices: { container: 'dae' } },
    ]);
    await page.press('As the profile says');
    expect(page.one('[data-testid=waybill]').textContent).toContain('Post.glb');
    await page.press('as text');
    expect(page.one('[data-testid=waybill]').textContent).toContain('Post.dae');
    await page.press('Keep as a preset');
    expect(bench.said()).toBe('A name is needed.');
  });

  it('asks what breaks placed copies to be answered before it goes again', async () => {
    await open();
    bench.api.left = [
      delivered(1, 1, { inventory: inventoryOf(planDelivery(bench.store.document, PREFIX_TAGS)) }),
    ];
    page = await bench.show(DeliveryStep);
    expect(page.one('[data-testid=since]').textContent).toContain('Nothing that leaves changed');
    bench.store.apply(pivotEdit('numeric', [0, 0.5, 0]));
    await page.rest();
    expect(page.one('[data-testid=since]').textContent).toMatch(/The pivot of “Post” moved by [\d.]+ mm/);
    expect(page.button('Deliver for').disabled).toBeTrue();
    expect(page.text).toMatch(/has to be answered first, for\s*prefix tags\./);
    await page.tick('Placed copies are seen to');
    expect(page.button('Deliver for').disabled).toBeFalse();
  });

  it('says into which folder it goes, and what it replaces there', async () => {
    bench = await testBench(postPiece(postDocument()));
    bench.api.placed = { place: 'prefix-tags/kit/post', standing: ['mesh/Post.glb', 'note.txt'] };
    page = await bench.show(DeliveryStep);
    await page.rest();
    expect(page.one('[data-testid=place]').textContent!.replace(/\s+/g, ' ')).toContain(
      'Goes into prefix-tags/kit/post, and replaces Post.glb.',
    );
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
          files: [],
          groups: [],
          meshes: [],
          shapes: [],
          bodies: [],
          changed: [{ name: 'UCX_Post_01', how: 'its hull was reduced' }],
          ignored: [{ name: 'Lamp', why: 'lights are not imported' }],
        },
      }),
    ];
    page = await bench.show(DeliveryStep);
    expect(page.one('[data-testid=verdict]').textContent).toContain('1 of 2 points differ.');
    expect(page.text).toContain('shape UCX_Post_01: drawn cylinder, read hull.');
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
    expect(page.text).toContain('Assembling for prefix tags and reading back');
    await page.press('Stop delivering');
    expect(refuse).toBeDefined();
    expect(bench.notices.notices.length).toBe(1);
    expect(page.button('Deliver for').disabled).toBeFalse();
  });
});
