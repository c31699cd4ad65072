import { test as base, expect, type Page } from '@playwright/test';
import { Application } from './application';

/** Every test watches the console: an error there, a refused style or script, is a failure. */
export const test = base.extend<
  { watched: Page; newYard: (name: string) => Promise<void> },
  { application: Application }
>({
  application: [
    async ({}, use) => {
      const application = new Application();
      await application.start();
      await use(application);
      await application.throwAway();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  watched: async ({ page }, use) => {
    const errors = watch(page);
    await use(page);
    expect(errors).toEqual([]);
  },
  newYard: async ({ watched, application }, use) => {
    await use(async (name) => {
      await watched.goto(application.address);
      await watched.getByLabel('New yard').fill(name);
      await watched.getByRole('button', { name: 'Create yard' }).click();
      await expect(watched.getByRole('heading', { name: /Shelf/ })).toBeVisible();
    });
  },
});

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
