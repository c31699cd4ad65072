import { type BoxShape, placedAt, type Placement, type SetOut, type Vec3 } from '@yard-brace/core';

/** A box by its two corners: least x, y, z, greatest x, y, z; metres. */
const box = (min: Vec3, max: Vec3): BoxShape => ({
  kind: 'box',
  center: min.map((v, k) => (v + max[k]!) / 2) as Vec3,
  halfExtents: min.map((v, k) => (max[k]! - v) / 2) as Vec3,
  rotation: [0, 0, 0, 1],
});

/** Shapes that a person has drawn already, by the name of the piece. */
export const SAMPLE_SHAPES: Readonly<Record<string, readonly BoxShape[]>> = {
  'Quay wall straight': [
    box([0.003, 0, -0.9], [3.997, 2.4, 0.02]),
    box([0.003, 2.4, -0.93], [3.997, 2.62, 0.09]),
  ],
  'Quay wall corner': [
    box([-0.9, 0, -0.86], [2.391, 2.4, -0.02]),
    box([-0.86, 0, -0.02], [-0.02, 2.4, 2.394]),
    box([-0.93, 2.4, -0.93], [0.09, 2.62, 0.09]),
  ],
};

/** The corner of the other end: a mirror image of the first, whose shapes were forgotten. */
export const MIRRORED_CORNER = 'Quay wall corner left';

/** From one straight wall to the next: their copings touch. */
const WALL_METRES = 3.994;
const FORGOTTEN_GAP_METRES = 0.012;
const FIRST_WALL = 2.388;

/**
 * The slip as it is laid out: a quay of corner, three walls and mirrored corner, with what stands on it and before it. Two
 * faults: the third wall stands 12 mm off, and the mirrored corner has no shapes.
 *
 * @param numberOf the number of a piece in the yard, by its name
 */
export function sampleSetOut(numberOf: (name: string) => number): SetOut {
  const third = FIRST_WALL + 2 * WALL_METRES + FORGOTTEN_GAP_METRES;
  const stands: readonly (readonly [string, Vec3])[] = [
    ['Quay wall corner', [0, 0, 0]],
    ['Quay wall straight', [FIRST_WALL, 0, 0]],
    ['Quay wall straight', [FIRST_WALL + WALL_METRES, 0, 0]],
    ['Quay wall straight', [third, 0, 0]],
    [MIRRORED_CORNER, [third + 3.994 + 2.394, 0, 0]],
    ['Copings', [3, 0.05, -3]],
    ['Quay stair', [4.4, -0.005, 3.2]],
    ['Sluice gate', [8.4, 0, 6]],
    ['Slip winch', [10, 0, -3]],
    ['Slip trolley', [10.4, 0.019, 3]],
    // Their pivot is adrift, as they came.
    ['Bollard', [0.3, 2.62, 1.45]],
    ['Bollard', [8.3, 2.62, 1.45]],
  ];
  return {
    format: 1,
    name: 'Slip',
    placements: stands.map(([name, at], i): Placement => ({
      id: `p${i + 1}`,
      piece: numberOf(name),
      version: null,
      ...placedAt(at),
      group: null,
      locked: false,
      materials: {},
    })),
  };
}
