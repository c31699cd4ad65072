import axe from 'axe-core';
import { expect, type Page } from '@playwright/test';

/**
 * What axe finds on the page as it stands: WCAG 2.2 A and AA, and best practice. Evaluated by the browser's own
 * debugger, so that the content security policy of the application stays as it is.
 */
export async function expectAccessible(page: Page, where: string): Promise<void> {
  // What fades in has no contrast yet, and what opens no height; it begins a frame or two after what asked for it.
  await page.evaluate(async () => {
    for (let still = 0; still < 3; still++) {
      await new Promise(requestAnimationFrame);
      const moving = document.getAnimations().filter(({ playState }) => playState === 'running');
      if (moving.length) still = 0;
      await Promise.all(moving.map((animation) => animation.finished.catch(() => null)));
    }
  });
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  const found = await page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
    });
    return violations.flatMap(({ id, help, nodes }) =>
      nodes
        // A tree item is named by itself, not by all that is below it.
        .filter(({ html }) => id !== 'label-content-name-mismatch' || !html.includes('role="treeitem"'))
        .map(({ html, failureSummary }) => `${id} (${help}) at ${html.slice(0, 300)}: ${failureSummary}`),
    );
  });
  // All that is found on a test's way is told at once.
  expect.soft(found, where).toEqual([]);
}
