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
export const benchBrowser = (browser, file) =>
  inApplication(browser, ['--empty'], (page, address) => measure(page, address, file));

/**
 * A set-out of so many pieces in the real application: how long until its page has all of them, and the longest task on
 * the page's own thread while it loads, is pointed at, dragged in and turned.
 */
export const benchSetOut = (browser, count) =>
  inApplication(browser, [], (page, address) => measureSetOut(page, address, count));

/** An application of its own, and a page of a browser that notes its long tasks. */
export async function inApplication(browser, options, work) {
  const { chromium } = await import('@playwright/test');
  const data = mkdtempSync(join(tmpdir(), 'yard-brace-bench-app-'));
  const port = await freePort();
  const application = spawn(
    process.execPath,
    [inHouse('tools/start.mjs'), '--port', String(port), '--data', data, ...options],
    { stdio: ['ignore', 'pipe', 2] },
  );
  try {
    await new Promise((resolve, reject) => {
      application.stdout.on('data', (chunk) => String(chunk).includes('is ready') && resolve());
      application.once('exit', () => reject(new Error('The application did not start.')));
    });
    const chrome = await chromium.launch({ executablePath: browser, args: browserFlags });
    const page = await chrome.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(() => {
      globalThis.longTasks = [];
      new globalThis.PerformanceObserver((list) => {
        for (const entry of list.getEntries()) globalThis.longTasks.push(entry.duration);
      }).observe({ entryTypes: ['longtask'] });
    });
    const figures = await work(page, `http://127.0.0.1:${port}`);
    await chrome.close();
    return figures;
  } finally {
    application.kill('SIGINT');
    await new Promise((resolve) => application.once('exit', resolve));
    rmSync(data, { recursive: true, force: true });
  }
}

/** Time, and the longest task of the page, of something that is done. */
export const longestOf = (page) => async (act) => {
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

async function measureSetOut(page, address, count) {
  const ask = async (path, body) => {
    const response = await fetch(address + path, {
      method: body ? 'POST' : 'GET',
      headers: { 'content-type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    return response.json();
  };
  const [yard] = await ask('/api/yards');
  const { shelf } = await ask(`/api/yards/${yard.id}`);
  const pieces = shelf.filter(({ name }) => /wall|Bollard|Copings|trolley/.test(name));
  const placements = Array.from({ length: count }, (_, i) => ({
    id: `p${i + 1}`,
    piece: pieces[i % pieces.length].id,
    position: [(i % 50) * 8, 0, Math.floor(i / 50) * 8],
    rotation: [0, 0, 0, 1],
    mirrored: i % 7 === 0,
  }));
  await ask(`/api/yards/${yard.id}/set-outs`, { setOut: { format: 1, name: 'Many', placements } });
  const longest = longestOf(page);
  await page.goto(`${address}/yards/${yard.id}/set-out`);
  const line = page.getByTestId('set-out-line');
  await line.getByText('12 pieces').waitFor();
  const figures = {};
  figures[`open ${count} pieces`] = await longest(async () => {
    await page.getByRole('combobox', { name: 'Set-out', exact: true }).click();
    await page.getByRole('option', { name: 'Many' }).click();
    await line.getByText(`${count.toLocaleString('en-GB')} pieces`).waitFor();
    await page.waitForFunction(() =>
      globalThis.document.querySelector('[data-testid=plan]').placeOf?.('Bollard 1'),
    );
  });
  const at = await page.evaluate(() =>
    globalThis.document.querySelector('[data-testid=plan]').placeOf('Bollard 1'),
  );
  figures['point at them'] = await longest(async () => {
    for (let i = 0; i < 30; i++) await page.mouse.move(at.x + i * 4, at.y + i * 2);
  });
  await page.mouse.click(at.x, at.y);
  await page.getByTestId('chosen-panel').waitFor();
  figures['drag one'] = await longest(async () => {
    await page.mouse.move(at.x, at.y);
    await page.mouse.down();
    await page.mouse.move(at.x + 60, at.y + 30, { steps: 20 });
    await page.mouse.up();
  });
  await page.getByText('Free', { exact: true }).click();
  const view = await page.getByTestId('set-view').boundingBox();
  figures['turn the free view'] = await longest(async () => {
    await page.mouse.move(view.x + view.width / 2, view.y + view.height / 2);
    await page.mouse.down();
    await page.mouse.move(view.x + view.width / 2 + 90, view.y + view.height / 2 + 20, { steps: 6 });
    await page.mouse.up();
  });
  figures['look whether they meet'] = await longest(async () => {
    await page.getByText(/^Meet/).first().click();
    await page
      .getByTestId('meet-panel')
      .getByText(/fault|meet/)
      .first()
      .waitFor();
    await page.getByText('looking again').waitFor({ state: 'detached', timeout: 120_000 });
  });
  return figures;
}

async function measure(page, address, file) {
  const longest = longestOf(page);
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
