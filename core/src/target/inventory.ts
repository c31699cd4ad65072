import * as z from 'zod';
import { distance, lengthText, listText, measuredText, type Quat, sizeOf, subtract } from '../math/index.js';
import { quatSchema, vec3Schema } from '../math/schemas.js';
import { counted } from '../math/figures.js';
import { artBounds, blobIdSchema, turnDegrees } from '../piece/index.js';
import { SHAPE_KINDS, shapeCorners } from '../shape/index.js';
import { proxyKey, type ProxyFacts } from '../check/index.js';
import { boundsSeenFrom } from './delivered-mesh.js';
import type { Plan } from './plan.js';

const name = z.string().max(1000);

/** What a delivery held, as far as what is placed in levels is wired to it: kept with it, and compared with the next. */
export const inventorySchema = z.object({
  parts: z.array(
    z.object({
      /** of the document's node, or that of the piece */
      id: z.string(),
      name,
      size: vec3Schema,
      /** lowest corner of the art as seen from its pivot */
      min: vec3Schema,
      /** axes of its pivot, seen from the piece's */
      axes: quatSchema,
    }),
  ),
  shapes: z.array(z.object({ name, owner: name, kind: z.enum(SHAPE_KINDS) })),
  corners: z.number(),
  triangles: z.number(),
  /** longest side of the whole, metres */
  longest: z.number(),
  /** in the order of their slots */
  slots: z.array(name),
  pictures: z.array(z.object({ name, blob: blobIdSchema })),
  /** how the shapes lay to the art, at most, in metres; null where that was not measured */
  lying: z.object({ excess: z.number(), uncovered: z.number() }).nullable().default(null),
  files: z.array(name),
});
export type Inventory = z.infer<typeof inventorySchema>;

const WHOLE = 'piece';

/** @param measured how the shapes of the document as it is lie to its art, where that is known */
export function inventoryOf(
  { document, files, choices }: Plan,
  measured: Pick<ProxyFacts, 'key' | 'artOutside' | 'proxyOutside'> | null = null,
): Inventory {
  const known = measured?.key === proxyKey(document) ? measured : null;
  const nodes = files.flatMap((file) => file.nodes);
  const shapes = nodes.flatMap((node) => node.shapes.map((shape) => ({ node, shape })));
  return {
    parts: nodes
      .filter(({ parts }) => parts.length)
      .map((node) => {
        const bounds = boundsSeenFrom(document, node);
        const id = node.node === null ? WHOLE : document.nodes[node.node]!.id;
        return { id, name: node.name, size: sizeOf(bounds), min: bounds.min, axes: node.pivot.rotation };
      }),
    shapes: shapes.map(({ node, shape }) => ({ name: shape.name, owner: node.name, kind: shape.kind })),
    corners: shapes.reduce((sum, { shape }) => sum + shapeCorners(shape.shape), 0),
    triangles: document.whole.triangles,
    longest: Math.max(...sizeOf(artBounds(document))),
    slots: choices.materials === 'left-out' ? [] : document.materials.map((material) => material.name),
    pictures:
      choices.pictures === 'left-out'
        ? []
        : document.pictures.map((picture) => ({ name: picture.name, blob: picture.blob })),
    lying: known && { excess: known.proxyOutside, uncovered: known.artOutside },
    files: files.map(({ stem }) => `${stem}.${choices.container}`),
  };
}

/** One thing that is otherwise than in the delivery before. */
export interface DeliveryChange {
  says: string;
  /** copies that are placed already stand or look wrong by it */
  breaks: boolean;
}

const FELT_METRES = 1e-4;
const FELT_DEGREES = 0.01;

/** What changed from one delivery to another, what breaks placed copies first. */
export function changesBetween(before: Inventory, after: Inventory): DeliveryChange[] {
  const changes = [
    ...partChanges(before, after),
    ...slotChanges(before.slots, after.slots),
    ...shapeChanges(before, after),
    ...countChanges(before, after),
    ...lyingChanges(before.lying, after.lying),
    ...pictureChanges(before, after),
  ];
  const gone = before.files.filter((file) => !after.files.includes(file));
  if (gone.length)
    changes.push({
      says: `${listText(gone)} ${gone.length === 1 ? 'is' : 'are'} not written any more.`,
      breaks: true,
    });
  return [...changes.filter(({ breaks }) => breaks), ...changes.filter(({ breaks }) => !breaks)];
}

function partChanges(before: Inventory, after: Inventory): DeliveryChange[] {
  const changes: DeliveryChange[] = [];
  for (const was of before.parts) {
    const is =
      after.parts.find(({ id }) => id === was.id) ?? after.parts.find((part) => part.name === was.name);
    if (!is) {
      changes.push({ says: `“${was.name}” is gone.`, breaks: true });
      continue;
    }
    if (is.name !== was.name)
      changes.push({ says: `“${was.name}” is called “${is.name}” now.`, breaks: true });
    changes.push(...pivotChange(was, is));
    const grown = subtract(is.size, was.size);
    if (!sameSize(was, is) && turnBetween(was, is) <= FELT_DEGREES) {
      const most = grown.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a));
      changes.push({
        says: `“${is.name}” is ${most > 0 ? 'larger' : 'smaller'} by ${measuredText(Math.abs(most))}.`,
        breaks: false,
      });
      const shares = is.size.map((v, k) => v / (was.size[k]! || 1));
      const even = Math.max(...shares) - Math.min(...shares) < 1e-3;
      if (even && Math.abs(shares[0]! - 1) > 0.01)
        changes.push({
          says: `The scale of “${is.name}” changed by ${shares[0]!.toPrecision(4)}.`,
          breaks: true,
        });
    }
  }
  const known = new Set(before.parts.flatMap(({ id, name: own }) => [id, own]));
  const fresh = after.parts.filter(({ id, name: own }) => !known.has(id) && !known.has(own));
  if (fresh.length)
    changes.push({ says: `New: ${listText(fresh.map((part) => `“${part.name}”`))}.`, breaks: false });
  return changes;
}

