import { countText, lengthText, type PieceDocument, type UvReport, type UvSetReport } from '@yard-brace/core';
import type { LongColumn, LongRow } from '../../../../ui/long-table';

/** Texels a metre that a yard wants. */
export interface WantedPixels {
  texture: number;
  baked: number;
}

export const UV_COLUMNS: readonly LongColumn[] = [
  { field: 'part', label: 'Part', width: '27%' },
  { field: 'set', label: 'Set', figures: true, width: '34px' },
  { field: 'density', label: 'Density', figures: true, width: '78px' },
  { field: 'fault', label: 'Notes' },
];

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** Sides of pictures are powers of two: the smallest that comes to so many texels a metre. */
export const sideFor = (widthsAMetre: number, texels: number): number =>
  2 ** Math.ceil(Math.log2(Math.max(1, texels / widthsAMetre)));

/** Off the wanted density by more than this, a set is worth a look. */
const DENSITY_RATIO = 2;
const LEAST_BORDER_TEXELS = 2;
const FELT_SHARE = 0.01;

/** Every set of every part as a row: parts without any among them. The id of a row names part and set. */
export function uvRows(
  reports: readonly UvReport[],
  { nodes }: Pick<PieceDocument, 'nodes'>,
  wanted: WantedPixels,
): LongRow[] {
  const names = new Map(nodes.map(({ id, name }) => [id, name]));
  return reports.flatMap((report): LongRow[] => {
    const part = names.get(report.part) ?? '';
    if (!report.sets.length)
      return [
        {
          id: `${report.part} 0`,
          bad: true,
          cells: { part, set: '', density: 'no UVs', fault: lightText(report) },
        },
      ];
    return report.sets.map((set, i) => setRow(report, set, i, part, wanted));
  });
}

function setRow(
  report: UvReport,
  set: UvSetReport,
  number: number,
  part: string,
  wanted: WantedPixels,
): LongRow {
  const faults = faultsOf(report, set, number, wanted);
  return {
    id: `${report.part} ${number}`,
    bad: faults.length > 0,
    cells: {
      part,
      set: String(number + 1),
      density: densityText(report, set, number, wanted),
      fault:
        [...faults, number === 0 ? lightText(report) : ''].filter(Boolean).join(', ') ||
        `${percent(set.fill)} of the square used`,
    },
    sort: { density: set.density ?? 0, fault: -faults.length },
  };
}

function densityText(
  report: UvReport,
  { density }: UvSetReport,
  number: number,
  wanted: WantedPixels,
): string {
  if (density === null) return 'none';
  // Light is baked by the second set: which picture it needs is what counts.
  if (number > 0) return `${countText(sideFor(density, wanted.baked))} px`;
  if (report.pictureTexels === null) return lengthText(1 / density);
  return `${countText(Math.round(density * report.pictureTexels))} px/m`;
}

function faultsOf(report: UvReport, set: UvSetReport, number: number, wanted: WantedPixels): string[] {
  const faults: string[] = [];
  if (set.empty > 1 - FELT_SHARE) return ['all in one place'];
  if (set.empty > FELT_SHARE) faults.push(`${percent(set.empty)} empty`);
  const texels = report.pictureTexels;
  if (number === 0 && texels !== null && set.density !== null) {
    const ratio = (set.density * texels) / wanted.texture;
    if (ratio > DENSITY_RATIO || ratio < 1 / DENSITY_RATIO) faults.push(`${percent(ratio)} of the density`);
  }
  if (set.stretched > 0.1) faults.push(`${percent(set.stretched)} stretched`);
  // A first set may repeat and share; one that light is baked by may not.
  if (number > 0) {
    if (set.overlap > FELT_SHARE) faults.push(`overlaps by ${percent(set.overlap)}`);
    if (set.outside > FELT_SHARE) faults.push(`${percent(set.outside)} outside`);
    if (set.border !== null && set.border < LEAST_BORDER_TEXELS)
      faults.push(`islands ${set.border.toFixed(1)} px apart`);
  }
  return faults;
}

/** What a baked vertex colour says of its brightness. */
const lightText = ({ vertexColours }: UvReport): string =>
  vertexColours
    ? `vertex colours ${percent(vertexColours.least)} to ${percent(vertexColours.greatest)}, ${percent(vertexColours.mean)} on average`
    : '';
