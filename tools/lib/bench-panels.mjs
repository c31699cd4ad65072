import { inApplication, longestOf } from './bench-browser.mjs';

/** The steps of the job card, and what the parts step shows, in the order in which they are opened. */
const PANELS = [
  'parts',
  'Place',
  'Module',
  'Surface',
  'Materials',
  'UVs',
  'Tree',
  'size',
  'pivot',
  'proxies',
  'names',
  'trial',
  'delivery',
  'intake',
];

/**
 * How long each panel of the bench holds the page's thread when it is opened for the first time and again, with a piece of
 * so many nodes on it.
 * @returns {Promise<{ panel: string, first: number, again: number }[]>} longest task in milliseconds
 */
export const benchPanels = (browser, nodes) =>
  inApplication(browser, ['--empty'], async (page, address) => {
    const longest = longestOf(page);
    await page.goto(address);
    await page.getByLabel('New yard').fill('Panels');
    await page.getByRole('button', { name: 'Create yard' }).click();
    await page
      .getByTestId('file-input')
      .setInputFiles({ name: 'planks.obj', mimeType: 'text/plain', buffer: Buffer.from(planks(nodes)) });
    await page.getByText('Job card').waitFor({ timeout: 120_000 });
    await page.waitForTimeout(3000);
    const open = async (panel) => {
      const place = /^[a-z]/.test(panel)
        ? page.locator(`[data-step=${panel}]`)
        : page.getByTestId('parts-show').getByText(panel, { exact: true });
      const { longest: ms } = await longest(async () => {
        await place.click();
        await page.waitForTimeout(1000);
      });
      return ms;
    };
    const rounds = [];
    for (let round = 0; round < 2; round++) {
      const figures = [];
      for (const panel of PANELS) figures.push(await open(panel));
      rounds.push(figures);
    }
    return PANELS.map((panel, i) => ({ panel, first: rounds[0][i], again: rounds[1][i] }));
  });

/** So many loose boxes in rows, each an object of its own. */
export function planks(count) {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((c) => [c & 1, (c >> 1) & 1, c >> 2]);
  const sides = ['1 3 4 2', '5 6 8 7', '1 2 6 5', '3 7 8 4', '1 5 7 3', '2 4 8 6'];
  const lines = [];
  for (let i = 0; i < count; i++) {
    const [x, z] = [(i % 70) * 1.5, Math.floor(i / 70) * 1.5];
    lines.push(`o plank_${i}`, ...corners.map(([a, b, c]) => `v ${x + a} ${b * 0.2} ${z + c}`));
    lines.push(
      ...sides.map((side) => `f ${side.replace(/\d/g, (corner) => String(i * 8 + Number(corner)))}`),
    );
  }
  return lines.join('\n');
}
