import { replaceProxies } from '@yard-brace/core';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { boxRound } from '../../../../testing/crate';
import { NamesStep } from './names-step';

/** So many boxes in a row. */
const boxes = (count: number) =>
  replaceProxies(
    Array.from({ length: count }, (_, i) => ({ id: `s${i}`, shape: boxRound([3 * i, 0, 0], 1) })),
  );

describe('the names step', () => {
  let bench: TestBench;
  let page: TestPage<NamesStep>;
  beforeEach(async () => {
    bench = await testBench();
    page = await bench.show(NamesStep);
  });
  const write = async (id: string, name: string, leave: 'Enter' | 'blur') => {
    const field = page.one<HTMLInputElement>(`#${id}`);
    field.value = name;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await page.rest();
    field.dispatchEvent(
      leave === 'blur'
        ? new Event('blur')
        : new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', bubbles: true }),
    );
    await page.rest();
  };
  const names = () => page.all('[data-testid=names] code').map((each) => each.textContent);

  it('shows every name that the target will read, letter for letter', async () => {
    bench.store.apply(boxes(2));
    await page.rest();
    expect(names()).toEqual(['Post', 'UBX_Post_01', 'UBX_Post_02']);
    await write('mesh-name', 'Bollard_07', 'Enter');
    expect(names()).toEqual(['Bollard_07', 'UBX_Bollard_07_01', 'UBX_Bollard_07_02']);
    bench.store.undo();
    await page.rest();
    expect(names()[0]).toBe('Post');
  });

  it('proposes the mesh name that the piece’s name gives, as soon as they differ', async () => {
    expect(page.text).not.toContain('Name it');
    await write('piece-name', 'Slip winch 2', 'blur');
    expect(bench.store.document.name).toBe('Slip winch 2');
    await page.press('Name it SlipWinch_02');
    expect(bench.store.document.meshName).toBe('SlipWinch_02');
    expect(page.text).not.toContain('Name it');
  });

  it('a piece without a name keeps the one it had, with a sentence; a bad mesh name is taken and found', async () => {
    await write('piece-name', '   ', 'Enter');
    expect(bench.store.document.name).toBe('Post');
    expect(page.one<HTMLInputElement>('#piece-name').value).toBe('Post');
    expect(bench.said()).not.toBe('');
    await write('mesh-name', 'old post!', 'blur');
    expect(page.text).toContain('The name holds a space, “!”, which the target does not take.');
    await page.press('Name it old_post');
    expect(bench.store.document.meshName).toBe('old_post');
  });

  it('pointing at a name points at its shape, and is shown where it is pointed at elsewhere', async () => {
    bench.store.apply(boxes(1));
    await page.rest();
    const id = bench.store.document.proxies[0]!.id;
    page.all('[data-testid=names] li')[0]!.dispatchEvent(new Event('pointerenter'));
    let pointed: string | null = null;
    bench.selection.pointed$.subscribe((value) => (pointed = value)).unsubscribe();
    expect(pointed!).toBe(id);
    await page.rest();
    expect(page.all('[data-testid=names] li.lit').length).toBe(1);
  });

  it('renames by a pattern, old and new side by side, in one step', async () => {
    await page.press('Rename by a pattern');
    const pattern = page.one<HTMLInputElement>('input[aria-label=Pattern]');
    const type = async (text: string) => {
      pattern.value = text;
      pattern.dispatchEvent(new Event('input'));
      await page.rest();
    };
    await type('{subject');
    expect(page.text).toContain('A brace is not closed.');
    await type('{subject:pascal}_Part_{number:3}');
    expect(page.one('[data-testid=renames]').textContent).toContain('Post_Part_001');
    const before = bench.store.document.nodes.map(({ name }) => name);
    page.one<HTMLButtonElement>('yb-rename-panel p-button button').click();
    await page.rest();
    expect(bench.store.document.nodes.some(({ name }) => name === 'Post_Part_001')).toBeTrue();
    bench.store.undo();
    expect(bench.store.document.nodes.map(({ name }) => name)).toEqual(before);
  });
});
