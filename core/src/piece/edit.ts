import * as z from 'zod';
import { scaled, UNITS, type Vec3 } from '../math/index.js';
import { scaleShape } from '../shape/index.js';
import {
  pieceNameSchema,
  type PieceDocument,
  pivotAnchorSchema,
  proxySchema,
  unitNameSchema,
} from './document.js';

/** Every change to a piece is one of these plain values; undo, autosave and batch runs are lists of them. */
export const editSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('rename-piece'), name: pieceNameSchema }),
  z.object({ kind: z.literal('set-unit'), unit: unitNameSchema }),
  z.object({
    kind: z.literal('set-pivot'),
    anchor: pivotAnchorSchema,
    /** metres, in the piece's space */
    position: z.tuple([z.number(), z.number(), z.number()]),
  }),
  z.object({ kind: z.literal('set-proxies'), proxies: z.array(proxySchema).max(1024) }),
  z.object({ kind: z.literal('remove-proxy'), id: z.string() }),
  z.object({ kind: z.literal('rename-mesh'), name: z.string().max(200) }),
]);

export type Edit = z.infer<typeof editSchema>;

/** The document after the edit. Pure: the one given stays as it is. */
export function applyEdit(document: PieceDocument, edit: Edit): PieceDocument {
  switch (edit.kind) {
    case 'rename-piece':
      return { ...document, name: edit.name };
    case 'set-unit':
      return setUnit(document, edit.unit);
    case 'set-pivot':
      return { ...document, pivot: { anchor: edit.anchor, position: edit.position } };
    case 'set-proxies':
      return { ...document, proxies: edit.proxies };
    case 'remove-proxy':
      return { ...document, proxies: document.proxies.filter((proxy) => proxy.id !== edit.id) };
    case 'rename-mesh':
      return { ...document, meshName: edit.name };
  }
}

/** Pivot and proxies are in metres and grow with the art. */
function setUnit(document: PieceDocument, name: PieceDocument['unit']['name']): PieceDocument {
  const factor = UNITS[name] / UNITS[document.unit.name];
  return {
    ...document,
    unit: { ...document.unit, name, confirmed: true },
    pivot: { ...document.pivot, position: scaled(document.pivot.position, factor) as Vec3 },
    proxies: document.proxies.map((proxy) => ({ ...proxy, shape: scaleShape(proxy.shape, factor) })),
  };
}

/** The edit in the words of the undo button. */
export function describeEdit(edit: Edit): string {
  switch (edit.kind) {
    case 'rename-piece':
      return `name “${edit.name}”`;
    case 'set-unit':
      return `unit ${edit.unit}`;
    case 'set-pivot':
      return edit.anchor === 'numeric' ? 'pivot by numbers' : `pivot to ${edit.anchor.replaceAll('-', ' ')}`;
    case 'set-proxies':
      return edit.proxies.length === 1 ? '1 shape' : `${edit.proxies.length} shapes`;
    case 'remove-proxy':
      return 'shape removed';
    case 'rename-mesh':
      return `mesh name ${edit.name}`;
  }
}
