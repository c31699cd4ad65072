import type { Locator, Page } from '@playwright/test';
import { Application } from '../support/application';
import { expect, openStep, saved, test as base } from '../support/bench';

/** The sample yard, as it is after a first start. */
const test = base.extend<object, { sample: Application }>({
  sample: [
    async ({}, use) => {
      const sample = new Application({ empty: false });
      await sample.start();
      await use(sample);
      await sample.throwAway();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});

/** What a practised hand does on one piece, each press of the button counted. */
class Hand {
  clicks = 0;

  constructor(readonly page: Page) {}

  async click(what: Locator): Promise<void> {
    this.clicks++;
    await what.click();
  }

  button = (name: string | RegExp, within: Page | Locator = this.page): Promise<void> =>
    this.click(within.getByRole('button', { name }));

  /** From a list: it is opened, and one of it is taken. */
  async choose(label: string, option: string | RegExp): Promise<void> {
    await this.click(this.page.getByRole('combobox', { name: label, exact: true }));
    await this.click(this.page.getByRole('option', { name: option }));
  }

  way = (name: string) => this.button(name, this.page.getByTestId('make-by'));
  facesBy = (name: string) => this.button(name, this.page.getByTestId('chosen-faces'));

  /** A place of a part or material in the view that can be seen, so far down among them. */
  async place(name: string, share = 0.5): Promise<void> {
    const places = () =>
      this.page
        .getByTestId('view')
        .evaluate(
          (canvas: HTMLCanvasElement & { placesOf?: (of: string) => { x: number; y: number }[] }, of) =>
            canvas.placesOf?.(of) ?? [],
          name,
        );
    await expect.poll(async () => (await places()).length).toBeGreaterThan(0);
    const sorted = (await places()).sort((a, b) => a.y - b.y);
    const { x, y } = sorted[Math.round((sorted.length - 1) * share)]!;
    this.clicks++;
    await this.page.mouse.click(x, y);
  }

  async keep(): Promise<void> {
    await this.page.getByTestId('proposal').waitFor({ timeout: 30_000 });
    await this.click(this.page.getByTestId('keep'));
  }

  /** The figure of one measure, once the set as it is was judged. */
  async measure(name: string): Promise<string> {
    await expect(this.page.getByTestId('set').getByRole('status')).toHaveCount(0, { timeout: 20_000 });
    const row = this.page.locator(`[data-measure=${name}] b`);
    await expect(row).toBeVisible({ timeout: 20_000 });
    return (await row.textContent())!.trim();
  }
}

const millimetres = (text: string): number => {
  const [, value, unit] = /^([\d.,]+) (mm|m|µm)$/.exec(text) ?? [];
  return Number(value!.replace(',', '')) * (unit === 'm' ? 1000 : unit === 'µm' ? 0.001 : 1);
};

async function onBench(page: Page, sample: Application, piece: string): Promise<Hand> {
  await page.goto(sample.address);
  await page.getByRole('link', { name: /Saltgate Slip/ }).click();
  await page.getByRole('link', { name: piece, exact: true }).first().click();
  await expect(page.getByText('Job card')).toBeVisible();
  await expect(page.locator('.waiting')).toHaveCount(0, { timeout: 30_000 });
  await openStep(page, 'proxies');
  return new Hand(page);
}

const said = (hand: Hand, most: number) => {
  test.info().annotations.push({ type: 'clicks', description: `${hand.clicks}, aim ${most}` });
  expect(hand.clicks).toBeLessThanOrEqual(most);
};
const clear = (page: Page) =>
  expect(page.locator('[data-step=proxies] yb-stamp title')).toContainText('clear', { timeout: 20_000 });

test('net loft wall: boards left out, boxes around its hatch, the hatch open', async ({
  watched: page,
  sample,
}) => {
  const hand = await onBench(page, sample, 'Net loft wall');
  await hand.button('Find openings');
  await hand.button(/^Keep .*free for/);
  await hand.facesBy('Material');
  await hand.place('loft wall');
  await hand.way('Wrap');
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  await hand.button(/^Cut shape 1 back/);
  await hand.keep();
  await expect(page.locator('[data-shape]')).toHaveCount(3);
  expect(await hand.measure('openings')).toBe('1 of 1');
  expect(millimetres(await hand.measure('excess'))).toBeLessThan(40);
  said(hand, 12);
  // The boards need no collision: with them left out the set is judged clear.
  await page.getByRole('button', { name: 'By part' }).click();
  await page.getByRole('button', { name: /^No collision for boards/ }).click();
  await clear(page);
  await saved(page);
});

test('oyster tray: a floor and four walls, into which things can fall', async ({ watched: page, sample }) => {
  const hand = await onBench(page, sample, 'Oyster tray');
  await hand.way('Make');
  await hand.choose('What to make', /^Container/);
  await hand.click(page.getByTestId('make-it'));
  await hand.keep();
  await expect(page.locator('[data-shape][data-kind=box]')).toHaveCount(5);
  expect(millimetres(await hand.measure('uncovered'))).toBeLessThan(40);
  expect(await hand.measure('crossing')).toBe('0');
  said(hand, 6);
});

test('quay stair: a slope without its railing', async ({ watched: page, sample }) => {
  const hand = await onBench(page, sample, 'Quay stair');
  await hand.facesBy('Material');
  await hand.place('gritstone');
  await hand.way('Make');
  await hand.choose('What to make', /^Slope/);
  await hand.click(page.getByTestId('make-it'));
  await hand.keep();
  await expect(page.locator('[data-shape]')).toHaveCount(1);
  // Square to its steps, and no wider.
  await expect(page.locator('[data-shape="1"]')).toContainText('1.20 × 1.79 × 2.90 m');
  said(hand, 7);
});

test('launch channel: walls along the borders that are driven beside, none across its ends', async ({
  watched: page,
  sample,
}) => {
  const hand = await onBench(page, sample, 'Launch channel');
  await hand.facesBy('Shell');
  await hand.place('channel floor');
  await hand.way('Make');
  await hand.choose('What to make', /^Walls/);
  await hand.click(page.getByTestId('make-it'));
  await hand.keep();
  await expect(page.locator('[data-shape]').first()).toBeVisible();
  expect(await hand.measure('crossing')).toBe('0');
  said(hand, 8);
});

test('gangway: twenty boxes along a handrail, its other side mirrored', async ({ watched: page, sample }) => {
  const hand = await onBench(page, sample, 'Gangway');
  await hand.facesBy('Shell');
  await hand.place('rail left', 0.3);
  await hand.way('Make');
  const boxes = page.getByRole('spinbutton', { name: 'Boxes' });
  await hand.click(boxes);
  await boxes.fill('20');
  await boxes.press('Enter');
  await hand.click(page.getByTestId('make-it'));
  await hand.keep();
  await expect(page.locator('[data-shape]')).toHaveCount(20);
  expect(await hand.measure('crossing')).toBe('0');
  expect(millimetres(await hand.measure('excess'))).toBeLessThan(40);
  said(hand, 10);
});

test('slip trolley: a body and four wheels, each on its own part; one is taken away and drawn again', async ({
  watched: page,
  sample,
}) => {
  const hand = await onBench(page, sample, 'Slip trolley');
  await hand.way('Wrap');
  await hand.choose('Kind of shape', /^Cylinder$/);
  await hand.button(/^Each of 5 parts/);
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  await expect(page.locator('[data-shape]')).toHaveCount(5);
  await expect(page.locator('.owner')).toHaveCount(5);
  await hand.button('Remove shape 5');
  await expect(page.locator('[data-shape]')).toHaveCount(4);
  await hand.facesBy('Shell');
  await hand.place('wheel');
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  await expect(page.locator('[data-shape]')).toHaveCount(5);
  await expect(page.locator('[data-kind=cylinder]')).toHaveCount(5);
  said(hand, 15);
});

test('sluice gate: the frame apart from its leaf, each wrapped by itself and trimmed to meet', async ({
  watched: page,
  sample,
}) => {
  const hand = await onBench(page, sample, 'Sluice gate');
  await hand.way('Wrap');
  await hand.button(/^Each of \d+ parts/);
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  const crossing = Number(await hand.measure('crossing'));
  expect(crossing).toBeGreaterThan(0);
  await hand.button(/^Trim \d+ pair/);
  await hand.keep();
  await expect.poll(async () => Number(await hand.measure('crossing'))).toBeLessThan(crossing);
  said(hand, 12);
});

test('bollard: a tapered cylinder around its body, with a belly ring', async ({ watched: page, sample }) => {
  const hand = await onBench(page, sample, 'Bollard');
  await hand.facesBy('Shell');
  await hand.place('bollard_low');
  await hand.way('Wrap');
  await hand.choose('Kind of shape', /^Tapered cylinder$/);
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  await expect(page.locator('[data-shape][data-kind=cylinder]')).toHaveCount(1);
  await hand.button('Choose shape 1');
  await hand.button('Belly');
  await expect(page.locator('[data-shape][data-kind=hull]')).toHaveCount(1);
  expect(millimetres(await hand.measure('uncovered'))).toBeLessThan(150);
  said(hand, 12);
});

test('boat cradle: one leg wrapped, mirrored to four that follow each other', async ({
  watched: page,
  sample,
}) => {
  const hand = await onBench(page, sample, 'Boat cradle');
  await hand.facesBy('Shell');
  await hand.place('side', 0.3);
  await hand.way('Wrap');
  await hand.click(page.getByTestId('propose'));
  await hand.keep();
  await hand.button('Choose shape 1');
  await hand.button('Mirror along x');
  await hand.button('Mirror along z');
  await expect(page.locator('[data-shape]')).toHaveCount(4);
  await expect(page.locator('.pi-link')).toHaveCount(4);
  await hand.measure('excess');
  said(hand, 25);
});

test('dinghy: fine along the gunwale that is ridden, as an area with an agent of its own', async ({
  watched: page,
  sample,
}) => {
  const hand = await onBench(page, sample, 'Dinghy');
  await hand.facesBy('Material');
  await hand.place('varnished ash');
  await hand.choose('Agent', /^gull/);
  await hand.click(page.getByTestId('break-up'));
  await page.getByTestId('proposal').waitFor({ timeout: 60_000 });
  await hand.keep();
  await expect(page.getByTestId('areas')).toContainText('gull');
  await expect(page.locator('[data-shape]').first()).toBeVisible();
  said(hand, 8);
});
