import { test as base, type BrowserContext, expect, type Page } from '@playwright/test';
import { Application } from './application';

/** Every test watches the console: an error there, a refused style or script, is a failure. */
export const test = base.extend<
  {
    watched: Page;
    open: (address: string) => Promise<void>;
    newYard: (name: string) => Promise<void>;
    sampleYard: () => Promise<void>;
  },
  { application: Application; sample: Application; sitting: BrowserContext }
>({
  /** An empty application. */
  application: [({}, use) => running(new Application(), use), { scope: 'worker', timeout: 120_000 }],
  /** The sample yard as it is after a first start. The tests in it share it: each leaves what others ask of as it was. */
  sample: [
    ({}, use) => running(new Application({ empty: false }), use),
    { scope: 'worker', timeout: 120_000 },
  ],
  /** The browser of a person who works through all tests in one sitting: the client is loaded and compiled once. */
  sitting: [
    async ({ browser }, use, { project }) => {
      const sitting = await browser.newContext(project.use);
      sitting.setDefaultTimeout(project.use.actionTimeout!);
      await use(sitting);
      await sitting.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ sitting }, use) => {
    await use(sitting);
    const [page, ...others] = sitting.pages();
    for (const other of others) await other.close();
    if (page) await leave(page);
  },
  page: async ({ context }, use) => use(context.pages()[0] ?? (await context.newPage())),
  watched: async ({ page }, use) => {
    const errors = watch(page);
    await use(page);
    expect(errors).toEqual([]);
  },
  /** Goes to the list of yards: by its link where the application is open. */
  open: async ({ page }, use) =>
    use(async (address) => {
      if (!page.url().startsWith(`${address}/`)) return void (await page.goto(address));
      await page.getByRole('link', { name: 'Yard Brace, all yards' }).click();
      await page.waitForURL(`${address}/`);
    }),
  newYard: async ({ watched, application, open }, use) => {
    await use(async (name) => {
      await open(application.address);
      await watched.getByLabel('New yard').fill(name);
      await watched.getByRole('button', { name: 'Create yard' }).click();
      await expect(watched.getByRole('heading', { name: /Shelf/ })).toBeVisible();
    });
  },
  sampleYard: async ({ watched, sample, open }, use) =>
    use(async () => {
      await open(sample.address);
      await watched.getByRole('link', { name: /Saltgate Slip/ }).click();
      await expect(watched.getByRole('heading', { name: /Shelf/ })).toBeVisible();
    }),
});

async function running(
  application: Application,
  use: (application: Application) => Promise<void>,
): Promise<void> {
  await application.start();
  await use(application);
  await application.throwAway();
}

/** What a test changed of the window, and what the browser keeps for the application, is as for a new person again. */
async function leave(page: Page): Promise<void> {
  page.removeAllListeners('console').removeAllListeners('pageerror').removeAllListeners('request');
  await page.unrouteAll();
  await page.emulateMedia({ media: null });
  await page.setViewportSize(test.info().project.use.viewport!);
  await page.mouse.move(0, 0);
  await page.evaluate(() => localStorage.clear());
}

/** Console errors of a page, but for requests that a test makes fail on purpose. */
export function watch(page: Page): string[] {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => {
    if (message.type() === 'error' && !/Failed to load resource/.test(message.text()))
      errors.push(message.text());
  });
  return errors;
}

export { expect };

export interface TestFile {
  name: string;
  mimeType: string;
  buffer: Buffer;
}

export const textFile = (name: string, text: string): TestFile => ({
  name,
  mimeType: 'text/plain',
  buffer: Buffer.from(text),
});

export const bringIn = (page: Page, ...files: TestFile[]) =>
  page.getByTestId('file-input').setInputFiles(files);

export const openStep = (
  page: Page,
  step: 'intake' | 'parts' | 'size' | 'pivot' | 'proxies' | 'names' | 'trial' | 'delivery',
) => page.locator(`[data-step=${step}]`).click();

/** The proxies step, with one of the ways in which shapes are made. */
export async function makeShapesBy(page: Page, way: 'Ladder' | 'Wrap' | 'Make' | 'Draw'): Promise<void> {
  await page.getByTestId('make-by').getByRole('button', { name: way }).click();
}

/** What of the parts step is worked on. */
export const openParts = (page: Page, what: 'Tree' | 'Place' | 'Module' | 'Surface' | 'Materials' | 'UVs') =>
  page.getByTestId('parts-show').getByText(what, { exact: true }).click();

/** A choice from a list, as a person makes it. */
export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option }).click();
  // Another list that opens at once would have its options beside those that are fading.
  await expect(page.getByRole('option')).toHaveCount(0);
}

/** Until the view shows the art of the piece. */
export const drawn = (page: Page) => page.locator('.waiting').waitFor({ state: 'detached' });

/** What a step's row on the job card says. */
export const note = (page: Page, step: string) => page.locator(`[data-step=${step}]`);

export const reading = (page: Page) => page.getByTestId('reading-line');

/** A place on the view by shares of its width and height, in CSS pixels of the page. */
export async function inView(page: Page, x: number, y: number): Promise<[number, number]> {
  const box = (await page.getByTestId('view').boundingBox())!;
  return [box.x + box.width * x, box.y + box.height * y];
}

/**
 * A place of a part, or of a material, that is seen and that nothing lies over, in CSS pixels of the page: the first, or the one that is
 * highest or lowest on the screen.
 */
export async function placeOf(
  page: Page,
  name: string,
  which: 'first' | 'highest' | 'lowest' = 'first',
): Promise<[number, number]> {
  const find = () =>
    page
      .getByTestId('view')
      .evaluate(
        (canvas: HTMLElement & { placesOf?: (name: string) => { x: number; y: number }[] }, wanted) =>
          (canvas.placesOf?.(wanted) ?? []).filter(({ x, y }) => document.elementFromPoint(x, y) === canvas),
        name,
      );
  await expect.poll(async () => (await find()).length).toBeGreaterThan(0);
  const places = await find();
  if (which !== 'first') places.sort((a, b) => (which === 'highest' ? a.y - b.y : b.y - a.y));
  return [places[0]!.x, places[0]!.y];
}

export async function keep(page: Page): Promise<void> {
  await page.getByTestId('keep').click();
  await expect(page.getByTestId('proposal')).toHaveCount(0);
}

/** The last change is with the server. What was just clicked is on screen a frame later: an older “Saved” is not it. */
export async function saved(page: Page): Promise<void> {
  await page.evaluate(
    () => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))),
  );
  await expect(page.getByTestId('saving')).toHaveText(/^Saved/);
}
