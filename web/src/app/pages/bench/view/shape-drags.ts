import {
  add,
  angleAbout,
  axesAcross,
  caughtAngle,
  caughtAt,
  type CornerHandle,
  cornerHandles,
  dot,
  dragCorner,
  dragHandle,
  lengthText,
  measuredText,
  moveShape,
  ownFrame,
  quatAbout,
  rotate,
  scaled,
  scaleShape,
  type Shape,
  shapeBounds,
  type ShapeHandle,
  sizeText,
  type SnapPlane,
  subtract,
  turnShapeAbout,
  type Vec3,
} from '@yard-brace/core';
import { alongLine, onPlane } from '../../../drawing/along-line';
import type { InTheHand } from '../../../state/in-hand';
import { type DragHand, type Held, TURN_HANDLE } from '../../../state/shape-editor';
import type { Protractor } from '../../../viewport/layers/handles-layer';
import type { ScreenPoint } from '../../../viewport/tool';
import { DragTool } from '../../../viewport/tools/drag-tool';

/** CSS pixels within which a drag is caught. */
const CATCH_PIXELS = 8;
const AXES: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** What a drag has to know of the view. */
export interface DragView {
  sightline: (at: ScreenPoint) => { origin: Vec3; direction: Vec3 };
  metresPerPixel: (at: Readonly<Vec3>) => number;
  /** the vertex or edge of the art that the pointer is on; null on a plain face, or beside the art */
  feature: (at: ScreenPoint) => { at: Vec3; name: string } | null;
  /** where the view looks when it looks straight from a side; null when it looks freely */
  looking: Vec3 | null;
  /** from a place towards the eye */
  towards: (at: Readonly<Vec3>) => Vec3;
  gridMetres: number;
}

/** How far along a face's normal the pointer is, and the feature of the art that it is on. */
interface AlongFace {
  along: number;
  feature: ReturnType<DragView['feature']>;
}

interface Dragging {
  view: DragView;
  hand: DragHand;
}

/** Drags a face or a radius along its normal: what it meets is named, and how far it is to the next thing. */
export function faceDrag({ view, hand }: Dragging, proxy: Held, handle: ShapeHandle): DragTool<AlongFace> {
  const planes = hand.planesAcross(handle.normal, new Set([proxy.id]));
  const start = dot(handle.at, handle.normal);
  const within = view.metresPerPixel(handle.at) * CATCH_PIXELS;
  return new DragTool<AlongFace>({
    where: (at) => {
      const along = alongLine(view.sightline(at), handle.at, handle.normal);
      return along === null ? null : { along, feature: view.feature(at) };
    },
    move: (from, to, free) => {
      const along = start + to.along - from.along;
      // What the pointer is on is meant, before planes that lie near by chance.
      const feature = to.feature && { along: dot(to.feature.at, handle.normal), name: to.feature.name };
      const caught = free ? null : (feature ?? caughtAt(along, planes, { within, ...gridOf(view) }));
      const metres = (caught?.along ?? along) - start;
      const shape = dragHandle(proxy.shape, handle.id, metres);
      const said = [
        sizeText(ownFrame(shape).size),
        signed(metres),
        caught?.name ?? gapText(start + metres, planes),
      ];
      hand.show({
        shapes: new Map([[proxy.id, shape]]),
        handle: handle.id,
        said: said.filter(Boolean).join(', '),
      });
    },
    drop: () => hand.drop(),
    cancel: () => hand.cancel(),
  });
}

/** Moves shapes over the ground, or in the plane that is looked at straight: the faces of the first one are caught. */
export function moveDrag({ view, hand }: Dragging, proxies: readonly Held[]): DragTool<Vec3> {
  const dragged = new Set(proxies.map(({ id }) => id));
  const planes = AXES.map((axis) => hand.planesAcross(axis, dragged));
  const bounds = shapeBounds(proxies[0]!.shape);
  const { center } = ownFrame(proxies[0]!.shape);
  const normal: Vec3 = view.looking ?? [0, 1, 0];
  const within = view.metresPerPixel(center) * CATCH_PIXELS;
  return new DragTool<Vec3>({
    where: (at) => onPlane(view.sightline(at), center, normal),
    move: (from, to, free) => {
      const by = subtract(to, from);
      const names = new Set<string>();
      if (!free)
        for (const k of [0, 1, 2] as const) {
          if (Math.abs(normal[k]) > 0.999) continue;
          const caught = caughtSide([bounds.min[k] + by[k], bounds.max[k] + by[k]], planes[k]!, within, view);
          if (!caught) continue;
          by[k] += caught.by;
          names.add(caught.name);
        }
      const shapes = new Map(proxies.map(({ id, shape }): [string, Shape] => [id, moveShape(shape, by)]));
      const said = [measuredText(Math.hypot(...by)), ...names].join(', ');
      hand.show({ shapes, handle: null, said });
    },
    drop: () => hand.drop(),
    cancel: () => hand.cancel(),
  });
}

