import {
  connectedFaces,
  flatRegion,
  grow,
  invert,
  triangleArea,
  type Mesh,
  type PieceDocument,
  shrink,
  type Vec3,
  withMaterial,
} from '@yard-brace/core';
import type { ArtOfPiece, ArtToDraw } from './art-to-draw';

/** How a click, or a drag, chooses faces. */
export const CHOOSE_BY = ['face', 'shell', 'flat', 'border', 'material', 'box', 'lasso'] as const;
export type ChooseBy = (typeof CHOOSE_BY)[number];

/** What new faces do to those that are chosen already. */
export type ChooseHow = 'add' | 'take' | 'only';

/** Chosen faces of the drawn art, and what they come to. */
export interface ChosenFaces {
  /** [t] marks */
  faces: Uint8Array;
  count: number;
  /** square metres */
  area: number;
  min: Vec3;
  max: Vec3;
}

/** Faces of one part by their number in its own mesh, as operations take them. */
export interface FacesOfPart {
  part: string;
  faces: Uint32Array<ArrayBuffer>;
}

/** What of the art is drawn: some parts may be hidden or faint, and it may be cut open. */
export interface ShownArt {
  hidden: ReadonlySet<string>;
  /** the parts that are drawn whole; null for all */
  alone: ReadonlySet<string> | null;
  /** what lies behind this plane (normal . p < offset) is cut away; metres, in the piece's space */
  cut: { normal: Vec3; offset: number } | null;
}

/** The drawn art as far as choosing faces needs a mesh. */
const meshOf = ({ positions, indices, groups }: ArtToDraw): Mesh =>
  ({ positions, indices, groups, uvs: [] }) as unknown as Mesh;

/** The faces that a click on one of them means. A border is followed by the worker. Shape: [t]. */
export function facesFromClick(art: ArtToDraw, face: number, by: ChooseBy, flatDegrees: number): Uint8Array {
  switch (by) {
    case 'shell':
      return connectedFaces(art.neighbours, face);
    case 'flat':
      return flatRegion(meshOf(art), art.neighbours, face, (flatDegrees * Math.PI) / 180);
    case 'material': {
      const group = art.groups.find(({ start, count }) => face >= start && face < start + count);
      return withMaterial(meshOf(art), group?.material ?? -1);
    }
    default: {
      const one = new Uint8Array(art.indices.length / 3);
      one[face] = 1;
      return one;
    }
  }
}

/** Faces put to those chosen before, taken from them, or chosen instead. Shape: [t]. */
export function combined(before: Uint8Array | null, faces: Uint8Array, how: ChooseHow): Uint8Array {
  if (how === 'only') return faces;
  if (!before) return how === 'take' ? new Uint8Array(faces.length) : faces;
  return faces.map((f, i) => (how === 'add' ? f | before[i]! : before[i]! & (1 - f)));
}

export function changedSelection(
  art: ArtToDraw,
  before: Uint8Array | null,
  how: 'grow' | 'shrink' | 'invert',
): Uint8Array {
  const chosen = before ?? new Uint8Array(art.indices.length / 3);
  if (how === 'invert') return invert(chosen);
  return how === 'grow' ? grow(art.neighbours, chosen) : shrink(art.neighbours, chosen);
}

/** [t] marks of the faces that can be seen and chosen: their part is drawn whole and their middle is not cut away. */
export function choosableFaces(
  { art, document }: ArtOfPiece,
  { hidden, alone, cut }: ShownArt,
): Uint8Array | null {
  if (!hidden.size && !alone && !cut) return null;
  const whole = document.nodes.map(({ id }) => !hidden.has(id) && (!alone || alone.has(id)));
  const { positions: p, indices, origin, part } = art;
  return Uint8Array.from({ length: indices.length / 3 }, (_, f) => {
    if (!whole[part[f]!]) return 0;
    if (!cut) return 1;
    let above = -cut.offset;
    for (let k = 0; k < 3; k++) {
      const sum =
        p[indices[f * 3]! * 3 + k]! + p[indices[f * 3 + 1]! * 3 + k]! + p[indices[f * 3 + 2]! * 3 + k]!;
      above += cut.normal[k]! * (origin[k]! + sum / 3);
    }
    return above >= 0 ? 1 : 0;
  });
}

export const onlyWhere = (faces: Uint8Array, mask: Uint8Array | null): Uint8Array =>
  mask ? faces.map((f, i) => f & mask[i]!) : faces;

/** What chosen faces come to; null when none is chosen. */
export function measured(art: ArtToDraw, faces: Uint8Array): ChosenFaces | null {
  const { positions: p, indices, origin } = art;
  let count = 0;
  let area = 0;
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (let f = 0; f < faces.length; f++) {
    if (!faces[f]) continue;
    count++;
    const [a, b, c] = [indices[f * 3]! * 3, indices[f * 3 + 1]! * 3, indices[f * 3 + 2]! * 3];
    for (let k = 0; k < 3; k++) {
      const low = Math.min(p[a + k]!, p[b + k]!, p[c + k]!) + origin[k]!;
      const high = Math.max(p[a + k]!, p[b + k]!, p[c + k]!) + origin[k]!;
      if (low < min[k]!) min[k] = low;
      if (high > max[k]!) max[k] = high;
    }
    area += triangleArea(p, a, b, c);
  }
  return count ? { faces, count, area, min, max } : null;
}

/** Chosen faces by the part they are on. */
export function facesByPart(
  art: ArtToDraw,
  { nodes }: Pick<PieceDocument, 'nodes'>,
  faces: Uint8Array,
): FacesOfPart[] {
  const lists = new Map<number, number[]>();
  faces.forEach((chosen, f) => {
    if (!chosen) return;
    const node = art.part[f]!;
    const list = lists.get(node) ?? [];
    list.push(art.face[f]!);
    lists.set(node, list);
  });
  return [...lists].map(([node, list]) => ({ part: nodes[node]!.id, faces: Uint32Array.from(list) }));
}
