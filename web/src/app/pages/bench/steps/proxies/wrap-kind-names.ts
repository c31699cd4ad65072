import type { WrapKind } from '@yard-brace/core';

/** What each kind is called. */
export const WRAP_KIND_NAMES: Record<WrapKind, string> = {
  box: 'Box',
  'upright-box': 'Upright box',
  'smallest-box': 'Smallest box',
  sphere: 'Sphere',
  capsule: 'Capsule',
  cylinder: 'Cylinder',
  'tapered-cylinder': 'Tapered cylinder',
  wedge: 'Wedge',
  hull: 'Hull',
  'hull-6': 'Hull, 6 directions',
  'hull-10': 'Hull, 10 directions',
  'hull-14': 'Hull, 14 directions',
  'hull-18': 'Hull, 18 directions',
  'hull-26': 'Hull, 26 directions',
};

/** The kind as it is asked for among others. */
export const wrapKindName = (kind: WrapKind | 'suggested'): string =>
  kind === 'suggested' ? 'Suggested kind' : WRAP_KIND_NAMES[kind];
