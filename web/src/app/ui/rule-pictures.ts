/** What is drawn for a rule: paths in a field 120 wide and 60 high. */
export interface PictureOfRule {
  says: string;
  art: readonly string[];
  shapes: readonly string[];
  wrong: readonly string[];
}

/** A rectangle from its upper left corner. */
const box = (x: number, y: number, wide: number, high: number): string =>
  `M${x} ${y}h${wide}v${high}h${-wide}z`;

/** A wall with a doorway: two jambs and a lintel. */
const WALL = [box(20, 8, 28, 44), box(72, 8, 28, 44), box(48, 8, 24, 12)];
const STEPS = ['M20 52V40h20V28h20V16h20v36z'];

/** By the id of the finding. */
export const RULE_PICTURES: Readonly<Record<string, PictureOfRule | undefined>> = {
  'no-proxies': {
    says: 'One box around everything fills the doorway',
    art: WALL,
    shapes: [],
    wrong: [box(20, 8, 80, 44)],
  },
  'opening-blocked': {
    says: 'A box over a wall closes its doorway',
    art: WALL,
    shapes: [box(18, 6, 84, 48)],
    wrong: [box(48, 20, 24, 32)],
  },
  'proxies-bare': {
    says: 'Art that no box covers is walked through',
    art: WALL,
    shapes: [box(20, 8, 28, 44), box(48, 8, 24, 12)],
    wrong: [box(72, 8, 28, 44)],
  },
  'proxies-excess': {
    says: 'A box that stands out of the steps stops whoever walks there by air',
    art: STEPS,
    shapes: [box(20, 16, 60, 36)],
    wrong: ['M20 16h40v12H40v12H20z'],
  },
  'excess-accepted': {
    says: 'A slope over steps stands out of each notch, on purpose',
    art: STEPS,
    shapes: ['M12 52L68 8h12v44z'],
    wrong: ['M20 46v-6h8zM40 34v-6h0l8 0zM40 28h-6l6 -5z'],
  },
  'proxies-off': {
    says: 'A box that stands out of the steps stops whoever walks there by air',
    art: STEPS,
    shapes: [box(20, 16, 60, 36)],
    wrong: ['M20 16h40v12H40v12H20z'],
  },
  'edges-bare': {
    says: 'The art has a straight edge, the shape below it a bevelled one',
    art: ['M20 52V16h80v36z'],
    shapes: ['M20 52V30l14 -14h52l14 14v22z'],
    wrong: ['M20 30V16h14z', 'M86 16h14v14z'],
  },
  'left-by-art': {
    says: 'The art grew a step, and the box that was made before it leaves that bare',
    art: ['M20 52V28h40V14h40v38z'],
    shapes: [box(20, 28, 80, 24)],
    wrong: [box(60, 14, 40, 14)],
  },
  'shapes-away': {
    says: 'A box far from the art is in the way and not seen',
    art: STEPS,
    shapes: [],
    wrong: [box(94, 34, 16, 18)],
  },
  'shapes-cross': {
    says: 'What rests where two boxes go into each other is pushed by both',
    art: [],
    shapes: [box(16, 16, 56, 30), box(56, 16, 48, 30)],
    wrong: [box(56, 16, 16, 30)],
  },
  'too-many-shapes': {
    says: 'Each of many boxes is tested at every contact',
    art: [],
    shapes: Array.from({ length: 12 }, (_, i) => box(12 + (i % 6) * 16, 14 + Math.floor(i / 6) * 16, 14, 14)),
    wrong: [],
  },
  'set-seam': {
    says: 'Two walls that leave a gap between their ends',
    art: [box(12, 14, 42, 38), box(66, 14, 42, 38)],
    shapes: [],
    wrong: [box(54, 14, 12, 38)],
  },
  'set-art-crosses': {
    says: 'A crate that stands half in a wall',
    art: [box(60, 6, 26, 46), box(36, 28, 34, 24)],
    shapes: [],
    wrong: [box(60, 28, 10, 24)],
  },
  'set-shapes-cross': {
    says: 'Shapes of two pieces that go into each other',
    art: [],
    shapes: [box(14, 18, 50, 34), box(56, 18, 50, 34)],
    wrong: [box(56, 18, 8, 34)],
  },
  'set-shapes-gap': {
    says: 'Two walls that meet, and a slot between their shapes',
    art: [box(12, 20, 48, 32), box(60, 20, 48, 32)],
    shapes: [box(12, 20, 42, 32), box(66, 20, 42, 32)],
    wrong: [box(54, 20, 12, 32)],
  },
  'set-floats': {
    says: 'A crate over the ground, with air below it',
    art: [box(38, 10, 44, 30), box(10, 52, 100, 4)],
    shapes: [],
    wrong: [box(38, 40, 44, 12)],
  },
  'set-sinks': {
    says: 'A crate whose foot is below the ground',
    art: [box(38, 20, 44, 34), box(10, 44, 28, 4), box(82, 44, 28, 4)],
    shapes: [],
    wrong: [box(38, 44, 44, 10)],
  },
  'set-blocked': {
    says: 'A crate that stands in a doorway',
    art: [...WALL, box(44, 32, 32, 20)],
    shapes: [],
    wrong: [box(48, 32, 24, 20)],
  },
  'set-mirror-forgotten': {
    says: 'A corner with its shape, and its mirror image without one',
    art: ['M12 10h14v28h22v14H12z', 'M108 10H94v28H72v14h36z'],
    shapes: ['M12 10h14v28h22v14H12z'],
    wrong: ['M108 10H94v28H72v14h36z'],
  },
};