/** Degrees that a turn is caught at every so many, and within which. */
const TURN_STEP_DEGREES = 15;
const CATCH_DEGREES = 2;

/**
 * Turns shapes about the upright axis, or about the way that is looked straight along.
 *
 * @param about a point of the axis; the middle of the first shape for none
 */
export function turnDrag(
  { view, hand }: Dragging,
  proxies: readonly Held[],
  about?: Readonly<Vec3>,
): DragTool<number> {
  const axis = turnAxis(view.looking);
  const { center: middle, rotation } = ownFrame(proxies[0]!.shape);
  const center: Vec3 = [...(about ?? middle)];
  const art = hand.anglesAcross(axis);
  const [first] = axesAcross(axis);
  const sideways = rotate(rotation, [1, 0, 0]);
  // What has no direction of its own counts its turn from nothing.
  const start = Math.abs(dot(sideways, axis)) < 0.01 ? angleAbout(axis, sideways) : angleAbout(axis, first);
  return new DragTool<number>({
    where: (at) => {
      const place = onPlane(view.sightline(at), center, axis);
      return place && angleAbout(axis, subtract(place, center));
    },
    move: (from, to, free) => {
      const wanted = start + withinTurn(to - from);
      const caught = free
        ? null
        : caughtAngle(wanted, art, { within: CATCH_DEGREES, every: TURN_STEP_DEGREES });
      const degrees = withinTurn((caught?.degrees ?? wanted) - start);
      const turn = quatAbout(axis, (degrees * Math.PI) / 180);
      const shapes = new Map(
        proxies.map(({ id, shape }): [string, Shape] => [id, turnShapeAbout(shape, turn, center)]),
      );
      const said = [`${degrees < 0 ? '−' : '+'}${degreesText(Math.abs(degrees))}`, caught?.name];
      hand.show({ shapes, handle: TURN_HANDLE, said: said.filter(Boolean).join(', '), turned: degrees });
    },
    drop: () => hand.drop(),
    cancel: () => hand.cancel(),
  });
}

/** What shapes are turned about as they are looked at: upright, or straight along the view. */
export function turnAxis(looking: Readonly<Vec3> | null): Vec3 {
  const straight = looking?.findIndex((v) => Math.abs(v) > 0.999) ?? -1;
  return [...AXES[straight < 0 ? 1 : straight]!];
}

/** Clear of the tabs of its faces, degrees. */
const TURN_TAB_DEGREES = 22.5;
/** Its circle runs round the corners, with some room. */
const PROTRACTOR_ROOM = 1.08;

/** The protractor at the foot of what is in the hand; null for what looks the same however it is turned. */
export function protractorOf(
  { shape, drag, parts }: Pick<InTheHand, 'shape' | 'drag' | 'parts'>,
  axis: Vec3,
): Protractor | null {
  if (shape.kind === 'sphere' || shape.kind === 'surface') return null;
  const turned = drag?.turned ?? null;
  const { center: middle, rotation } = ownFrame(shape);
  const center = parts?.about ?? middle;
  const corners = cornerHandles(shape).map(({ at }) => subtract(at, center));
  const foot = Math.min(...corners.map((corner) => dot(corner, axis)));
  const aside = corners.map((corner) => Math.hypot(...subtract(corner, scaled(axis, dot(corner, axis)))));
  const own = 'rotation' in shape ? angleAbout(axis, rotate(rotation, [1, 0, 0])) : (turned ?? 0);
  return {
    id: TURN_HANDLE,
    center: add(center, scaled(axis, foot)),
    axis,
    radius: Math.max(...aside) * PROTRACTOR_ROOM,
    degrees: own + TURN_TAB_DEGREES,
    turned,
  };
}

/** More than half a turn one way is less the other way. */
const withinTurn = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180;

const degreesText = (degrees: number): string => `${degrees.toFixed(1)}°`;

