import * as z from 'zod';
import { multiplyQuats, NO_ROTATION, type Quat, rotate, UNITS, type Vec3 } from '../math/index.js';
import { meshFactsSchema } from '../solid/index.js';
import { moveShape, scaleShape, turnShape } from '../shape/index.js';
import {
  clearanceSchema,
  innerNameSchema,
  materialSchema,
  meshTableSchema,
  nodeSchema,
  pictureSchema,
  pieceNameSchema,
  type PieceDocument,
  type Proxy,
  proxySchema,
  sourceSchema,
  unitNameSchema,
  unitSchema,
} from './document.js';
import { nodeById, partPivot } from './geometry.js';
import { type Pivot, pivotAnchorSchema, pivotSchema } from './pivot.js';
import { type Change, changedPlacing, changedPoint, placingSchema } from './placing.js';

const vec3 = z.tuple([z.number(), z.number(), z.number()]);
const quat = z.tuple([z.number(), z.number(), z.number(), z.number()]);

/** The tree and its meshes after an operation. Meshes are stored before the edit is made. */
export const reshapedSchema = z.object({
  nodes: z.array(nodeSchema),
  meshes: meshTableSchema,
  whole: meshFactsSchema,
  materials: z.array(materialSchema),
  unit: unitSchema,
  placing: placingSchema,
});
export type Reshaped = z.infer<typeof reshapedSchema>;

/** Every change to a piece is one of these plain values; undo, autosave and batch runs are lists of them. */
export const editSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('rename-piece'), name: pieceNameSchema }),
  z.object({ kind: z.literal('set-unit'), unit: unitNameSchema }),
  z.object({
    kind: z.literal('set-pivot'),
    anchor: pivotAnchorSchema,
    /** metres, in the piece's space */
    position: vec3,
  }),
  /** pivots of parts, and of the piece under `null`; a part's pivot set to null is its node's origin again */
  z.object({
    kind: z.literal('set-pivots'),
    what: z.string().max(200),
    pivots: z.array(z.object({ part: z.string().nullable(), pivot: pivotSchema.nullable() })),
  }),
  z.object({ kind: z.literal('set-proxies'), proxies: z.array(proxySchema).max(1024) }),
  z.object({ kind: z.literal('remove-proxy'), id: z.string() }),
  z.object({ kind: z.literal('rename-mesh'), name: z.string().max(200) }),
  z.object({
    kind: z.literal('rename-parts'),
    names: z.array(z.object({ part: z.string(), name: innerNameSchema.min(1) })),
  }),
  z.object({
    kind: z.literal('rename-material'),
    material: z.number().int().nonnegative(),
    name: innerNameSchema.min(1),
  }),
  /** the piece grows about a point, which stays where it is */
  z.object({
    kind: z.literal('resize'),
    factor: z.number().positive(),
    about: vec3,
    what: z.string().max(200),
  }),
  /** the piece is turned by quarters about a point: the piece, never a node */
  z.object({ kind: z.literal('turn'), turn: quat, about: vec3, what: z.string().max(200) }),
  z.object({ kind: z.literal('set-clearances'), clearances: z.array(clearanceSchema).max(64) }),
  z.object({
    kind: z.literal('set-family'),
    family: z.string().trim().min(1).max(120).nullable(),
    pivot: pivotSchema.optional(),
  }),
  z.object({ kind: z.literal('set-leaves'), leaves: z.enum(['as-one', 'each-part']) }),
  reshapedSchema.extend({
    kind: z.literal('reshape'),
    what: z.string().max(200),
    /** shapes that are turned about the piece's origin and shifted with the parts they belong to */
    carried: z.object({ turn: quat, shift: vec3, proxies: z.array(z.string()) }).optional(),
  }),
  reshapedSchema.extend({
    kind: z.literal('take-new-art'),
    source: sourceSchema,
    pictures: z.array(pictureSchema),
    pivot: pivotSchema,
  }),
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
      return setPivots(document, [
        {
          part: null,
          pivot: {
            anchor: edit.anchor,
            position: edit.position,
            rotation: [...NO_ROTATION] as Quat,
            locked: false,
          },
        },
      ]);
    case 'set-pivots':
      return setPivots(document, edit.pivots);
    case 'set-proxies':
      return { ...document, proxies: edit.proxies };
    case 'remove-proxy':
      return { ...document, proxies: document.proxies.filter((proxy) => proxy.id !== edit.id) };
    case 'rename-mesh':
      return { ...document, meshName: edit.name };
    case 'rename-parts': {
      const names = new Map(edit.names.map(({ part, name }) => [part, name]));
      return {
        ...document,
        nodes: document.nodes.map((node) => (names.has(node.id) ? renamed(node, names.get(node.id)!) : node)),
      };
    }
    case 'rename-material':
      return {
        ...document,
        materials: document.materials.map((material, i) =>
          i === edit.material ? renamed(material, edit.name) : material,
        ),
      };
    case 'resize':
      return changed(document, { factor: edit.factor, turn: [...NO_ROTATION] as Quat, about: edit.about });
    case 'turn':
      return changed(document, { factor: 1, turn: edit.turn, about: edit.about });
    case 'set-clearances':
      return { ...document, clearances: edit.clearances };
    case 'set-family':
      return setPivots(
        { ...document, family: edit.family },
        edit.pivot ? [{ part: null, pivot: edit.pivot }] : [],
      );
    case 'set-leaves':
      return { ...document, leaves: edit.leaves };
    case 'reshape': {
      const { kind: _kind, what: _what, carried, ...reshaped } = edit;
      const proxies = carried ? carriedAlong(document.proxies, carried) : document.proxies;
      return withoutStrays({
        ...document,
        ...reshaped,
        nodes: leaderless(document, reshaped.nodes),
        proxies,
      });
    }
    case 'take-new-art': {
      const { kind: _kind, ...art } = edit;
      return withoutStrays({ ...document, ...art, nodes: leaderless(document, art.nodes) });
    }
  }
}

