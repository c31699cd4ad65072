import { placedMatrices, type PieceDocument, shearOf, transformedNodes, turnDegrees } from '@yard-brace/core';
import type { LongColumn, LongRow } from '../../../../ui/long-table';

export const TRANSFORM_COLUMNS: readonly LongColumn[] = [
  { field: 'node', label: 'Node', width: '24%' },
  { field: 'position', label: 'Position', figures: true },
  { field: 'rotation', label: 'Turn', figures: true, width: '52px' },
  { field: 'scale', label: 'Scale', figures: true, width: '70px' },
];

const short = (values: readonly number[]): string =>
  values.map((value) => Number(value.toPrecision(3))).join(', ');
/** Once where all three are one. */
const scaleText = (scale: readonly number[]): string =>
  scale.every((s) => Math.abs(s - scale[0]!) < 1e-6) ? short(scale.slice(0, 1)) : short(scale);

/**
 * Every node with its transform as the piece stands, however that was turned: positions in metres, where the piece has
 * them. What is no identity stands out; sheared ones say so.
 */
export function transformRows(document: PieceDocument): LongRow[] {
  const off = new Set(transformedNodes(document).map(({ id }) => id));
  const placed = placedMatrices(document);
  return document.nodes.map(({ id, name, scale: own, rotation: ownTurn }, i) => {
    const matrix = placed[i]!;
    const translation = [matrix[12]!, matrix[13]!, matrix[14]!];
    const degrees = turnDegrees(ownTurn);
    const sheared = shearOf(matrix) > 1e-6;
    return {
      id,
      bad: off.has(id) || sheared,
      // Worked out for the rows that are seen.
      get cells() {
        return {
          node: name,
          position: short(translation),
          rotation: `${degrees.toFixed(0)}°`,
          scale: sheared ? `${scaleText(own)}, sheared` : scaleText(own),
        };
      },
      sort: {
        position: Math.hypot(...translation),
        rotation: degrees,
        scale:
          Math.max(...own.map((s) => Math.abs(Math.log(Math.abs(s) || 1e-9)))) +
          (sheared ? 100 : 0) +
          (own.some((s) => s < 0) ? 50 : 0),
      },
    };
  });
}