/** Grows a shape by a corner, in the plane of its side that is looked at; the corner across from it stays. */
export function cornerDrag({ view, hand }: Dragging, proxy: Held, corner: CornerHandle): DragTool<Vec3> {
  const planes = AXES.map((axis) => hand.planesAcross(axis, new Set([proxy.id])));
  const within = view.metresPerPixel(corner.at) * CATCH_PIXELS;
  // In the view's own plane a thin shape would lose its thickness unseen.
  const normal = sideLookedAt(proxy.shape, view.towards(corner.at));
  const inPlane = (place: Vec3) => subtract(place, scaled(normal, dot(subtract(place, corner.at), normal)));
  return new DragTool<Vec3>({
    where: (at) => {
      const place = view.feature(at)?.at ?? onPlane(view.sightline(at), corner.at, normal);
      return place && inPlane(place);
    },
    move: (from, to, free) => {
      const by = subtract(to, from);
      const names = new Set<string>();
      if (!free)
        for (const k of [0, 1, 2] as const) {
          const caught = caughtAt(corner.at[k] + by[k], planes[k]!, { within, ...gridOf(view) });
          if (!caught) continue;
          by[k] = caught.along - corner.at[k];
          names.add(caught.name);
        }
      const shape = dragCorner(proxy.shape, corner.id, subtract(inPlane(add(corner.at, by)), corner.at));
      const said = [sizeText(ownFrame(shape).size), ...names].join(', ');
      hand.show({ shapes: new Map([[proxy.id, shape]]), handle: corner.id, said });
    },
    drop: () => hand.drop(),
    cancel: () => hand.cancel(),
  });
}

/** Shares of its size that a growth alike in all directions is caught at. */
const GROWTH_STEP = 0.05;

/** Grows something alike in all directions by a corner; the corner across from it stays. */
export function growDrag({ view, hand }: Dragging, held: Held, corner: CornerHandle): DragTool<Vec3> {
  const { center, size } = ownFrame(held.shape);
  const diagonal = scaled(subtract(corner.at, center), 2);
  const across = subtract(corner.at, diagonal);
  const normal = view.towards(corner.at);
  return new DragTool<Vec3>({
    where: (at) => onPlane(view.sightline(at), corner.at, normal),
    move: (from, to, free) => {
      const along = 1 + dot(subtract(to, from), diagonal) / dot(diagonal, diagonal);
      const wanted = free ? along : Math.round(along / GROWTH_STEP) * GROWTH_STEP;
      const factor = Number(Math.max(GROWTH_STEP, wanted).toPrecision(6));
      const shape = moveShape(scaleShape(held.shape, factor), scaled(across, 1 - factor));
      const said = `× ${factor}, ${sizeText(scaled(size, factor))}`;
      hand.show({ shapes: new Map([[held.id, shape]]), handle: corner.id, said });
    },
    drop: () => hand.drop(),
    cancel: () => hand.cancel(),
  });
}

/** Which of a shape's own axes points most to the eye. */
function sideLookedAt(shape: Shape, towards: Readonly<Vec3>): Vec3 {
  const { rotation } = ownFrame(shape);
  const facing = (axis: Vec3) => Math.abs(dot(axis, towards));
  return AXES.map((axis) => rotate(rotation, axis)).reduce((most, axis) =>
    facing(axis) > facing(most) ? axis : most,
  );
}

/** Which of two sides is caught first, and how far it has to go for that. */
function caughtSide(
  sides: readonly number[],
  planes: readonly SnapPlane[],
  within: number,
  view: DragView,
): { by: number; name: string } | null {
  const found = sides.flatMap((side, i) => {
    // The grid catches the lower side only: both would pull a shape that is no multiple of it to and fro.
    const caught = caughtAt(side, planes, { within, ...(i === 0 ? gridOf(view) : {}) });
    return caught ? [{ by: caught.along - side, name: caught.name }] : [];
  });
  return found.sort((a, b) => Math.abs(a.by) - Math.abs(b.by))[0] ?? null;
}

const gridOf = ({ gridMetres }: DragView) => ({
  grid: gridMetres,
  gridName: `grid ${lengthText(gridMetres)}`,
});

const signed = (metres: number): string => `${metres < 0 ? '−' : '+'}${lengthText(Math.abs(metres))}`;

/** How far it is to the next face ahead: "12.0 mm to face of 3". */
function gapText(along: number, planes: readonly SnapPlane[]): string {
  const ahead = planes.filter((plane) => plane.along > along + 1e-6);
  if (ahead.length === 0) return '';
  const next = ahead.reduce((near, plane) => (plane.along < near.along ? plane : near));
  return `${lengthText(next.along - along)} to ${next.name}`;
}

/** Where the label of a drag stands: at the handle that moves, or over the middle of the first shape. */
export function labelPlace(shape: Shape, handle: ShapeHandle | undefined): Vec3 {
  if (handle) return handle.at;
  const { center, size } = ownFrame(shape);
  return add(center, scaled([0, 1, 0], size[1] / 2));
}
