import * as z from 'zod';

/** Every operation on the tree and its meshes, in the words of the undo button. */
export const OPERATION_LABELS = {
  reparent: 'reparent',
  group: 'group',
  delete: 'delete parts',
  duplicate: 'duplicate',
  combine: 'combine parts',
  'set-aside': 'set parts aside',
  move: 'move part',
  'put-back': 'put parts back',
  mirror: 'mirror',
  repeat: 'repeat',
  bend: 'bend',
  stretch: 'stretch',
  'lay-along': 'lay along a line',
  trim: 'cut off',
  'split-shells': 'split by shell',
  'split-materials': 'split by material',
  'split-faces': 'split by faces',
  'split-plane': 'cut by a plane',
  weld: 'weld',
  'fill-holes': 'fill holes',
  'join-borders': 'join borders',
  'remove-faces': 'remove faces',
  'delete-faces': 'delete faces',
  'face-outward': 'orient outward',
  flip: 'flip faces',
  vertices: 'merge or split vertices',
  normals: 'normals',
  'mark-edges': 'hard or smooth edges',
  reduce: 'reduce',
  'add-material': 'add material',
  'remove-materials': 'remove materials',
  'merge-materials': 'merge materials',
  'order-materials': 'order materials',
  'assign-material': 'assign material',
  'project-uvs': 'project UVs',
  'uv-density': 'UV density',
  unwrap: 'UVs for baked light',
  'remove-uvs': 'remove a UV set',
  bake: 'bake transforms',
} as const;

export type OperationName = keyof typeof OPERATION_LABELS;
export const operationNameSchema = z.enum(
  Object.keys(OPERATION_LABELS) as [OperationName, ...OperationName[]],
);
