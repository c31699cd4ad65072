import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inApplication } from './bench-browser.mjs';

const SECONDS = 4;

/**
 * A walk by hand among so many shapes in the real application: how long each frame holds the page's own thread, and how
 * much of that is the page's own work. The rest is its wait for the drawing, where no graphics card draws.
 */
export const benchWalk = (browser, count) =>
  inApplication(browser, ['--empty'], (page, address) => measureWalk(page, address, count));

async function measureWalk(page, address, count) {
  const folder = mkdtempSync(join(tmpdir(), 'yard-brace-bench-walk-'));
  try {
    const file = join(folder, 'planks.obj');
    writeFileSync(file, planks(count));
    await page.goto(address);
    await page.getByLabel('New yard').fill('Walk');
    await page.getByRole('button', { name: 'Create yard' }).click();
    await page.getByTestId('file-input').setInputFiles(file);
    await page.getByText('Job card').waitFor({ timeout: 120_000 });
    await page.locator('[data-step=proxies]').click();
    await page.getByTestId('make-by').getByRole('button', { name: 'Wrap' }).click();
    await page.getByRole('button', { name: /^Each of \d+ shells/ }).click();
    await page.getByTestId('propose').click();
    await page.getByTestId('keep').click({ timeout: 120_000 });
    await page.locator('[data-step=trial]').click();
    await page.getByTestId('walk-by-hand').click();
    await page.getByTestId('walk-bar').waitFor();
    await page.waitForTimeout(3000);
    const trace = join(folder, 'trace.json');
    const chrome = page.context().browser();
    await chrome.startTracing(page, { path: trace, categories: ['devtools.timeline', 'cc', 'blink'] });
    await page.keyboard.down('ArrowUp');
    await page.waitForTimeout(SECONDS * 1000);
    await page.keyboard.up('ArrowUp');
    // The frame at rest, which is drawn whole, is one of them.
    await page.waitForTimeout(800);
    await chrome.stopTracing();
    const { traceEvents } = JSON.parse(readFileSync(trace, 'utf8'));
    const told = (name) => spread(traceEvents.filter((event) => event.name === name && event.dur));
    return {
      'a frame, with its wait for the drawing': told('ProxyMain::BeginMainFrame'),
      'a frame, the page’s own work': told('WebFrameWidgetImpl::BeginMainFrame'),
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function spread(events) {
  const ms = events.map(({ dur }) => dur / 1000).sort((a, b) => a - b);
  const at = (share) => Number((ms[Math.floor((ms.length - 1) * share)] ?? 0).toFixed(1));
  return { frames: ms.length, median: at(0.5), p95: at(0.95), longest: at(1) };
}

/** A floor of planks of different height, each a box of its own, as an OBJ. */
function planks(count) {
  const faces = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'];
  const lines = [];
  for (let i = 0; i < count; i++) {
    const [x, z] = [(i % 25) * 1.2, Math.floor(i / 25) * 1.2];
    const height = 0.1 + (i % 7) * 0.03;
    lines.push(`o plank ${i + 1}`);
    for (let c = 0; c < 8; c++)
      lines.push(`v ${x + (c & 1 ? 0.4 : -0.4)} ${c & 2 ? height : 0} ${z + (c & 4 ? 0.4 : -0.4)}`);
    for (const face of faces)
      lines.push(
        `f ${face
          .split(' ')
          .map((v) => i * 8 + Number(v))
          .join(' ')}`,
      );
  }
  return `${lines.join('\n')}\n`;
}
