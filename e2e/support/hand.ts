import type { Locator, Page } from '@playwright/test';
import { expect } from './bench';

/** What a practised hand does on one piece, each press of the button counted. */
export class Hand {
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
  /** A way to make shapes, by its short name. */
  make = (name: string) => this.button(name, this.page.getByRole('group', { name: 'What to make' }));
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
    // What is pressed while the card closes up after it may have moved on by the time it is let go.
    await this.page.getByTestId('proposal').waitFor({ state: 'detached' });
  }

  /** The figure of one measure, once the set as it is was judged. */
  async measure(name: string): Promise<string> {
    await expect(this.page.getByTestId('set').getByRole('status')).toHaveCount(0, { timeout: 20_000 });
    const row = this.page.locator(`[data-measure=${name}] b`);
    await expect(row).toBeVisible({ timeout: 20_000 });
    return (await row.textContent())!.trim();
  }
}
