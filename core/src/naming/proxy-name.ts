export interface NumberedNameOptions {
  prefix: string;
  /** least digits of the number. Default 2 */
  padding?: number;
}

/** The prefix, the whole mesh name, the number: `UCX_Bollard_01`. `number` counts from 1. */
export function proxyName(
  meshName: string,
  number: number,
  { prefix, padding = 2 }: NumberedNameOptions,
): string {
  return `${prefix}${meshName}_${String(number).padStart(padding, '0')}`;
}
