import { sampleFiles } from '../support/sample';
import {
  bringIn,
  choose,
  drawn,
  expect,
  keep,
  makeShapesBy,
  note,
  openParts,
  openStep,
  placeOf,
  saved,
  test,
} from '../support/bench';

test('a piece leaves on its pivot for presentation, its slots under the names that the target has', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Turntable');
  await page.getByRole('link', { name: 'Rules' }).click();
  await page.getByRole('button', { name: 'Materials' }).click();
  await page.getByRole('button', { name: 'Add a name' }).click();
  const slot = page.getByLabel('Slot', { exact: true });
  await slot.fill('brass');
  await slot.press('Enter');
  const own = page.getByLabel('Its own name', { exact: true });
  await own.fill('MI_Brass_Aged');
  await own.press('Enter');
  await page.getByTestId('save-rules').click();
  await expect(page.getByText(/Version 2, saved/)).toBeVisible();
  await page.getByRole('link', { name: 'Turntable' }).click();
  await bringIn(page, ...(await sampleFiles('Channel buoy')));
  await drawn(page);
  await openStep(page, 'parts');
  await openParts(page, 'Materials');
  const name = page.getByLabel('Name of material 1');
  await name.fill('brass');
  await name.press('Enter');
  await expect(page.getByLabel(/^Name of brass in /)).toHaveValue('MI_Brass_Aged');

  await openStep(page, 'pivot');
  const panel = page.locator('yb-presentation-panel');
  await panel.getByRole('button', { name: 'At the centre' }).click();
  await expect(panel.getByLabel('Presentation pivot y')).not.toHaveValue(/^0 m$/);
  await panel.getByRole('button', { name: 'Pick a place …' }).click();
  await page.mouse.click(...(await placeOf(page, 'buoy', 'highest')));
  await saved(page);
  const height = await panel.getByLabel('Presentation pivot y').inputValue();

  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await keep(page);
  await openStep(page, 'delivery');
  await expect(page.getByTestId('waybill')).toContainText('MI_Brass_Aged');
  await page.getByRole('button', { name: 'Choices' }).click();
  await choose(page, 'Pivot that it leaves on', 'the one for presentation');
  await page.getByTestId('deliver').click();
  await expect(page.getByTestId('verdict')).toContainText('exactly what was drawn', { timeout: 30_000 });
  const [manifest] = await Promise.all([page.waitForEvent('download'), page.getByTestId('bundle').click()]);
  expect(manifest.suggestedFilename()).toMatch(/\.zip$/);
  // Each is one step to undo: the shapes first, then the place, back to the centre.
  await openStep(page, 'pivot');
  await page.getByTestId('undo').click();
  await expect(panel.getByLabel('Presentation pivot y')).toHaveValue(height);
  await page.getByTestId('undo').click();
  await expect(panel.getByLabel('Presentation pivot y')).not.toHaveValue(height);
});

test('known things of any size stand beside a piece; up and ahead are proposed and turned by quarters', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Known things');
  await bringIn(page, ...(await sampleFiles('Sluice gate')));
  await drawn(page);
  await openStep(page, 'size');
  await expect(page.getByTestId('likely-up')).toContainText('It stands on');
  await choose(page, 'Kind of reference', 'a stack of unit cubes');
  const size = page.getByLabel('Size of the reference');
  await size.fill('4');
  await size.press('Enter');
  await page.getByRole('button', { name: 'Stand it beside' }).click();
  await page.getByRole('button', { name: /^Place / }).click();
  await page.mouse.click(...(await placeOf(page, 'Frame', 'lowest')));
  await expect(page.getByRole('button', { name: /^Take .* away/ })).toHaveCount(1);
  const before = (await note(page, 'size').textContent())!;
  await page.getByRole('button', { name: 'X +90°', exact: true }).click();
  await keep(page);
  await expect(note(page, 'size')).not.toHaveText(before);
  await page.getByTestId('likely-up').getByRole('button', { name: 'Turn it so' }).click();
  await keep(page);
  await expect(note(page, 'size')).toHaveText(before);
  await page.getByRole('button', { name: /^Take .* away/ }).click();
  await expect(page.getByRole('button', { name: /^Take .* away/ })).toHaveCount(0);
  await saved(page);
});
