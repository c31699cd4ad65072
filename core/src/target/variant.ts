import type { PieceDocument } from '../piece/index.js';

/**
 * A name with the number of a variant at its end, in as many digits as stand there, or two.
 *
 * @example variantName('Coping_01', 2) // 'Coping_02'
 * @example variantName('Bollard', 12) // 'Bollard_12'
 */
export function variantName(name: string, variant: number): string {
  const digits = /_(\d{1,9})$/.exec(name)?.[1];
  const stem = digits === undefined ? name : name.slice(0, -digits.length - 1);
  return `${stem}_${String(variant).padStart(digits?.length ?? 2, '0')}`;
}

/** A piece under names of its own: nothing that was delivered of it before is replaced by it. */
export function asVariant(document: PieceDocument, variant: number | undefined): PieceDocument {
  if (variant === undefined) return document;
  const file = (name: string) => {
    const dot = name.lastIndexOf('.');
    return dot > 0 ? variantName(name.slice(0, dot), variant) + name.slice(dot) : variantName(name, variant);
  };
  return {
    ...document,
    meshName: variantName(document.meshName, variant),
    nodes: document.nodes.map((node) =>
      node.mesh === null ? node : { ...node, name: variantName(node.name, variant) },
    ),
    pictures: document.pictures.map((picture) => ({ ...picture, name: file(picture.name) })),
  };
}
