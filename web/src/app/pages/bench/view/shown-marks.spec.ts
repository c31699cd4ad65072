import { applyMatrix, FIRST_AGENTS, type PieceDocument, type Quat, type Vec3 } from '@yard-brace/core';
import { boxRound } from '../../../testing/crate';
import { postDocument, threeParts } from '../../../testing/post';
import {
  type MarksOf,
  marksOf,
  numberedShapes,
  pivotLabels,
  shiftedParts,
  shownLenses,
  swungParts,
  shapesOfMoved,
} from './shown-marks';

const marks = (change: Partial<MarksOf> = {}) =>
  marksOf({
    document: postDocument(2),
    agents: FIRST_AGENTS,
    tapes: [],
    point: null,
    place: null,
    chosen: new Set(),
    pivots: false,
    dimensions: false,
    ...change,
  });
/** The three parts with a hinge on the leaf, about which the frame's own do not turn. */
function hinged(): PieceDocument {
  const document = threeParts();
  const pivot = {
    position: [1, 0, 0] as Vec3,
    rotation: [0, 0, 0, 1] as [number, number, number, number],
    anchor: 'hinge' as const,
    locked: false,
    hinge: { axis: [0, 1, 0] as Vec3, opens: [0, 90] as [number, number] },
  };
  return { ...document, nodes: document.nodes.map((node) => (node.id === 'n2' ? { ...node, pivot } : node)) };
}

describe('what is drawn over a piece', () => {
  it('is nothing where there is nothing to mark', () => {
    expect(marks()).toEqual({
      pivots: [],
      hinge: null,
      tapes: [],
      links: [],
      ridden: [],
      points: [],
      clearances: [],
      labels: [],
    });
  });

  it('the pivot for presentation, by its words', () => {
    const position: Vec3 = [0, 3, 0];
    const presentation = { ...postDocument(2).pivot, position };
    const { points, labels } = marks({ document: { ...postDocument(2), presentation } });
    expect(points).toEqual([position]);
    expect(labels).toEqual([{ text: 'pivot for presentation', at: position }]);
  });

  it('pivots of all parts when they are asked for, and the hinge of the first part that has one', () => {
    const { pivots, hinge } = marks({ document: hinged(), pivots: true });
    expect(pivots.length).toBe(3);
    expect(hinge!.axis).toEqual([0, 1, 0]);
    expect(hinge!.at).toEqual([1, 0, 0]);
    // As far as the piece is large.
    expect(hinge!.reach).toBeCloseTo(1.2, 9);
  });

  it('names at the pivots of parts, with what is shared, off the part or at the origin', () => {
    const [frame, leaf] = pivotLabels(hinged());
    expect([frame!.text, leaf!.text]).toEqual(['frame, sill, at the origin, shared by 2', 'leaf']);
    const document = hinged();
    const nodes = document.nodes.map((node) =>
      node.pivot ? { ...node, pivot: { ...node.pivot, position: [5, 0, 0] as Vec3 } } : node,
    );
    expect(pivotLabels({ ...document, nodes })[1]!.text).toBe('leaf, 3.00 m off');
  });

  it('what is caught is named, the front is marked, dragged parts go along with what is said of them', () => {
    const shift = {
      parts: ['n1'],
      alone: false,
      by: [1, 0, 0] as Vec3,
      turn: [0, 0, 0, 1] as Quat,
      about: [0, 0, 0] as Vec3,
      said: '1.00 m, vertex',
      at: [1, 1, 1] as Vec3,
    };
    const { labels, points, links } = marks({ point: [0, 0, 0], pointWord: 'edge', front: '+X', shift });
    expect(labels.map(({ text }) => text)).toEqual(['edge', 'front, +X', '1.00 m, vertex']);
    expect(points).toEqual([
      [0, 0, 0],
      [1, 1, 1],
    ]);
    expect(links.length).toBe(1);
    const moved = shiftedParts(threeParts(), shift)!;
    expect([0, 1, 2].map((part) => moved.part(part))).toEqual([true, true, false]);
    expect(applyMatrix(moved.matrix, [0, 2, 0])).toEqual([1, 2, 0]);
    expect(shiftedParts(threeParts(), { ...shift, alone: true })!.part(1)).toBeFalse();
    expect(shiftedParts(threeParts(), null)).toBeNull();
  });

  it('what slides is shifted along its axis', () => {
    const document = hinged();
    const slid = swungParts(document, document, { part: 'n2', degrees: 0, metres: 0.5 })!;
    expect(applyMatrix(slid.matrix, [7, 0, 0])).toEqual([7, 0.5, 0]);
  });

  it('tapes with their length at their middle, the point that a click would take, dimensions at the edges', () => {
    const { labels, points, tapes } = marks({
      tapes: [
        [
          [0, 0, 0],
          [0, 3, 4],
        ],
      ],
      point: [1, 1, 1],
      dimensions: true,
    });
    expect([tapes.length, points]).toEqual([1, [[1, 1, 1]]]);
    expect(labels).toEqual([
      { text: '5.0000 m', at: [0, 1.5, 2] },
      { text: '2.00 m', at: [1, 0, 2] },
      { text: '2.00 m', at: [2, 1, 2] },
      { text: '2.00 m', at: [2, 0, 1] },
    ]);
  });

  it('clearances pass when any agent passes', () => {
    const clearance = (half: number) => ({
      id: `c${half}`,
      name: 'hatch',
      center: [0, half, 0] as Vec3,
      halfExtents: [half, half, 0.1] as Vec3,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      through: 'z' as const,
    });
    const document = { ...postDocument(2), clearances: [clearance(0.01), clearance(3)] };
    const shown = marks({ document });
    expect(shown.clearances.map(({ passes }) => passes)).toEqual([false, true]);
    expect(shown.labels.map(({ text }) => text)).toEqual(['hatch, 20.0 × 20.0 mm', 'hatch, 6.00 × 6.00 m']);
    expect(marks({ document, agents: [] }).clearances.some(({ passes }) => passes)).toBeFalse();
  });

  it('shapes are numbered from one, in their order', () => {
    const proxies = [
      { id: 'b', shape: boxRound([0, 0, 0], 1) },
      { id: 'a', shape: boxRound([2, 0, 0], 1) },
    ];
    expect(numberedShapes({ proxies }).map(({ id, number }) => [id, number])).toEqual([
      ['b', 1],
      ['a', 2],
    ]);
  });
});

