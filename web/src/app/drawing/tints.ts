/** Eight muted tints that shapes are told apart by, with the number on their tag. */
const TINTS = [
  '#3c8590',
  '#a8653a',
  '#7d8a3f',
  '#7a6091',
  '#b08d2f',
  '#4a6fa5',
  '#9a4b5b',
  '#5b8469',
] as const;

export const tintOf = (number: number): string => TINTS[(number - 1) % TINTS.length]!;
