import browserFlags from '../browser-flags.cjs';
import { random } from '../fuzz/random.mjs';
import { pause } from '../processes.mjs';
import { addCrate, newYard } from './clients.mjs';

/** A page is closed so long after the last thing that was done on it, at most. */
const CLOSED_WITHIN_MS = 900;

/**
 * Names a piece on its page, closes the page, and opens it again: what the page showed as the name is the name, whether
 * it was saved by then or kept in the browser.
 */
export async function closePages(app, { amount, seed, browser }) {
  const { chromium } = await import('@playwright/test');
  const next = random(seed);
  const yard = await newYard(app, 'Pages');
  const { id } = await addCrate(app, yard, 'Crate');
  const chrome = await chromium.launch({ executablePath: browser, args: browserFlags });
  const counts = { acknowledged: 0, lost: 0, torn: 0 };
  try {
    const context = await chrome.newContext({ viewport: { width: 1280, height: 800 } });
    const open = async () => {
      const page = await context.newPage();
      await page.goto(`${app.address}/pieces/${id}`);
      await page.locator('[data-step=names]').click();
      return page;
    };
    const nameOn = (page) => page.getByLabel('Mesh', { exact: true }).inputValue();
    let shown = null;
    for (let i = 0; i < amount; i++) {
      const page = await open();
      if (shown !== null) {
        if ((await nameOn(page)) !== shown) counts.lost++;
      }
      const field = page.getByLabel('Mesh', { exact: true });
      for (let edit = 0; edit < 3; edit++) {
        await field.fill(`Closed_${i}_${edit}`);
        await field.press('Enter');
      }
      await pause(CLOSED_WITHIN_MS * next());
      shown = await nameOn(page);
      await page.close({ runBeforeUnload: false });
      counts.acknowledged++;
      const { json } = await app.insist('GET', `/api/pieces/${id}`);
      if (!json.history.edits) counts.torn++;
    }
    const page = await open();
    if ((await nameOn(page)) !== shown) counts.lost++;
  } finally {
    await chrome.close();
  }
  const { acknowledged, lost, torn } = counts;
  return {
    done: `${amount} pages`,
    back: 0,
    acknowledged: { 'pages with edits': acknowledged },
    refused: 0,
    lost,
    torn,
  };
}