/** Another name, with the first one remembered. */
const renamed = <T extends { name: string; cameAs?: string }>(thing: T, name: string): T => ({
  ...thing,
  name,
  cameAs: thing.cameAs ?? thing.name,
});

/** A locked pivot stays until an edit unlocks it. */
function setPivots(
  document: PieceDocument,
  pivots: readonly { part: string | null; pivot: Pivot | null }[],
): PieceDocument {
  const byPart = new Map(pivots.map(({ part, pivot }) => [part, pivot]));
  const held = (now: Pivot | null, next: Pivot | null) =>
    now?.locked && !(next && samePlace(now, next)) ? now : next;
  const whole = byPart.get(null);
  return {
    ...document,
    pivot: whole ? (held(document.pivot, whole) ?? document.pivot) : document.pivot,
    nodes: document.nodes.map((node) =>
      byPart.has(node.id) ? { ...node, pivot: held(node.pivot, byPart.get(node.id)!) } : node,
    ),
  };
}

const samePlace = (a: Pivot, b: Pivot): boolean =>
  a.position.every((v, k) => v === b.position[k]) && a.rotation.every((v, k) => v === b.rotation[k]);

/** Pivots, proxies and clearances are in metres and grow with the art. */
function setUnit(document: PieceDocument, name: PieceDocument['unit']['name']): PieceDocument {
  const factor = UNITS[name] / UNITS[document.unit.name];
  const grown = changed(document, { factor, turn: [...NO_ROTATION] as Quat, about: [0, 0, 0] });
  return {
    ...grown,
    unit: { ...document.unit, name, confirmed: true },
    // The unit carries the factor itself.
    placing: { ...grown.placing, factor: document.placing.factor },
  };
}

/** The piece grown and turned about a point, with everything that has a place in it. */
function changed(document: PieceDocument, change: Change): PieceDocument {
  const { factor, turn } = change;
  const pivot = (old: Pivot): Pivot => ({
    ...old,
    position: changedPoint(old.position, change),
    rotation: multiplyQuats(turn, old.rotation),
    ...(old.hinge ? { hinge: { ...old.hinge, axis: rotate(turn, old.hinge.axis) } } : {}),
  });
  return {
    ...document,
    placing: changedPlacing(document.placing, change),
    pivot: pivot(document.pivot),
    nodes: document.nodes.map((node) => (node.pivot ? { ...node, pivot: pivot(node.pivot) } : node)),
    clearances: document.clearances.map((clearance) => ({
      ...clearance,
      center: changedPoint(clearance.center, change),
      halfExtents: clearance.halfExtents.map((half) => half * factor) as typeof clearance.halfExtents,
      rotation: multiplyQuats(turn, clearance.rotation),
    })),
    proxies: document.proxies.map((proxy) => {
      const turned = turnShape(scaleShape(proxy.shape, factor), turn);
      // p -> about + turn(factor (p - about)): what is left after growing and turning about the origin.
      return { ...proxy, shape: moveShape(turned, changedPoint([0, 0, 0], change)) };
    }),
  };
}

/** A pivot whose leader is gone stays where the leader had it. */
function leaderless(before: PieceDocument, nodes: PieceDocument['nodes']): PieceDocument['nodes'] {
  const ids = new Set(nodes.map(({ id }) => id));
  return nodes.map((node) => {
    if (node.pivot?.follows === undefined || ids.has(node.pivot.follows)) return node;
    const old = nodeById(before, node.id);
    const { follows: _follows, ...pivot } = old < 0 ? node.pivot : partPivot(before, old);
    return { ...node, pivot };
  });
}

function carriedAlong(
  proxies: readonly Proxy[],
  { turn, shift, proxies: ids }: { turn: Quat; shift: Vec3; proxies: readonly string[] },
): Proxy[] {
  return proxies.map((proxy) =>
    ids.includes(proxy.id) ? { ...proxy, shape: moveShape(turnShape(proxy.shape, turn), shift) } : proxy,
  );
}

/** Proxies of parts that are gone belong to the piece; pivots that followed them stay where they are. */
function withoutStrays(document: PieceDocument): PieceDocument {
  const ids = new Set(document.nodes.map((node) => node.id));
  return {
    ...document,
    proxies: document.proxies.map(({ part, ...proxy }) =>
      part !== undefined && ids.has(part) ? { ...proxy, part } : proxy,
    ),
  };
}

/** The edit in the words of the undo button. */
export function describeEdit(edit: Edit): string {
  switch (edit.kind) {
    case 'rename-piece':
      return `name “${edit.name}”`;
    case 'rename-parts':
      return edit.names.length === 1 ? `name “${edit.names[0]!.name}”` : `${edit.names.length} names`;
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
    case 'rename-material':
      return `material name ${edit.name}`;
    case 'set-clearances':
      return edit.clearances.length === 1 ? '1 clearance' : `${edit.clearances.length} clearances`;
    case 'set-family':
      return edit.family === null ? 'left its family' : `family ${edit.family}`;
    case 'set-leaves':
      return edit.leaves === 'as-one' ? 'leaves as one mesh' : 'every part leaves on its own';
    case 'take-new-art':
      return 'new art';
    default:
      return edit.what;
  }
}
