import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import browserFlags from './browser-flags.cjs';
import { inHouse } from './house.mjs';
import { freePort } from './processes.mjs';

/**
 * A large piece in the real application: how long until it is drawn, and the longest task on the page's own
 * thread while it loads, is turned, picked and welded. Headless Chromium draws by software, so turning says more about
 * that than about the page.
 */
export async function benchBrowser(browser, file) {
  const { chromium } = await import('@playwright/test');
  const data = mkdtempSync(join(tmpdir(), 'yard-brace-bench-app-'));
  const port = await freePort();
  const application = spawn(
    process.execPath,
    [inHouse('tools/start.mjs'), '--port', String(port), '--data', data, '--empty'],
    { stdio: ['ignore', 'pipe', 2] },
  );
  try {
    await new Promise((resolve, reject) => {
      application.stdout.on('data', (chunk) => String(chunk).includes('is ready') && resolve());
      application.once('exit', () => reject(new Error('The application did not start.')));
    });
    const chrome = await chromium.launch({ executablePath: browser, args: browserFlags });
    const page = await chrome.newPage({ viewport: { width: 1280, height: 800 } });
    const figures = await measure(page, `http://127.0.0.1:${port}`, file);
    await chrome.close();
    return figures;
  } finally {
    application.kill('SIGINT');
    await new Promise((resolve) => application.once('exit', resolve));
    rmSync(data, { recursive: true, force: true });
  }
}

async function measure(page, address, file) {
  await page.addInitScript(() => {
    globalThis.longTasks = [];
    new globalThis.PerformanceObserver((list) => {
      for (const entry of list.getEntries()) globalThis.longTasks.push(entry.duration);
    }).observe({ entryTypes: ['longtask'] });
  });
  const longest = async (act) => {
    await page.evaluate(() => (globalThis.longTasks.length = 0));
    const start = Date.now();
    await act();
    await page.waitForTimeout(300);
    const tasks = await page.evaluate(() => globalThis.longTasks);
    return {
      ms: Date.now() - start - 300,
      longest: Math.round(Math.max(0, ...tasks)),
      over100: tasks.filter((t) => t > 100).length,
    };
  };
  await page.goto(address);
  await page.getByLabel('New yard').fill('Bench');
  await page.getByRole('button', { name: 'Create yard' }).click();
  const figures = {};
  figures['load'] = await longest(async () => {
    await page.getByTestId('file-input').setInputFiles(file);
    await page.getByText('Job card').waitFor({ timeout: 120_000 });
    await page.locator('.waiting').waitFor({ state: 'detached', timeout: 120_000 });
  });
  const box = await page.getByTestId('view').boundingBox();
  const at = (x, y) => [box.x + box.width * x, box.y + box.height * y];
  figures['pick under the pointer'] = await longest(async () => {
    for (let i = 0; i < 20; i++) await page.mouse.move(...at(0.3 + i * 0.02, 0.5));
  });
  await page.locator('[data-step=parts]').click();
  await page.getByRole('button', { name: 'Flat', exact: true }).click();
  figures['choose a flat region'] = await longest(async () => {
    await page.mouse.click(...at(0.5, 0.5));
    await page
      .getByText('faces chosen')
      .first()
      .waitFor({ timeout: 10_000 })
      .catch(() => undefined);
  });
  await page.getByRole('button', { name: 'Flat', exact: true }).click();
  figures['turn'] = await longest(async () => {
    await page.mouse.move(...at(0.5, 0.5));
    await page.mouse.down();
    await page.mouse.move(...at(0.6, 0.55), { steps: 4 });
    await page.mouse.up();
  });
  figures['weld, proposed'] = await longest(async () => {
    await page.getByTestId('weld').click();
    await page.getByTestId('proposal').waitFor({ timeout: 120_000 });
  });
  return figures;
}
