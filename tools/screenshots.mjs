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
  const step = (name) => page.locator(`[data-step=${name}]`).click();
  await page.goto(address);
  await page.getByRole('link', { name: /Saltgate Slip/ }).waitFor();
  await shoot('yards');
  await page.getByRole('link', { name: /Saltgate Slip/ }).click();
  await page.locator('ul.shelf img').nth(3).waitFor({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Bollard' }).click();
  await page.locator('.waiting').waitFor({ state: 'detached', timeout: 30_000 });
  await shoot('bench-intake');
  await page.getByRole('button', { name: 'Confirm cm' }).click();
  await step('pivot');
  await page.getByRole('radio', { name: /Base centre/ }).click();
  await shoot('bench-pivot');

  await page.getByRole('link', { name: 'Boat cradle' }).click();
  await page.locator('.waiting').waitFor({ state: 'detached', timeout: 30_000 });
  await step('proxies');
  await page.getByText('Each of 44 parts').click();
  await page.getByTestId('propose').click();
  await page.getByTestId('proposal').waitFor();
  await shoot('bench-proxies');
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
  await page.locator('ul.shelf img').nth(3).waitFor();
  await shoot('shelf');
}
