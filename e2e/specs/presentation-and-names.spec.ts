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

test('parts are turned and grown by their tabs in the view, and each drag is one step back', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Tabs');
  await bringIn(page, ...(await sampleFiles('Slip trolley')));
  await drawn(page);
  await openStep(page, 'parts');
  await openParts(page, 'Tree');
  await page.locator('[data-part]').nth(1).click();
  await openParts(page, 'Place');
  await page.getByTestId('drag-parts').click();
  const rotation = page.getByLabel('Rotation y of the part');
  const [turned, scale] = [await rotation.inputValue(), page.getByLabel('Scale x of the part')];
  const was = await scale.inputValue();
  const drag = async (tab: string, x: number, y: number) => {
    const box = (await page.locator(`[data-tab="${tab}"]`).boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + x / 2, box.y + y / 2, { steps: 3 });
    await page.mouse.move(box.x + x, box.y + y, { steps: 3 });
    await expect(page.getByTestId('drag-said')).toBeVisible();
    await page.mouse.up();
  };
  await drag('turn', 60, 30);
  await expect(rotation).not.toHaveValue(turned);
  // Away from the corner across.
  const [near, far] = await Promise.all(
    ['corner+++', 'corner---'].map(async (id) => (await page.locator(`[data-tab="${id}"]`).boundingBox())!),
  );
  await drag('corner+++', near!.x - far!.x, near!.y - far!.y);
  await expect(scale).not.toHaveValue(was);
  await page.getByTestId('undo').click();
  await expect(scale).toHaveValue(was);
  await page.getByTestId('undo').click();
  await expect(rotation).toHaveValue(turned);
});

test('what a file holds beside its art is ticked off before anything of it is stored', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Extras');
  await page.getByText('choose extras').click();
  await page.getByTestId('file-input').setInputFiles(await sampleFiles('Sluice gate'));
  const choice = page.locator('yb-extras-choice');
  await expect(choice).toContainText('SluiceGate_LOD2');
  await expect(page.getByRole('heading', { name: /Shelf/ })).toContainText('0 pieces');
  await choice.getByRole('button', { name: 'Tick none' }).click();
  await choice.getByRole('button', { name: 'Import what is ticked' }).click();
  await drawn(page);
  await expect(note(page, 'proxies')).not.toContainText('3 shapes');
  await expect(page.locator('[data-finding=set-aside]')).toHaveCount(0);
  // Unticked, the next one is taken whole.
  await page.getByRole('link', { name: 'Extras' }).click();
  await page.getByText('choose extras').click();
  await bringIn(page, ...(await sampleFiles('Slip winch')));
  await expect(page.locator('nav b')).toHaveText('Slip winch');
});
