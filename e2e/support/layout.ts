import { expect, type Page } from '@playwright/test';

/** An ordinary window, a narrow one, and an ordinary one with everything twice as large. */
export const WINDOWS = [
  { name: '1280 wide', width: 1280, height: 800 },
  { name: '1024 wide', width: 1024, height: 768 },
  { name: '200 %', width: 640, height: 400 },
] as const;
/**
 * What of the page is cut off, or lies over something else, as it stands: boxes whose content runs out of them to the
 * side, words that are shortened without a title that has them whole, words that run into each other, controls over each
 * other. What a narrow window scrolls sideways as a whole is not lost.
 */
export async function expectNothingClipped(page: Page, where: string): Promise<void> {
  // A chart takes a moment to follow its panel. All that is found on a test's way is told at once.
  const softly = expect.configure({ soft: true, timeout: 3000 });
  await softly.poll(() => page.evaluate(faultsOfLayout), where).toEqual([]);
}

/** Runs in the page. */
function faultsOfLayout(): string[] {
  const seen = (element: Element) => element.checkVisibility({ visibilityProperty: true });
  const called = (element: Element) =>
    `${element.tagName.toLowerCase()}.${element.className} “${(element.textContent ?? '').trim().slice(0, 40)}”`;
  const faults: string[] = [];
  // For readers only, or laid over the view, where what is out of sight has no place.
  const UNSEEN = ['.sr-only', '.p-hidden-accessible', '[aria-hidden=true]'].map((s) => `${s}, ${s} *`).join();
  for (const element of document.querySelectorAll<HTMLElement>('body *')) {
    if (!seen(element) || element.matches(UNSEEN)) continue;
    const { overflowX, textOverflow } = getComputedStyle(element);
    const over = element.scrollWidth - element.clientWidth;
    if (over <= 1 || element.clientWidth === 0) continue;
    if (textOverflow === 'ellipsis') {
      if (!element.closest('[title]')) faults.push(`shortened without a title: ${called(element)}`);
    } else if (overflowX !== 'visible' && !element.matches('main'))
      faults.push(`cut off by ${over} px: ${called(element)}`);
  }
  // Words of two elements with no room between them: "Copingstaken back".
  const texts: { words: string; first: DOMRect; last: DOMRect }[] = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const text = walker.currentNode as Text;
    const element = text.parentElement!;
    if (!text.data.trim() || !seen(element) || element.matches(UNSEEN)) continue;
    const range = document.createRange();
    range.selectNodeContents(text);
    const lines = [...range.getClientRects()].filter(({ width }) => width > 1);
    if (lines.length) texts.push({ words: text.data, first: lines[0]!, last: lines.at(-1)! });
  }
  for (const a of texts.filter(({ words }) => /[\p{L}\p{N}]$/u.test(words)))
    for (const b of texts.filter(({ words }) => /^[\p{L}\p{N}]/u.test(words))) {
      const gap = b.first.left - a.last.right;
      const high = Math.min(a.last.bottom, b.first.bottom) - Math.max(a.last.top, b.first.top);
      if (a !== b && Math.abs(gap) < 2 && high > 6)
        faults.push(`“${a.words.slice(-30)}” runs into “${b.words.slice(0, 30)}”`);
    }
  const inside = (inner: DOMRect, outer: DOMRect) =>
    inner.left >= outer.left - 1 && inner.right <= outer.right + 1;
  const controls = [...document.querySelectorAll<HTMLElement>('main button, main input, main label, main a')]
    .filter(seen)
    .filter((element) => !element.matches('.p-hidden-accessible *, [type=file]'));
  const card = document.querySelector('yb-job-card');
  for (const control of controls)
    if (card?.contains(control) && !inside(control.getBoundingClientRect(), card.getBoundingClientRect()))
      faults.push(`runs out of the card: ${called(control)}`);
  const inCard = controls.filter((control) => card?.contains(control));
  for (const a of inCard)
    for (const b of inCard) {
      if (
        a === b ||
        a.contains(b) ||
        b.contains(a) ||
        a.parentElement === b.parentElement?.closest('p-checkbox')
      )
        continue;
      const [r, s] = [a.getBoundingClientRect(), b.getBoundingClientRect()];
      const wide = Math.min(r.right, s.right) - Math.max(r.left, s.left);
      const high = Math.min(r.bottom, s.bottom) - Math.max(r.top, s.top);
      if (wide > 2 && high > 2) faults.push(`${called(a)} lies over ${called(b)}`);
    }
  return [...new Set(faults)];
}