type DeliveredPart = Inventory['parts'][number];

const turnBetween = (was: DeliveredPart, is: DeliveredPart): number =>
  turnDegrees(between(was.axes, is.axes));
const sameSize = (was: DeliveredPart, is: DeliveredPart): boolean =>
  subtract(is.size, was.size).every((v) => Math.abs(v) < FELT_METRES);

/** How far a pivot has gone on its part; a part of another size has no place that could be compared. */
function pivotChange(was: DeliveredPart, is: DeliveredPart): DeliveryChange[] {
  const turned = turnBetween(was, is);
  if (turned > FELT_DEGREES)
    return [{ says: `The axes of “${is.name}” are turned by ${turned.toFixed(2)}°.`, breaks: true }];
  const moved = distance(is.min, was.min);
  return sameSize(was, is) && moved > FELT_METRES
    ? [{ says: `The pivot of “${is.name}” moved by ${measuredText(moved)}.`, breaks: true }]
    : [];
}

/** How pivots have gone since a delivery, a sentence each. */
export const pivotDrifts = (before: Inventory, after: Inventory): string[] =>
  before.parts.flatMap((was) => {
    const is = after.parts.find(({ id }) => id === was.id);
    return is ? pivotChange(was, is).map(({ says }) => says) : [];
  });

/** The turn that takes one rotation to the other. */
function between(from: Quat, to: Quat): Quat {
  const w = from.reduce((sum, v, k) => sum + v * to[k]!, 0);
  const clamped = Math.min(1, Math.abs(w));
  return [Math.sqrt(1 - clamped * clamped), 0, 0, clamped];
}

/** Levels know slots by their number: a new one at the end breaks nothing. */
function slotChanges(before: readonly string[], after: readonly string[]): DeliveryChange[] {
  if (before.join('\n') === after.join('\n')) return [];
  const kept = before.every((slot, i) => after[i] === slot);
  if (kept)
    return [
      { says: `New material slots at the end: ${listText(after.slice(before.length))}.`, breaks: false },
    ];
  return [
    {
      says: `Material slots were ${listText(before) || 'none'}, and are ${listText(after) || 'none'}.`,
      breaks: true,
    },
  ];
}

function shapeChanges(before: Inventory, after: Inventory): DeliveryChange[] {
  const key = ({ name: own, owner, kind }: Inventory['shapes'][number]) => `${owner}\n${own}\n${kind}`;
  const [was, is] = [before, after].map(({ shapes }) => new Set(shapes.map(key))) as [
    Set<string>,
    Set<string>,
  ];
  const gone = [...was].filter((each) => !is.has(each)).length;
  const fresh = [...is].filter((each) => !was.has(each)).length;
  if (!gone && !fresh) return [];
  const said = [...(fresh ? [`${fresh} new`] : []), ...(gone ? [`${gone} gone`] : [])].join(', ');
  return [
    {
      says: `${counted(after.shapes.length, 'shape')}, before ${before.shapes.length}: ${said}.`,
      breaks: false,
    },
  ];
}

function countChanges(before: Inventory, after: Inventory): DeliveryChange[] {
  const changes: DeliveryChange[] = [];
  if (before.triangles !== after.triangles)
    changes.push({
      says: `${counted(after.triangles, 'triangle')}, before ${before.triangles}.`,
      breaks: false,
    });
  if (before.corners !== after.corners)
    changes.push({
      says: `${counted(after.corners, 'corner')} of shapes, before ${before.corners}.`,
      breaks: false,
    });
  if (Math.abs(before.longest - after.longest) > FELT_METRES)
    changes.push({
      says: `The longest side is ${lengthText(after.longest)}, before ${lengthText(before.longest)}.`,
      breaks: false,
    });
  return changes;
}

function lyingChanges(before: Inventory['lying'], after: Inventory['lying']): DeliveryChange[] {
  if (!before || !after) return [];
  const say = (what: string, was: number, is: number): DeliveryChange[] =>
    Math.abs(was - is) < FELT_METRES
      ? []
      : [{ says: `${what} at most ${measuredText(is)}, before ${measuredText(was)}.`, breaks: false }];
  return [
    ...say('The shapes stand out of the art by', before.excess, after.excess),
    ...say('Art is uncovered by', before.uncovered, after.uncovered),
  ];
}

function pictureChanges(before: Inventory, after: Inventory): DeliveryChange[] {
  const changed = after.pictures.filter((is) =>
    before.pictures.some((was) => was.name === is.name && was.blob !== is.blob),
  );
  const gone = before.pictures.filter((was) => !after.pictures.some((is) => is.name === was.name));
  return [
    ...(changed.length
      ? [{ says: `Painted anew: ${listText(changed.map((picture) => picture.name))}.`, breaks: false }]
      : []),
    ...(gone.length
      ? [{ says: `Pictures gone: ${listText(gone.map((picture) => picture.name))}.`, breaks: false }]
      : []),
  ];
}
