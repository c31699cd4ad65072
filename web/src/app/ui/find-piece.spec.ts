import { Router } from '@angular/router';
import { type TestBench, testBench, type TestPage } from '../testing/bench';
import { shelfPiece } from '../testing/post';
import { FindPiece, piecesNamed } from './find-piece';

const pieces = [shelfPiece(1, 'Quay stair'), shelfPiece(2, 'Bollard', { meshName: 'Mooring_01' })];

describe('finding a piece', () => {
  let bench: TestBench;
  let page: TestPage<FindPiece>;
  let turned: jasmine.Spy;
  beforeEach(async () => {
    bench = await testBench();
    turned = spyOn(bench.get(Router), 'navigate').and.resolveTo(true);
    page = await bench.show(FindPiece);
    page.fixture.componentRef.setInput('pieces', pieces);
    await page.rest();
  });
  const field = () => page.one<HTMLInputElement>('input');
  const type = (text: string) => {
    field().value = text;
    field().dispatchEvent(new Event('input', { bubbles: true }));
  };
  const enter = async () => {
    field().dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', bubbles: true }));
    await page.rest();
  };

  it('goes by name and by mesh name, whatever the case', () => {
    const named = (text: string) => piecesNamed(pieces, text).map(({ id }) => id);
    expect([named('STAIR'), named('mooring'), named('a'), named('crane'), named(' stair ')]).toEqual([
      [1],
      [2],
      [1, 2],
      [],
      [1],
    ]);
  });

  it('is called by its key, also while something else is typed in', async () => {
    document.body.append(page.element);
    document.dispatchEvent(new KeyboardEvent('keydown', { key: 'k', ctrlKey: true, bubbles: true }));
    await page.rest();
    expect(document.activeElement).toBe(field());
  });

  it('Enter takes the first that is found, however fast it comes, and nothing when there is none', async () => {
    type('mooring');
    await enter();
    expect(turned.calls.allArgs()).toEqual([[['/pieces', 2]]]);
    await new Promise((resolve) => setTimeout(resolve));
    turned.calls.reset();
    type('crane');
    await enter();
    type('   ');
    await enter();
    expect(turned).not.toHaveBeenCalled();
  });
});
