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
      await watched.getByRole('button', { name: 'Lay out the yard' }).click();
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
  step: 'intake' | 'parts' | 'size' | 'pivot' | 'proxies' | 'names' | 'delivery',
) => page.locator(`[data-step=${step}]`).click();

export const saved = (page: Page) => expect(page.getByTestId('saving')).toHaveText(/^Saved/);
