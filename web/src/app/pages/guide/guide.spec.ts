import { GUIDE_PAGES, guideHtml } from './guide-pages';

describe('the guide', () => {
  it('leads to its own pages and pictures', () => {
    expect(
      guideHtml(
        '<img src="../screenshots/bench-size.png"><a href="9-recipes.md">a</a><a href="../recipes.md">b</a>',
      ),
    ).toBe(
      '<img src="/guide/pictures/bench-size.png"><a href="/guide/9-recipes">a</a><a href="/guide/recipes">b</a>',
    );
    expect(guideHtml('<a href="https://yard.example/x.md">c</a>')).toContain('https://yard.example/x.md');
    expect(new Set(GUIDE_PAGES.map(({ id }) => id)).size).toBe(GUIDE_PAGES.length);
  });
});