describe('what shapes share', () => {
  const lenses = Array.from({ length: 20 }, (_, i) => ({ pair: [`s${i}`, `s${i + 1}`] }));

  it('is drawn for the deepest pairs, or else for those of the chosen shapes', () => {
    expect(shownLenses(lenses, new Set())).toEqual(lenses.slice(0, 8));
    expect(shownLenses(lenses, new Set(['s12']))).toEqual([lenses[11]!, lenses[12]!]);
    expect(shownLenses(lenses, new Set(['other']))).toEqual([]);
  });
});

describe('a swing', () => {
  it('turns a part with all below it about its hinge', () => {
    const document = hinged();
    const swung = swungParts(document, document, { part: 'n2', degrees: 30 })!;
    expect([0, 1, 2].map((part) => swung.part(part))).toEqual([false, true, false]);
    expect(applyMatrix(swung.matrix, [1, 5, 0])).toEqual([1, 5, 0]);
    expect(applyMatrix(swung.matrix, [2, 5, 0])[0]).toBeCloseTo(1 + Math.cos(Math.PI / 6), 9);
  });

  it('turns about a hinge that is newer than the art on show', () => {
    const { matrix } = swungParts(hinged(), threeParts(), { part: 'n2', degrees: 30 })!;
    expect(applyMatrix(matrix, [1, 0, 0])).toEqual([1, 0, 0]);
  });

  it('turns nothing without a hinge, and everything about the hinge of the piece', () => {
    const document = threeParts();
    expect(swungParts(document, document, { part: 'n1', degrees: 30 })).toBeNull();
    expect(swungParts(document, document, null)).toBeNull();
    const hinge = { axis: [1, 0, 0] as Vec3, opens: [0, 90] as [number, number] };
    const whole = { ...document, pivot: { ...document.pivot, hinge } };
    expect(swungParts(whole, whole, { part: '', degrees: 5 })!.part(2)).toBeTrue();
  });

  it('ties copies to what they follow, while one of them is chosen', () => {
    const document = postDocument(2);
    const shape = (x: number) => boxRound([x, 0, 0], 1);
    const frame = (x: number) => ({
      mirror: false,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      position: [x, 0, 0] as Vec3,
    });
    const linked = {
      ...document,
      proxies: [0, 5].map((x) => ({ id: `s${x}`, shape: shape(x), link: { group: 'l1', frame: frame(x) } })),
    };
    expect(marks({ document: linked }).links).toEqual([]);
    expect(marks({ document: linked, chosen: new Set(['s5']) }).links).toEqual([
      [
        [0, 0, 0],
        [5, 0, 0],
      ],
    ]);
  });

  it('swings the shapes of the parts that swing, and no others', () => {
    const document = hinged();
    const [frame, leaf] = document.nodes.map(({ id }) => id) as [string, string];
    const shape = boxRound([0, 0, 0], 1);
    const owned = {
      ...document,
      proxies: [
        { id: 'a', shape, part: frame },
        { id: 'b', shape, part: leaf },
        { id: 'c', shape },
      ],
    };
    const swung = swungParts(owned, owned, { part: leaf, degrees: 30 })!;
    expect([...shapesOfMoved(owned, owned, swung)]).toEqual(['b']);
    expect([...shapesOfMoved(owned, owned, { ...swung, part: () => true })]).toEqual(['a', 'b', 'c']);
  });
});
