import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import browserFlags from './lib/browser-flags.cjs';
import { bootstrap } from './lib/bootstrap.mjs';
import { inHouse } from './lib/house.mjs';
import { freePort } from './lib/processes.mjs';
import { run, say, Stop } from './lib/say.mjs';

const SHOTS = inHouse('docs/screenshots');

/** One picture of each main view, made from the sample yard in an application of its own. */
await run(async () => {
  const { browser } = await bootstrap(['database', 'browser']);
  const { chromium } = await import('@playwright/test');
  const data = mkdtempSync(join(tmpdir(), 'yard-brace-shots-'));
  const port = await freePort();
  const application = spawn(
    process.execPath,
    [inHouse('tools/start.mjs'), '--port', String(port), '--data', data],
    { stdio: ['ignore', 'pipe', 2] },
  );
  try {
    await new Promise((resolve, reject) => {
      application.stdout.once('data', resolve);
      application.once('exit', () => reject(new Stop('The application did not start.')));
    });
    mkdirSync(SHOTS, { recursive: true });
    const chrome = await chromium.launch({
      executablePath: browser,
      args: browserFlags,
    });
    const page = await chrome.newPage({ viewport: { width: 1280, height: 800 } });
    await takeAll(page, `http://127.0.0.1:${port}`);
    await chrome.close();
  } finally {
    application.kill('SIGINT');
    await new Promise((resolve) => application.once('exit', resolve));
    rmSync(data, { recursive: true, force: true });
  }
});

async function takeAll(page, address) {
  const shoot = async (name) => {
    await page.waitForTimeout(700);
    await page.screenshot({ path: join(SHOTS, `${name}.png`) });
    say(name);
  };
  /** A click on an open step would close it. */
  const step = async (name) => {
    const header = page.locator(`[data-step=${name}]`);
    if ((await header.getAttribute('aria-expanded')) !== 'true') await header.click();
  };
  await page.goto(address);
  await page.getByRole('link', { name: /Saltgate Slip/ }).waitFor();
  await shoot('yards');
  await page.getByRole('link', { name: /Saltgate Slip/ }).click();
  await page.locator('ul.shelf img').nth(15).waitFor({ timeout: 60_000 });
  const open = async (name) => {
    await page.getByRole('link', { name, exact: true }).first().click();
    await page.getByText('Job card').waitFor();
    await page.waitForTimeout(300);
    await page.locator('.waiting').waitFor({ state: 'detached', timeout: 30_000 });
  };
  const strip = (name) => page.locator('yb-strip').getByRole('link', { name: new RegExp(`^${name}`) });
  await open('Dinghy');
  await page.locator('[data-finding=open-edges]').hover();
  await page.waitForTimeout(1500);
  await shoot('bench-intake');
  await step('parts');
  await page.getByRole('button', { name: 'By material' }).click();
  await page.getByTestId('proposal').waitFor();
  await shoot('bench-parts');
  await page.getByTestId('leave').click();
  await page.keyboard.press('c');
  await page.keyboard.press('b');
  await shoot('bench-cut');
  await page.keyboard.press('b');
  await strip('Sluice gate').click();
  await page.waitForTimeout(2500);
  await step('pivot');
  await page.getByTestId('whose').selectOption({ label: 'Leaf' });
  const view = await page.getByTestId('view').boundingBox();
  await page.getByTestId('hinge-edge').click();
  await page.mouse.move(view.x + view.width * 0.36, view.y + view.height * 0.6);
  await page.mouse.click(view.x + view.width * 0.36, view.y + view.height * 0.6);
  await page.getByTestId('swing').fill('48');
  await shoot('bench-pivot');
  await strip('Net loft wall').click();
  await page.waitForTimeout(2500);
  await step('size');
  await page.getByLabel('deckhand').check();
  await page.getByTestId('add-clearance').click();
  await page.mouse.click(view.x + view.width * 0.26, view.y + view.height * 0.62);
  await page.mouse.click(view.x + view.width * 0.45, view.y + view.height * 0.42);
  await page.locator('[data-clearance]').scrollIntoViewIfNeeded();
  await shoot('bench-size');
  await page.getByRole('link', { name: 'Saltgate Slip' }).click();
  const { changedPieces } = await import('@yard-brace/demo');
  const [changed] = await changedPieces();
  await page
    .getByTestId('file-input')
    .setInputFiles(
      changed.files.map(({ name, bytes }) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(bytes) })),
    );
  await page.getByRole('button', { name: 'Compare it with Bollard' }).click();
  await page.getByTestId('new-art').waitFor({ timeout: 30_000 });
  await page.waitForTimeout(1500);
  await shoot('bench-new-art');
  await page.getByTestId('leave').click();
  const brokenUp = async (name, rung) => {
    await strip(name).click();
    await page.waitForTimeout(2500);
    await step('proxies');
    await page.getByTestId('break-up').click();
    await page.locator(`[data-rung="${rung}"]`).click({ timeout: 60_000 });
  };
  await brokenUp('Quay stair', 16);
  await shoot('bench-proxies');
  await brokenUp('Slip winch', 6);
  await page.getByTestId('deviation').click();
  await page.getByTestId('legend').locator('.ends').waitFor();
  await shoot('bench-deviation');
  await page.getByTestId('deviation').click();
  await strip('Boat cradle').click();
  await page.waitForTimeout(2500);
  await step('proxies');
  await page.getByText('Each of 44 parts').click();
  await page.getByTestId('propose').click();
  await page.getByTestId('proposal').waitFor();
  await page.getByTestId('keep').click();
  await step('names');
  await page.getByTestId('names').locator('li').nth(9).hover();
  await shoot('bench-names');
  await step('delivery');
  await page.getByTestId('deliver').click();
  await page.getByTestId('verdict').waitFor();
  await page.locator('details summary').click();
  await shoot('bench-delivery');
  await page.getByRole('link', { name: 'Saltgate Slip' }).click();
  await page.locator('ul.shelf img').nth(15).waitFor();
  await shoot('shelf');
}
