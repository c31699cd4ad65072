import { type TestBench, testBench, type TestPage } from '../../testing/bench';
import { YARDS_AGAIN_MS, YardsPage } from './yards-page';

describe('the list of yards', () => {
  let bench: TestBench;
  let page: TestPage<YardsPage>;
  const names = () => page.all('li b').map((name) => name.textContent);
  const move = async () => {
    await bench.clock.move(YARDS_AGAIN_MS);
    await page.rest();
  };
  beforeEach(async () => {
    bench = await testBench();
    const yard = await bench.api.yard(1);
    let there = 0;
    // As while an application is opened that has just been started: its sample yard is not there yet.
    bench.api.yards = async () => (there++ ? [yard] : []);
    page = await bench.show(YardsPage);
  });

  it('shows a yard that came after it was opened, without being asked', async () => {
    expect(page.text).toContain('There is no yard yet');
    await move();
    expect(names()).toEqual(['Yard']);
  });

  it('says nothing of an asking by itself that does not get through, and asks again', async () => {
    const { yards } = bench.api;
    bench.api.yards = () => Promise.reject(new Error('gone'));
    await move();
    expect(bench.notices.notices).toEqual([]);
    bench.api.yards = yards;
    await move();
    expect(names()).toEqual(['Yard']);
  });

  it('asks no more when it is left', async () => {
    page.fixture.destroy();
    const asked = spyOn(bench.api, 'yards').and.callThrough();
    await bench.clock.move(YARDS_AGAIN_MS * 3);
    expect(asked).not.toHaveBeenCalled();
  });
});
