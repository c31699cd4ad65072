import type { DeliveryChoices } from '@yard-brace/core';

/** Addresses of the API: the server mounts them and clients call them, both from here. */
export const routes = {
  health: '/api/health',
  yards: '/api/yards',
  yard: (id: number | ':id') => `/api/yards/${id}`,
  yardRules: (id: number | ':id') => `/api/yards/${id}/rules`,
  yardRulesUndone: (id: number | ':id') => `/api/yards/${id}/rules/undone`,
  yardRulesTried: (id: number | ':id') => `/api/yards/${id}/rules/tried`,
  /** @param after the last piece that was listed before */
  shelfAfter: (id: number, after: { id: number; name: string }) =>
    `/api/yards/${id}/shelf?id=${after.id}&name=${encodeURIComponent(after.name)}`,
  yardShelf: (id: number | ':id') => `/api/yards/${id}/shelf`,
  shelfSince: (id: number, change: number) => `/api/yards/${id}/shelf/changes?since=${change}`,
  yardShelfChanges: (id: number | ':id') => `/api/yards/${id}/shelf/changes`,
  /** a yard as one file, and everything as one */
  yardArchive: (id: number | ':id') => `/api/yards/${id}/archive`,
  backup: '/api/backup',
  archives: '/api/archives',
  yardBin: (id: number | ':id') => `/api/yards/${id}/bin`,
  bin: '/api/bin',
  yardPutBack: (id: number | ':id') => `/api/yards/${id}/put-back`,
  piecePutBack: (id: number | ':id') => `/api/pieces/${id}/put-back`,
  yardPieces: (id: number | ':id') => `/api/yards/${id}/pieces`,
  yardJobs: (id: number | ':id') => `/api/yards/${id}/jobs`,
  yardImports: (id: number | ':id') => `/api/yards/${id}/imports`,
  job: (id: number | ':id') => `/api/jobs/${id}`,
  jobFrom: (id: number, from: number) => `/api/jobs/${id}?from=${from}`,
  jobStopped: (id: number | ':id') => `/api/jobs/${id}/stopped`,
  jobGoesOn: (id: number | ':id') => `/api/jobs/${id}/goes-on`,
  jobPriority: (id: number | ':id') => `/api/jobs/${id}/priority`,
  jobTriedAgain: (id: number | ':id') => `/api/jobs/${id}/tried-again`,
  jobTakenBack: (id: number | ':id') => `/api/jobs/${id}/taken-back`,
  yardSetOuts: (id: number | ':id') => `/api/yards/${id}/set-outs`,
  setOut: (id: number | ':id') => `/api/set-outs/${id}`,
  setOutDeliveries: (id: number | ':id') => `/api/set-outs/${id}/deliveries`,
  piece: (id: number | ':id') => `/api/pieces/${id}`,
  pieceApart: (id: number | ':id') => `/api/pieces/${id}/apart`,
  pieceMeasured: (id: number | ':id') => `/api/pieces/${id}/measured`,
  pieceVersions: (id: number | ':id') => `/api/pieces/${id}/versions`,
  pieceVersion: (id: number | ':id', version: number | ':version') => `/api/pieces/${id}/versions/${version}`,
  pieceRestored: (id: number | ':id') => `/api/pieces/${id}/restored`,
  piecePicture: (id: number | ':id') => `/api/pieces/${id}/picture`,
  pieceDeliveries: (id: number | ':id') => `/api/pieces/${id}/deliveries`,
  deliveryPlace: (id: number, target: string) =>
    `/api/pieces/${id}/deliveries/place?target=${encodeURIComponent(target)}`,
  pieceDeliveryPlace: (id: number | ':id') => `/api/pieces/${id}/deliveries/place`,
  deliveriesBefore: (id: number, before: number) => `/api/pieces/${id}/deliveries?before=${before}`,
  yardDeliveries: (id: number | ':id') => `/api/yards/${id}/deliveries`,
  yardDeliveriesBefore: (id: number, before: number) => `/api/yards/${id}/deliveries?before=${before}`,
  yardJointDeliveries: (id: number | ':id') => `/api/yards/${id}/deliveries/joint`,
  delivery: (id: number | ':id') => `/api/deliveries/${id}`,
  /** one of its files, by its place in their list */
  deliveryFile: (id: number | ':id', position: number | ':position') =>
    `/api/deliveries/${id}/files/${position}`,
  deliveryBundle: (id: number | ':id') => `/api/deliveries/${id}/bundle`,
  blob: (id: string) => `/api/blobs/${id}`,
} as const;

/** Where pieces of a yard are had as one file. */
export const piecesArchive = (id: number, pieces: readonly number[]): string =>
  `${routes.yardArchive(id)}?pieces=${rangesText(pieces)}`;

/** Numbers as few words: "3-9,14". */
export function rangesText(numbers: readonly number[]): string {
  const ranges: [number, number][] = [];
  for (const each of [...new Set(numbers)].sort((a, b) => a - b)) {
    const last = ranges.at(-1);
    if (last && last[1] === each - 1) last[1] = each;
    else ranges.push([each, each]);
  }
  return ranges.map(([from, to]) => (from === to ? from : `${from}-${to}`)).join(',');
}

/** The numbers of a text that `rangesText` wrote, at most so many; null for any other text. */
export function numbersIn(text: string, most: number): number[] | null {
  const numbers: number[] = [];
  for (const range of text.split(',')) {
    const [, from, to = from] = /^(\d{1,15})(?:-(\d{1,15}))?$/.exec(range) ?? [];
    const count = Number(to) - Number(from) + 1;
    if (!(count >= 1) || numbers.length + count > most) return null;
    for (let i = 0; i < count; i++) numbers.push(Number(from) + i);
  }
  return numbers;
}

const MANIFEST = '.manifest.json';

/**
 * A delivery's bundle is named as the file that several pieces share, or as its manifest is: by the mesh name of the
 * piece, which is legal everywhere.
 */
export function bundleName(
  fileNames: readonly string[],
  { together }: Pick<DeliveryChoices, 'together'> = {},
): string {
  const manifest = fileNames.find((name) => name.endsWith(MANIFEST));
  const stem =
    together ?? manifest?.slice(0, -MANIFEST.length) ?? (fileNames[0] ?? 'delivery').replace(/\.[^.]*$/, '');
  return `${stem.slice(stem.lastIndexOf('/') + 1)}.zip`;
}
