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
      // Ordinary scroll bars, as a person has them.
      ignoreDefaultArgs: ['--hide-scrollbars'],
    });
    const page = await chrome.newPage({ viewport: { width: 1280, height: 800 } });
    await page.addInitScript(asWithGraphicsCard);
    await takeAll(page, `http://127.0.0.1:${port}`);
    await chrome.close();
  } finally {
    application.kill('SIGINT');
    await new Promise((resolve) => application.once('exit', resolve));
    rmSync(data, { recursive: true, force: true });
  }
});

/** Edges are smoothed, as they are where a graphics card draws: its name is the only thing that tells. */
function asWithGraphicsCard() {
  const context = globalThis.WebGL2RenderingContext.prototype;
  const { getParameter } = context;
  context.getParameter = function (name) {
    const value = getParameter.call(this, name);
    return typeof value === 'string' ? value.replace(/swiftshader|llvmpipe/gi, 'a card') : value;
  };
}

async function takeAll(page, address) {
  const shoot = async (name) => {
    await page.waitForTimeout(700);
    await page.screenshot({ path: join(SHOTS, `${name}.png`) });
    say(name);
  };
  const step = (name) => page.locator(`[data-step=${name}]`).click();
  /** A seen place of a part or a material, as high on the screen as a share says. */
  const placesOf = (name) =>
    page.getByTestId('view').evaluate((canvas, wanted) => canvas.placesOf?.(wanted) ?? [], name);
  const placeOf = async (name, share) => {
    const places = (await placesOf(name)).sort((a, b) => a.y - b.y);
    const { x, y } = places[Math.round((places.length - 1) * share)];
    return [x, y];
  };
  const choose = async (label, option) => {
    await page.getByRole('combobox', { name: label, exact: true }).click();
    await page.getByRole('option', { name: option }).click();
  };
  await page.goto(address);
  await page.getByRole('link', { name: /Saltgate Slip/ }).waitFor();
  await shoot('yards');
  await page.getByRole('link', { name: /Saltgate Slip/ }).click();
  await page.getByRole('heading', { name: /Shelf/ }).waitFor();
  await page.locator('yb-piece-card img').nth(7).waitFor({ timeout: 60_000 });
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
  await strip('Quay wall straight').click();
  await page.waitForTimeout(2500);
  await step('parts');
  await page.getByTestId('parts-show').getByText('Module', { exact: true }).click();
  await page.getByRole('button', { name: 'Bend', exact: true }).first().click();
  await page.getByTestId('bend').click();
  await page.getByTestId('proposal').waitFor({ timeout: 30_000 });
  await shoot('bench-parts');
  await page.getByTestId('discard').click();
  await page.getByTestId('parts-show').getByText('Tree', { exact: true }).click();
  await strip('Sluice gate').click();
  await page.waitForTimeout(2500);
  await step('pivot');
  await choose('Whose pivot', 'Leaf');
  await page.getByTestId('hinge-points').click();
  // At its left side, where a leaf hangs, and upright.
  const left = (await placesOf('Leaf')).sort((a, b) => a.x - b.x).slice(0, 12);
  left.sort((a, b) => b.y - a.y);
  for (const { x, y } of [left[0], left.at(-1)]) await page.mouse.click(x, y);
  await page.getByLabel('Axis along y').click();
  await page.getByTestId('swing').getByRole('slider').focus();
  for (let degrees = 0; degrees < 48; degrees++) await page.keyboard.press('ArrowRight');
  await shoot('bench-pivot');
  await strip('Net loft wall').click();
  await page.waitForTimeout(2500);
  await step('size');
  await page.getByLabel('deckhand').check();
  await page.getByTestId('add-clearance').click();
  await page.mouse.click(...(await placeOf('loft wall', 0.9)));
  await page.mouse.click(...(await placeOf('loft wall', 0.2)));
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
  await page.getByTestId('discard').click();
  const brokenUp = async (name, rung) => {
    await strip(name).click();
    await page.waitForTimeout(2500);
    await step('proxies');
    await page.getByTestId('break-up').click();
    await page.locator(`[data-rung="${rung}"]`).click({ timeout: 60_000 });
  };
  await strip('Bollard').click();
  await page.waitForTimeout(2500);
  await step('proxies');
  await page.getByTestId('chosen-faces').getByRole('button', { name: 'Shell' }).click();
  await page.mouse.click(...(await placeOf('bollard_low', 0.5)));
  await page.getByTestId('ask-around').click();
  await page.getByRole('button', { name: 'Tapered cylinder' }).click({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Clear faces' }).click();
  await page.getByRole('button', { name: 'Belly' }).click();
  await page.getByTestId('chosen-faces').getByRole('button', { name: 'Shell' }).click();
  await page.getByTestId('shape-actions').scrollIntoViewIfNeeded();
  await shoot('bench-shape-in-hand');
  // A box over the whole wall: the hatch that it fills is blocked, and stands out in red.
  await strip('Net loft wall').click();
  await page.waitForTimeout(2500);
  await step('proxies');
  await page.getByTestId('make-by').getByRole('button', { name: 'Wrap' }).click();
  await page.getByTestId('propose').click();
  await page.getByTestId('keep').click();
  await page.getByTestId('deviation').click();
  await page.getByTestId('legend').locator('.ends').waitFor({ timeout: 30_000 });
  await page.locator('[data-measure=overlap]').waitFor({ timeout: 30_000 });
  await page.getByTestId('set').scrollIntoViewIfNeeded();
  await shoot('bench-set-judged');
  await page.getByTestId('deviation').click();
  await page.getByTestId('make-by').getByRole('button', { name: 'Make' }).click();
  // Where the balls of its wheels go into the body, their lens is drawn.
  await strip('Slip trolley').click();
  await page.waitForTimeout(2500);
  await page.getByRole('group', { name: 'What to make' }).getByRole('button', { name: 'Vehicle' }).click();
  await page.getByTestId('make-it').click();
  await page.getByTestId('keep').click();
  await page.locator('[data-finding=shapes-cross]').waitFor({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Choose shape 1' }).click();
  await page.waitForTimeout(1500);
  await shoot('bench-vehicle');
  await page.getByTestId('make-by').getByRole('button', { name: 'Ladder' }).click();
  await brokenUp('Quay stair', 16);
  await shoot('bench-proxies');
  // Its steps shake who walks: the places are flagged, and the ground that can be walked on is washed in.
  await page.getByTestId('keep').click();
  await page.locator('[data-measure=excess]').waitFor({ timeout: 30_000 });
  await step('trial');
  await page.getByTestId('walk-all').click();
  await page.locator('[data-finding^=walk-shaken]').waitFor({ timeout: 60_000 });
  await page.getByTestId('walk-by-hand').click();
  await page.getByTestId('walk-bar').waitFor({ timeout: 30_000 });
  await choose('Walkable ground', 'on shapes');
  await page.waitForTimeout(1500);
  await shoot('bench-trial');
  await page.getByRole('button', { name: 'End the walk' }).click();
  await step('proxies');
  await brokenUp('Slip winch', 6);
  await page.getByTestId('deviation').click();
  await page.getByTestId('legend').locator('.ends').waitFor();
  await shoot('bench-deviation');
  await page.getByTestId('deviation').click();
  await strip('Boat cradle').click();
  await page.waitForTimeout(2500);
  await step('proxies');
  await page.getByTestId('make-by').getByRole('button', { name: 'Wrap' }).click();
  await page.getByRole('button', { name: /^Each of 44 shells/ }).click();
  await page.getByTestId('propose').click();
  await page.getByTestId('proposal').waitFor();
  await page.getByTestId('keep').click();
  await step('names');
  await page.getByTestId('names').locator('li').nth(9).hover();
  await shoot('bench-names');
  await step('delivery');
  await page.getByTestId('deliver').click();
  await page.getByTestId('verdict').waitFor();
  await page.getByTestId('show-read-back').click();
  await page.waitForTimeout(1500);
  await shoot('bench-delivery');
  // One box round all of it, delivered again: the two are compared.
  await step('proxies');
  await page.getByTestId('make-by').getByRole('button', { name: 'Wrap' }).click();
  await page.getByRole('button', { name: /^The whole piece|^Whole piece/ }).click();
  await page.getByTestId('propose').click();
  await page.getByTestId('proposal').waitFor();
  await page.getByTestId('keep').click();
  await step('delivery');
  await page.getByTestId('deliver').click();
  await page.locator('yb-earlier-panel li').first().waitFor();
  await page.getByRole('link', { name: 'Saltgate Slip' }).click();
  await page.locator('yb-piece-card img').nth(7).waitFor();
  await shoot('shelf');
  await page.getByRole('button', { name: 'Table' }).click();
  await shoot('shelf-table');
  await page.getByRole('link', { name: 'Set-out' }).click();
  await page.getByText('Both', { exact: true }).click();
  await page.getByText(/^Meet/).first().click();
  await page.locator('[data-fault=seam]').waitFor({ timeout: 60_000 });
  await page.waitForFunction(() =>
    globalThis.document.querySelector('[data-testid=plan]').placeOf?.('Quay wall straight 3'),
  );
  await page.locator('[data-fault=seam]').getByRole('button', { name: 'Go there' }).click();
  await page.waitForTimeout(1500);
  await shoot('set-out');
  await page.getByRole('link', { name: 'Deliveries' }).click();
  const compare = page.getByRole('checkbox', { name: /^Compare Boat cradle/ });
  await compare.first().click();
  await compare.last().click();
  await page.getByTestId('compared').locator('canvas').first().waitFor();
  await page.waitForTimeout(3000);
  await shoot('deliveries');
  await page.getByRole('link', { name: 'Rules' }).click();
  await page.getByRole('button', { name: 'Targets and profiles' }).click();
  await page.getByTestId('profiles').locator('li').nth(1).getByRole('button', { name: 'Copy' }).click();
  await page.getByRole('button', { name: 'Test delivery' }).click();
  await page.getByTestId('tested').waitFor();
  await shoot('rules-profile');
}
