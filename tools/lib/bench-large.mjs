import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { crc32, deflateSync } from 'node:zlib';
import { inApplication, longestOf } from './bench-browser.mjs';
import { planks } from './bench-panels.mjs';
import { random } from './fuzz/random.mjs';

const PATIENCE_MS = 600_000;

/**
 * Pieces as large as they come, each from its file to a delivery that is read back, on the page: seconds for each step,
 * the longest task of the page meanwhile, and what the read-back says.
 */
export const benchLarge = (browser, folder, say) =>
  inApplication(browser, ['--empty'], async (page, address) => {
    page.setDefaultTimeout(PATIENCE_MS);
    for (const [what, write] of [
      ['2,000,000 triangles in one mesh', boulder],
      ['5,000 nodes, 60,000 triangles', (folder) => [file(folder, 'planks.obj', planks(5000))]],
      ['300 MB of pictures on six panels', panels],
    ])
      say(`| ${[what, ...(await deliver(page, address, what, write(folder)))].join(' | ')} |`);
  });

async function deliver(page, address, name, files) {
  await page.goto(address);
  await page.getByLabel('New yard').fill(name);
  await page.getByRole('button', { name: 'Create yard' }).click();
  const longest = longestOf(page);
  const figure = async (act) => {
    const { ms, longest: task } = await longest(act);
    return `${(ms / 1000).toFixed(1)} s, ${task} ms`;
  };
  const read = await figure(async () => {
    await page.getByTestId('file-input').setInputFiles(files);
    await page.getByText('Job card').waitFor();
    await page.locator('.waiting').waitFor({ state: 'detached' });
  });
  const confirm = page.getByRole('button', { name: /^Confirm / });
  if (await confirm.count()) await confirm.click();
  await page.locator('[data-step=proxies]').click();
  const shapes = await figure(async () => {
    await page.getByTestId('break-up').click();
    await page.getByTestId('keep').click();
    await page.getByTestId('proposal').waitFor({ state: 'detached' });
  });
  await page.locator('[data-step=delivery]').click();
  const delivered = await figure(async () => {
    await page.getByTestId('deliver').click();
    await page.getByTestId('verdict').waitFor();
  });
  return [read, shapes, delivered, await page.getByTestId('verdict').innerText()];
}

/** A closed, bumpy body of 2,000,000 triangles. */
function boulder(folder) {
  const [rings, steps] = [1001, 1000];
  const lines = ['o boulder'];
  const corner = (ring, step) => 2 + (ring - 1) * steps + (step % steps);
  lines.push('v 0 1 0');
  for (let ring = 1; ring < rings; ring++)
    for (let step = 0; step < steps; step++) {
      const [up, round] = [(Math.PI * ring) / rings, (2 * Math.PI * step) / steps];
      const radius = 1 + 0.05 * Math.sin(9 * up) * Math.sin(7 * round);
      const at = [Math.sin(up) * Math.cos(round), Math.cos(up), Math.sin(up) * Math.sin(round)];
      lines.push(`v ${at.map((value) => (value * radius).toFixed(6)).join(' ')}`);
    }
  lines.push('v 0 -1 0');
  const last = 2 + (rings - 1) * steps;
  for (let step = 0; step < steps; step++) {
    lines.push(`f 1 ${corner(1, step + 1)} ${corner(1, step)}`);
    for (let ring = 1; ring < rings - 1; ring++) {
      const [a, b] = [corner(ring, step), corner(ring, step + 1)];
      const [c, d] = [corner(ring + 1, step), corner(ring + 1, step + 1)];
      lines.push(`f ${a} ${b} ${d}`, `f ${a} ${d} ${c}`);
    }
    lines.push(`f ${last} ${corner(rings - 1, step)} ${corner(rings - 1, step + 1)}`);
  }
  return [file(folder, 'boulder.obj', lines.join('\n'))];
}

/** Six panels beside each other, each with a picture of 50 MB that nothing makes smaller. */
function panels(folder) {
  const obj = ['mtllib panels.mtl', 'vt 0 0', 'vt 1 0', 'vt 1 1', 'vt 0 1'];
  const mtl = [];
  const files = [];
  for (let i = 0; i < 6; i++) {
    const x = i * 1.2;
    obj.push(
      `o panel_${i}`,
      `v ${x} 0 0`,
      `v ${x + 1} 0 0`,
      `v ${x + 1} 1 0`,
      `v ${x} 1 0`,
      `usemtl paint_${i}`,
    );
    const [a, b, c, d] = [1, 2, 3, 4].map((k) => i * 4 + k);
    obj.push(`f ${a}/1 ${b}/2 ${c}/3 ${d}/4`);
    mtl.push(`newmtl paint_${i}`, `map_Kd paint_${i}.png`);
    files.push(file(folder, `paint_${i}.png`, noise(4096, random(i + 1))));
  }
  return [file(folder, 'panels.obj', obj.join('\n')), file(folder, 'panels.mtl', mtl.join('\n')), ...files];
}

function file(folder, name, content) {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
}

/** A PNG of so many pixels a side, each of a chance colour. */
function noise(side, chance) {
  const rows = Buffer.alloc(side * (1 + side * 3));
  for (let i = 0; i < rows.length; i++) rows[i] = i % (1 + side * 3) ? Math.floor(chance() * 256) : 0;
  const chunk = (type, data) => {
    const body = Buffer.concat([Buffer.from(type), data]);
    const ends = Buffer.alloc(8);
    ends.writeUInt32BE(data.length, 0);
    ends.writeUInt32BE(crc32(body), 4);
    return [ends.subarray(0, 4), body, ends.subarray(4)];
  };
  const head = Buffer.from([0, 0, 0, 0, 0, 0, 0, 0, 8, 2, 0, 0, 0]);
  head.writeUInt32BE(side, 0);
  head.writeUInt32BE(side, 4);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    ...chunk('IHDR', head),
    ...chunk('IDAT', deflateSync(rows, { level: 0 })),
    ...chunk('IEND', Buffer.alloc(0)),
  ]);
}
