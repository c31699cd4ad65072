import { yardMaker } from './bench-fill.mjs';
import { inApplication, longestOf } from './bench-browser.mjs';
import { pause } from './processes.mjs';

const SCROLLS = 120;
const SCROLL_PIXELS = 700;

/**
 * A shelf of so many pieces in the real application: until it is seen and whole, how smoothly it scrolls, how long until
 * pieces are found, and an import of many files at once.
 */
export const benchShelf = (browser, say, { pieces = 5000, files = 500 } = {}) =>
  inApplication(browser, ['--empty'], async (page, address) => {
    const ask = async (method, path, body) => {
      const raw = body instanceof Uint8Array || body === undefined;
      for (;;) {
        const answer = await fetch(address + path, { method, body: raw ? body : JSON.stringify(body) });
        if (answer.ok) return { json: answer.status === 204 ? null : await answer.json() };
        // No more requests at once than a page makes.
        if (answer.status !== 503) throw new Error(`${method} ${path}: ${await answer.text()}`);
        await pause(500);
      }
    };
    const all = pieces.toLocaleString('en');
    const { id } = await (await yardMaker(ask))('Many', pieces, { pictures: true });
    say(`${pieces} pieces are there`);
    await page.goto(address);
    const longest = longestOf(page);
    const counted = page.getByRole('heading', { name: new RegExp(`${all} pieces`) });
    const opened = await longest(async () => {
      await page.goto(`${address}/yards/${id}`);
      await page.locator('yb-piece-card').first().waitFor();
    });
    const whole = await longest(() => counted.waitFor({ timeout: 60_000 }));
    say(
      `first cards after ${opened.ms} ms, all ${pieces} after ${whole.ms} ms more, longest task ${Math.round(Math.max(opened.longest, whole.longest))} ms`,
    );
    for (const look of ['Cards', 'Table']) {
      await page.getByText(look, { exact: true }).click();
      await page.waitForTimeout(1500);
      const { gaps, longest: task, end } = await scrolled(page, longest);
      say(
        `${look}: ${SCROLLS} turns of the wheel and the end: frame every ${gaps.middle} ms, 95 of 100 within ${gaps.most} ms, longest task ${Math.round(task)} ms, last piece seen: ${end}`,
      );
    }
    await page.getByText('Cards', { exact: true }).click();
    for (const [what, text] of [
      ['name', 'Bollard 4'],
      ['file', 'dinghy'],
      ['nothing', 'no such piece'],
      ['all again', ''],
    ])
      say(`found by ${what}: ${await foundAfter(page, text)} ms`);
    await page.getByRole('combobox', { name: 'Filter by stamp' }).click();
    await page.getByRole('option', { name: 'stopped', exact: true }).waitFor();
    say(`found by a fault: ${await foundAfter(page, null)} ms`);

    await page.goto(address);
    await page.getByLabel('New yard').fill('Imported');
    await page.getByRole('button', { name: 'Create yard' }).click();
    const boxes = Array.from({ length: files }, (_, i) => box(i));
    const begun = Date.now();
    let sent = 0;
    const imported = await longest(async () => {
      await page.getByTestId('file-input').setInputFiles(boxes);
      await page.getByText('Open its job').waitFor({ timeout: 600_000 });
      sent = Date.now() - begun;
      await page.getByRole('heading', { name: new RegExp(`${files} pieces`) }).waitFor({ timeout: 600_000 });
    });
    say(
      `${files} files imported at once: sent in ${(sent / 1000).toFixed(1)} s, all pieces there after ${(imported.ms / 1000).toFixed(1)} s, one job, longest task ${Math.round(imported.longest)} ms`,
    );
  });

/** Turns the wheel over the shelf, notes every frame, and goes to the end. */
async function scrolled(page, longest) {
  const box = await page.locator('.shelf').boundingBox();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.evaluate(() => {
    globalThis.frames = [];
    globalThis.noting = true;
    const note = (now) => {
      globalThis.frames.push(now);
      if (globalThis.noting) globalThis.requestAnimationFrame(note);
    };
    globalThis.requestAnimationFrame(note);
  });
  const { longest: task } = await longest(async () => {
    for (let i = 0; i < SCROLLS; i++) {
      await page.mouse.wheel(0, SCROLL_PIXELS);
      await page.waitForTimeout(16);
    }
  });
  const frames = await page.evaluate(() => {
    globalThis.noting = false;
    return globalThis.frames;
  });
  const between = frames
    .slice(1)
    .map((now, i) => now - frames[i])
    .sort((a, b) => a - b);
  const at = (share) => Math.round(between[Math.floor((between.length - 1) * share)]);
  await page.mouse.wheel(0, 10_000_000);
  await page.waitForTimeout(1000);
  const names = await page.locator('.shelf a').allInnerTexts();
  return { gaps: { middle: at(0.5), most: at(0.95) }, longest: task, end: names.at(-1)?.split('\n')[0] };
}

/** Milliseconds on the page from a text that is typed, or the fault that is clicked, until the shelf is drawn with what was found. */
const foundAfter = (page, text) =>
  page.evaluate(
    (wanted) =>
      new Promise((resolve) => {
        const { document, requestAnimationFrame, performance } = globalThis;
        const heading = document.querySelector('main h1');
        const before = heading.textContent;
        const start = performance.now();
        const look = () => {
          if (heading.textContent === before) return requestAnimationFrame(look);
          // The frame in which it is drawn, and the next one, which comes when that is seen.
          requestAnimationFrame(() => resolve(Math.round(performance.now() - start)));
        };
        if (wanted === null) {
          const options = [...document.querySelectorAll('[role=option]')];
          options.find((each) => each.textContent.trim() === 'stopped').click();
        } else {
          const field = document.querySelector('input[aria-label="Filter by name"]');
          field.value = wanted;
          field.dispatchEvent(new globalThis.Event('input', { bubbles: true }));
        }
        look();
      }),
    text,
  );

function box(i) {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((k) => `v ${k & 1} ${(k >> 1) & 1} ${(k >> 2) + i / 1000}`);
  const sides = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'].map((side) => `f ${side}`);
  const text = [`o crate ${i}`, ...corners, ...sides].join('\n');
  return { name: `crate_${i}.obj`, mimeType: 'text/plain', buffer: Buffer.from(text) };
}
