import type { Page } from '@playwright/test';
import { ObjText } from '../support/art';
import { bringIn, expect, makeShapesBy, openStep, saved, test, textFile, watch } from '../support/bench';

const crate = textFile('crate.obj', new ObjText().object('crate').box([0, 0.5, 0], [0.5, 0.5, 0.5]).text());

const renameMesh = async (page: Page, name: string) => {
  await openStep(page, 'names');
  await page.getByLabel('Mesh').fill(name);
  await page.getByLabel('Mesh').press('Enter');
  await meshIs(page, name);
};
const meshIs = (page: Page, name: string) => expect(page.locator('[data-step=names]')).toContainText(name);

test('stopping and starting the server between steps loses nothing', async ({
  watched: page,
  newYard,
  application,
}) => {
  await newYard('Restart');
  await bringIn(page, crate);
  await page.getByRole('button', { name: 'Confirm m', exact: true }).click();
  await saved(page);
  expect(await application.stop()).toBe(0);
  await application.start();
  await page.reload();
  await expect(page.locator('[data-finding=unit-unconfirmed]')).toHaveCount(0);
  await openStep(page, 'proxies');
  await makeShapesBy(page, 'Wrap');
  await page.getByTestId('propose').click();
  await page.getByTestId('keep').click();
  await saved(page);
  await application.stop();
  await application.start();
  await page.reload();
  await expect(page.locator('[data-step=proxies]')).toContainText('1 shape');
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-step=proxies]')).toContainText('no shapes yet');
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-finding=unit-unconfirmed]')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await page.keyboard.press('Control+y');
  await expect(page.locator('[data-step=proxies]')).toContainText('1 shape');
  await saved(page);
});

test('a database killed during a save: the client says so, keeps the edit, saves when it is back', async ({
  watched: page,
  newYard,
  application,
}) => {
  await newYard('Killed');
  await bringIn(page, crate);
  await saved(page);
  // The starter sleeps, so that it cannot bring the database back before anyone looks.
  process.kill(application.starter, 'SIGSTOP');
  process.kill(application.pids.database, 'SIGKILL');
  await renameMesh(page, 'Kept_Crate');
  await expect(page.getByTestId('unsaved')).toContainText('kept in this browser');
  await expect(page.getByTestId('saving')).toHaveText('Not saved');
  process.kill(application.starter, 'SIGCONT');
  await saved(page);
  await expect(page.getByTestId('unsaved')).toHaveCount(0);
  await page.reload();
  await meshIs(page, 'Kept_Crate');
});

test('a server killed with -9 is started again, and the client saves to it', async ({
  watched: page,
  newYard,
  application,
}) => {
  await newYard('Server killed');
  await bringIn(page, crate);
  await saved(page);
  process.kill(application.pids.server, 'SIGKILL');
  await renameMesh(page, 'After_Kill');
  await saved(page);
  await page.reload();
  await meshIs(page, 'After_Kill');
});

test('two windows on one piece: the second is told, and takes over or keeps a copy', async ({
  watched: first,
  context,
  newYard,
}) => {
  await newYard('Two windows');
  await bringIn(first, crate);
  await saved(first);
  const second = await context.newPage();
  const errors = watch(second);
  await second.goto(first.url());
  await saved(second);

  await renameMesh(first, 'First_window');
  await saved(first);
  await renameMesh(second, 'Second_window');
  await expect(second.getByTestId('conflict')).toContainText('was saved somewhere else');
  await second.getByRole('button', { name: 'Load their version' }).click();
  await meshIs(second, 'First_window');
  await saved(second);

  await renameMesh(first, 'First_again');
  await saved(first);
  await renameMesh(second, 'Second_again');
  await second.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect(second.locator('nav b')).toHaveText('Crate (copy)');
  await meshIs(second, 'Second_again');
  expect(second.url()).not.toBe(first.url());
  await first.reload();
  await meshIs(first, 'First_again');
  expect(errors).toEqual([]);
});

test('a change that could not be saved comes back after the window was closed', async ({
  watched: page,
  newYard,
  application,
  context,
}) => {
  await newYard('Closed window');
  await bringIn(page, crate);
  await saved(page);
  const url = page.url();
  process.kill(application.starter, 'SIGSTOP');
  process.kill(application.pids.server, 'SIGKILL');
  await renameMesh(page, 'From_draft');
  await expect(page.getByTestId('unsaved')).toBeVisible();
  await page.close({ runBeforeUnload: false });
  process.kill(application.starter, 'SIGCONT');
  const again = await context.newPage();
  await expect(async () => {
    await again.goto(url);
    await meshIs(again, 'From_draft');
  }).toPass();
  await saved(again);
});

test('a change made just before turning to the next piece is saved, and the next piece is in view', async ({
  watched: page,
  newYard,
}) => {
  await newYard('Next piece');
  await bringIn(page, crate);
  await saved(page);
  const far = textFile('far buoy.obj', new ObjText().object('buoy').octahedron([900, 2, -400], 2).text());
  await page.getByRole('navigation').getByRole('link').click();
  await bringIn(page, far);
  await meshIs(page, 'FarBuoy');
  await page.getByRole('link', { name: 'Crate' }).click();
  await meshIs(page, 'Crate');
  await renameMesh(page, 'In_time');
  await page.getByRole('link', { name: 'Far buoy' }).click();
  await meshIs(page, 'FarBuoy');
  await expect(page.locator('.waiting')).toHaveCount(0);
  const view = (await page.getByTestId('view').boundingBox())!;
  await page.mouse.move(view.x + view.width / 2, view.y + view.height / 2);
  await expect(page.getByTestId('reading-line')).toContainText(/buoy.*90\d\.\d/);
  await page.getByRole('link', { name: 'Crate' }).click();
  await meshIs(page, 'In_time');
  await page.getByTestId('undo').click();
  await meshIs(page, 'Crate');
  await saved(page);
});
