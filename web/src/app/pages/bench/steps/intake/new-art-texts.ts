import {
  counted,
  countText,
  lengthText,
  type NewArtReport,
  type PartChange,
  type PivotChange,
  type ProxyFit,
  sizeText,
} from '@yard-brace/core';
import type { Fact } from '../../../../ui/fact-table';

export const BECAME: Record<PartChange['became'], string> = {
  same: 'unchanged',
  moved: 'moved',
  changed: 'changed',
  new: 'new',
  gone: 'removed',
};

/** Nearer than this, in metres, something is where it was. */
const SAME_METRES = 1e-5;

/** What new art would change, in a sentence or two. */
export function newArtSummary({ parts, size }: NewArtReport): string {
  const count = (became: PartChange['became']) => parts.filter((part) => part.became === became).length;
  const said = (['same', 'moved', 'changed', 'new', 'gone'] as const).flatMap((each) =>
    count(each) ? [`${counted(count(each), 'part')} ${BECAME[each]}`] : [],
  );
  const same = size.before.every((v, k) => Math.abs(v - size.after[k]!) < SAME_METRES);
  return `${said.join(', ')}. ${same ? 'The size is the same' : `${sizeText(size.before)} becomes ${sizeText(size.after)}`}.`;
}

export function partDetail({ became, off, triangles }: PartChange): string {
  if (became === 'new') return `${countText(triangles.after)} triangles`;
  if (became === 'gone') return `${countText(triangles.before)} triangles`;
  return lengthText(off);
}

export function pivotOutcome({ off }: PivotChange, goAlong: boolean): string {
  if (off < SAME_METRES) return 'stays';
  return goAlong ? 'moves along' : 'is restored';
}

/** The proxies that no longer fit, by their number: excess and uncovered, before and after. */
export const misfits = (fits: readonly ProxyFit[]): Fact[] =>
  fits.flatMap(({ fits: stillFits, proxyOutside, artOutside }, i) =>
    stillFits
      ? []
      : [
          {
            name: `Shape ${i + 1}`,
            now: `${lengthText(proxyOutside.before)} → ${lengthText(proxyOutside.after)}`,
            text: `${lengthText(artOutside.before)} → ${lengthText(artOutside.after)}`,
          },
        ],
  );

export function fitSummary(fits: readonly ProxyFit[]): string {
  const bad = fits.filter(({ fits: stillFits }) => !stillFits).length;
  if (!bad) return `${fits.length === 1 ? 'The proxy still fits' : `All ${fits.length} proxies still fit`}.`;
  return `${bad} of ${counted(fits.length, 'proxy', 'proxies')} no longer ${bad === 1 ? 'fits' : 'fit'}; the others are left alone.`;
}
