import { type Finding } from '@yard-brace/core';

/** What a command says: the JSON line, and whether findings stop. */
export interface Result {
  json: Record<string, unknown>;
  stopped: boolean;
}

export type Options = Partial<Record<Exclude<OptionName, 'target'>, string>> & {
  clearance?: string[];
  target?: string[];
};
export type OptionName =
  | ('target' | 'proxies' | 'pivot' | 'name' | 'unit' | 'out' | 'weld' | 'remove' | 'normals' | 'reduce')
  | ('max-verts' | 'side' | 'max-shapes' | 'agent-detail' | 'rung' | 'no-primitives' | 'no-crossing')
  | (
      | 'rules'
      | 'preset'
      | 'container'
      | 'files'
      | 'pattern'
      | 'together'
      | 'variant'
      | 'values'
      | 'check'
      | 'code'
      | 'note'
    )
  | ('kind' | 'per' | 'material' | 'targets' | 'area-material')
  | ('workers' | 'do' | 'bores' | 'join-borders' | 'agent')
  | ('error' | 'part' | 'keep' | 'at' | 'by' | 'smallest' | 'longest' | 'fill-holes' | 'outward' | 'share');

export const said = ({ id, step, severity, says }: Finding) => ({ id, step, severity, says });
export const stops = (findings: readonly Finding[]) =>
  findings.some((finding) => finding.severity === 'error');
