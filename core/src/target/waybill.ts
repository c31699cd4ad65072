import { SHAPE_KINDS, type ShapeKind } from '../shape/index.js';
import { leavingMaterials, picturesOf } from './leaving-materials.js';
import type { Plan, PlannedFile } from './plan.js';

/** What one model of a delivery will hold. */
export interface WaybillFile {
  name: string;
  /** parts of the piece that are in it */
  parts: number;
  /** nodes that a level shows or collides with */
  objects: number;
  shapes: { kind: ShapeKind; count: number }[];
  materials: number;
  pictures: number;
}

/** The models that a plan will be written as, before any of it is. */
export function waybillOf(plan: Plan): WaybillFile[] {
  const { collision } = plan.profile;
  return plan.files.flatMap((file) => {
    const art = artFile(plan, file);
    if (collision.by !== 'second-file') return [art];
    const shapes = shapesOf(file);
    if (!shapes.length) return [art];
    const together = { kind: 'surface' as const, count: shapes.reduce((sum, { count }) => sum + count, 0) };
    return [
      { ...art, shapes: [], objects: art.objects - objectsOf(file) },
      {
        name: fileName(plan, `${file.stem}${collision.suffix}`),
        parts: 0,
        objects: 1,
        shapes: [together],
        materials: 0,
        pictures: 0,
      },
    ];
  });
}

const fileName = ({ choices }: Plan, stem: string) => `${stem}.${choices.container}`;

function artFile(plan: Plan, file: PlannedFile): WaybillFile {
  const { document, choices } = plan;
  const parts = file.nodes.flatMap((node) => node.parts);
  // Which materials a mesh uses is in its bytes: a file of all parts has those of the piece.
  const whole = plan.files.length === 1;
  const materials = choices.materials === 'left-out' || !whole ? 0 : document.materials.length;
  const slot = plan.profile.collision.by === 'child-node' && objectsOf(file) ? 1 : 0;
  return {
    name: fileName(plan, file.stem),
    parts: parts.length,
    objects: file.nodes.filter((node) => node.parts.length).length + objectsOf(file),
    shapes: shapesOf(file),
    materials: materials + slot,
    pictures: whole ? picturesOf(leavingMaterials(document, choices).materials).size : 0,
  };
}

const objectsOf = ({ nodes }: PlannedFile): number =>
  nodes.reduce((sum, { shapes }) => sum + new Set(shapes.map(({ name }) => name)).size, 0);

function shapesOf({ nodes }: PlannedFile): WaybillFile['shapes'] {
  const kinds = nodes.flatMap(({ shapes }) => shapes.map(({ kind }) => kind));
  return SHAPE_KINDS.map((kind) => ({ kind, count: kinds.filter((each) => each === kind).length })).filter(
    ({ count }) => count,
  );
}
