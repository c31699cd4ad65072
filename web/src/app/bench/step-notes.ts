import {
  artBounds,
  artNodes,
  distance,
  type PieceDocument,
  pivotPlace,
  shapeCorners,
  sizeOf,
  expectationOf,
  type TargetProfile,
  type WorkingStep,
} from '@yard-brace/core';
import type { LastDelivery } from '@yard-brace/contract';
import { counted, countText, lengthText, momentText, sizeText } from '../shell/figures';

export const STEP_NAMES: Record<WorkingStep, string> = {
  intake: 'Intake',
  parts: 'Parts',
  size: 'Size',
  pivot: 'Pivot',
  proxies: 'Proxies',
  names: 'Names',
  delivery: 'Delivery',
};

/** The line in a step's header, like a note on a card. */
export function stepNote(
  step: WorkingStep,
  document: PieceDocument,
  profile: TargetProfile,
  lastDelivery: LastDelivery | null,
  proposed: number | null,
): string {
  switch (step) {
    case 'intake':
      return `${document.source.files[0]!.name}, ${countText(document.whole.triangles)} triangles`;
    case 'parts': {
      const parts = artNodes(document.nodes).length;
      return `${counted(parts, 'part')}, ${counted(document.materials.length, 'material')}`;
    }
    case 'size':
      return `${sizeText(sizeOf(artBounds(document)))}, ${scaleNote(document)}`;
    case 'pivot':
      return pivotNote(document);
    case 'proxies': {
      if (proposed !== null) return `${counted(proposed, 'shape')} proposed`;
      if (document.proxies.length === 0) return 'no shapes yet';
      const corners = document.proxies.reduce((sum, { shape }) => sum + shapeCorners(shape), 0);
      return `${counted(document.proxies.length, 'shape')}, ${counted(corners, 'corner')}`;
    }
    case 'names': {
      const { shapes } = expectationOf(document, profile);
      if (shapes.length === 0) return document.meshName;
      return shapes.length === 1
        ? shapes[0]!.name
        : `${shapes[0]!.name} … ${String(shapes.length).padStart(profile.proxies.padding, '0')}`;
    }
    case 'delivery':
      return lastDelivery
        ? `left ${momentText(lastDelivery.at)}${lastDelivery.agreed ? ', read back as drawn' : ', read back differently'}`
        : 'not delivered yet';
  }
}

/** The tell-tale of a wrong unit: a size that looks right and a node that is scaled. */
function scaleNote({ nodes }: PieceDocument): string {
  const scaled = nodes.find((node) => node.scale.some((s) => Math.abs(s - 1) > 1e-6));
  if (!scaled) return 'scale 1';
  const [x, y, z] = scaled.scale.map((s) => Number(s.toPrecision(3)));
  return x === y && y === z ? `scale ${x}` : `scale ${x}, ${y}, ${z}`;
}

function pivotNote(document: PieceDocument): string {
  const { anchor, position } = document.pivot;
  if (anchor === 'bounds') return 'a point of the bounds';
  if (anchor !== 'as-it-came' && anchor !== 'numeric')
    return anchor === 'centre' ? 'centre of bounds' : anchor.replaceAll('-', ' ');
  const away = distance(position, pivotPlace(document, 'base-centre'));
  return `${anchor === 'numeric' ? 'by numbers' : 'as it came'}, ${away < 5e-5 ? 'at the base centre' : `${lengthText(away)} from the base centre`}`;
}
