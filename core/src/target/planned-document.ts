import type { PieceDocument } from '../piece/index.js';
import type { DeliveryChoices } from './choices.js';

/** A piece as it leaves. */
export interface PlannedDocument extends PieceDocument {
  /** by the number of a node: the slots that its faces have instead of those of its mesh */
  slotsOf?: ReadonlyMap<number, ReadonlyMap<number, number>>;
}

/** Slots under the names that the target has for them; parts with names of their own have slots of their own for it. */
export function withMaterialNames(
  document: PieceDocument,
  { materialNames = {}, partMaterials = [] }: DeliveryChoices,
): PlannedDocument {
  const materials = document.materials.map((each) => ({
    ...each,
    name: materialNames[each.name] ?? each.name,
  }));
  const slotsOf = new Map<number, Map<number, number>>();
  document.nodes.forEach((node, n) => {
    for (const { slot, own } of partMaterials.filter(({ part }) => part === node.name))
      document.materials.forEach((material, m) => {
        if (material.name !== slot) return;
        const there = materials.findIndex(({ name }) => name === own);
        const number = there < 0 ? materials.push({ ...material, name: own }) - 1 : there;
        slotsOf.set(n, (slotsOf.get(n) ?? new Map<number, number>()).set(m, number));
      });
  });
  return { ...document, materials, ...(slotsOf.size ? { slotsOf } : {}) };
}
