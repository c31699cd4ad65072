import fc from 'fast-check';
import { distance, length, normalized, rotate, subtract, type Vec3 } from '../math/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { plainMesh } from '../mesh/index.js';
import {
  addClearance,
  changeClearance,
  clearanceAxes,
  removeClearance,
  resizeClearance,
} from './clearances.js';
import type { PieceDocument } from './document.js';
import { applyEdit } from './edits/index.js';
import {
  eldestOf,
  type FamilyBy,
  familyDrift,
  familyShare,
  joinFamily,
  memberOf,
  pivotLike,
  type Relative,
} from './family.js';
import { idsBelow, largestPart, nodesBelow, transformedNodes } from './nodes.js';
import {
  anchorPlace,
  axesAlong,
  changePivot,
  followPivot,
  hingeBetween,
  onGrid,
  pivotOf,
  pivotsByRule,
  placePivot,
  reachFromPivot,
  turnAbout,
  turnDegrees,
} from './pivot-rules.js';
import { plainNode } from './scene.js';
import { uvReports } from './uv-report.js';

const piece = pieceOf({
  ...sceneOf(boxMesh([1, 1, 1])),
  nodes: [
    plainNode('frame', 0),
    { ...plainNode('leaf', 1, 0), translation: [4, 1, 0] },
    plainNode('sill', 0),
  ],
  meshes: [
    { name: 'frame', mesh: boxMesh([1, 1, 1]) },
    { name: 'leaf', mesh: boxMesh([0.5, 2, 0.5]) },
  ],
});
const document: PieceDocument = piece.document;
const [frame, leaf, sill] = document.nodes.map(({ id }) => id) as [string, string, string];
const coordinate = fc.double({ min: -50, max: 50, noNaN: true });
const point = fc.tuple(coordinate, coordinate, coordinate);

describe('pivots by rule', () => {
  it('put every part where the rule says, but for exceptions, locked ones and hinges', () => {
    const put = (options = {}, from = document) =>
      Object.fromEntries(
        pivotsByRule(from, 'base-centre', options).pivots.map(({ part, pivot }) => [part, pivot?.position]),
      );
    expect(put()).toEqual({ [frame]: [0, -1, 0], [leaf]: [4, -1, 0], [sill]: [0, -1, 0] });
    expect(Object.keys(put({ except: new Set([leaf]) }))).toEqual([frame, sill]);
    const hinge = hingeBetween([4, 0, 0], [4, 2, 0])!;
    const hinged = applyEdit(document, changePivot(document, leaf, hinge));
    expect(Object.keys(put({}, hinged))).toEqual([frame, sill]);
    expect(Object.keys(put({ hinges: true }, hinged))).toEqual([frame, leaf, sill]);
    const locked = applyEdit(document, changePivot(document, sill, { locked: true }));
    expect(Object.keys(put({}, locked))).toEqual([frame, leaf]);
  });

  it('say what they are, so that the rule can be said again', () => {
    expect(pivotsByRule(document, 'centre').intent).toEqual({
      op: 'pivots',
      parts: { by: 'all' },
      parameters: { rule: 'centre', hinges: false },
    });
    expect(pivotsByRule(document, 'as-it-came').pivots.map(({ pivot }) => pivot)).toEqual([null, null, null]);
  });

  it('anchors of a part and of the piece', () => {
    expect(anchorPlace(document, leaf, 'centre')).toEqual([4, 1, 0]);
    expect(anchorPlace(document, leaf, 'as-it-came')).toEqual([4, 1, 0]);
    expect(anchorPlace(document, leaf, 'origin')).toEqual([0, 0, 0]);
    expect(anchorPlace(document, null, 'base-centre')).toEqual([1.75, -1, 0]);
  });

  it('one that follows another has its place, and is its own again with what it had', () => {
    const moved = applyEdit(document, placePivot(document, leaf, 'numeric', [7, 8, 9]));
    const follows = applyEdit(moved, followPivot(moved, sill, leaf));
    expect(pivotOf(follows, sill).position).toEqual([7, 8, 9]);
    const further = applyEdit(follows, placePivot(follows, leaf, 'numeric', [1, 1, 1]));
    expect(pivotOf(further, sill).position).toEqual([1, 1, 1]);
    const free = applyEdit(further, followPivot(further, sill, null));
    const after = applyEdit(free, placePivot(free, leaf, 'numeric', [0, 5, 0]));
    expect(pivotOf(after, sill).position).toEqual([1, 1, 1]);
  });

  it('reach from the pivot to both ends of the bounds', () => {
    const moved = applyEdit(document, placePivot(document, null, 'numeric', [1, 0, 0]));
    expect(reachFromPivot(moved, null)).toEqual({ from: [-2, -1, -1], to: [3.5, 3, 1] });
    expect(reachFromPivot(moved, leaf).from).toEqual([-0.5, -2, -0.5]);
  });
});

describe('hinges, axes and turns', () => {
  it('a hinge points up from its lower end, whichever was picked first', () =>
    fc.assert(
      fc.property(point, point, (a, b) => {
        if (distance(a, b) < 1e-6) return;
        const hinge = hingeBetween(a, b)!;
        expect(hingeBetween(b, a)).toEqual(hinge);
        expect(length(hinge.hinge!.axis)).toBeCloseTo(1, 9);
        expect(hinge.hinge!.axis[1]).toBeGreaterThanOrEqual(0);
        expect([a, b].some((end) => distance(end, hinge.position) === 0)).toBeTrue();
      }),
    ));

  it('no hinge runs through one point', () => expect(hingeBetween([1, 2, 3], [1, 2, 3])).toBeNull());

  it('axes on a face have its normal up, along an edge the edge to the right', () => {
    const picked = {
      normal: [0, 0, 1] as Vec3,
      edge: [
        [0, 0, 0],
        [1, 1, 0],
      ] as [Vec3, Vec3],
    };
    const along = normalized(subtract(picked.edge[1], picked.edge[0]));
    const near = (a: Vec3, b: Vec3) => expect(distance(a, b)).toBeLessThan(1e-9);
    near(rotate(axesAlong('face', picked), [0, 1, 0]), picked.normal);
    near(rotate(axesAlong('face', picked), [1, 0, 0]), along);
    near(rotate(axesAlong('edge', picked), [1, 0, 0]), along);
    near(rotate(axesAlong('edge', picked), [0, 0, 1]), picked.normal);
  });

  it('a turn is as large as it was asked for', () => {
    for (const degrees of [0, 1, 45, 90, 179])
      expect(turnDegrees(turnAbout([0, 1, 0], degrees))).toBeCloseTo(degrees, 6);
    expect(turnDegrees(turnAbout([0, 1, 0], 270))).toBeCloseTo(90, 6);
  });

  it('the grid catches in all three directions', () =>
    fc.assert(
      fc.property(point, fc.constantFrom(0.5, 1, 4), (p, step) => {
        for (const [k, now] of onGrid(p, step).entries()) {
          const before = p[k]!;
          expect(Math.abs(now / step - Math.round(now / step))).toBeLessThan(1e-9);
          expect(Math.abs(now - before)).toBeLessThanOrEqual(step / 2 + 1e-9);
        }
      }),
    ));
});

describe('families', () => {
  const relative = (id: number, family: string | null, position: Vec3): Relative => ({
    id,
    name: `piece ${id}`,
    family,
    bounds: { min: [10, 0, 0], max: [12, 2, 2] },
    pivot: { ...document.pivot, anchor: 'numeric', position },
    feature: null,
  });

  it('have the pivot of their eldest, said by the bounds; how far it moves is told', () => {
    const kin = [
      relative(9, 'gates', [10, 0, 0]),
      relative(4, 'gates', [12, 2, 2]),
      relative(1, 'other', [0, 0, 0]),
    ];
    expect(eldestOf(kin, 'gates')!.id).toBe(4);
    const { edit, eldest, metres } = joinFamily(document, 'gates', kin);
    const joined = applyEdit(document, edit);
    expect([eldest!.id, joined.family]).toEqual([4, 'gates']);
    expect(metres).toBeCloseTo(distance(joined.pivot.position, document.pivot.position), 9);
    // Alone in a family, the pivot stays; none at all leaves it.
    expect(joinFamily(document, 'new', kin)).toEqual({
      edit: { kind: 'set-family', family: 'new', feature: [0, 0, 0] },
      eldest: null,
      metres: 0,
      degrees: 0,
    });
    expect(applyEdit(joined, joinFamily(joined, null, kin).edit).family).toBeNull();
  });

  it('share it by what they were modelled about, by art that is the same, or by a picked place, turn and all', () => {
    const turn = turnAbout([0, 1, 0], 90);
    const eldest: Relative = {
      ...relative(4, 'gates', [12, 2, 2]),
      feature: [10, 0, 0],
      pivot: { ...document.pivot, position: [12, 2, 2], rotation: turn },
    };
    const by = (how: FamilyBy) => {
      const joined = joinFamily(document, 'gates', [eldest], how);
      const after = applyEdit(document, joined.edit);
      expect(familyDrift(memberOf(after), familyShare(eldest)).metres).toBeLessThan(1e-9);
      return after.pivot.position;
    };
    expect(by({ by: 'origin' })).toEqual([2, 2, 2]);
    expect(by({ by: 'art', shift: [-10, 0, 1] })).toEqual([2, 2, 3]);
    expect(by({ by: 'place', at: [7, 7, 7] })).toEqual([7, 7, 7]);
    const { edit, degrees } = joinFamily(document, 'gates', [eldest]);
    expect([edit.pivot!.rotation, Math.round(degrees)]).toEqual([turn, 90]);
    // Grown and turned it stays one of them.
    const joined = applyEdit(document, edit);
    const grown = applyEdit(joined, { kind: 'resize', factor: 2, about: [0, 0, 0] });
    expect(grown.familyFeature).toEqual([0, 0, 0]);
    expect(familyDrift(memberOf(grown), familyShare(eldest)).metres).toBeGreaterThan(1);
  });

  it('move no pivot that is locked, and say so', () => {
    const locked = applyEdit(document, changePivot(document, null, { locked: true }));
    const eldest = { ...relative(4, 'gates', [12, 2, 2]), feature: [10, 0, 0] as Vec3 };
    const { edit, metres } = joinFamily(locked, 'gates', [eldest]);
    expect([edit.pivot, metres]).toEqual([undefined, 0]);
    expect(applyEdit(locked, edit).pivot).toEqual(locked.pivot);
  });

  it('the pivot of another piece is copied once, with its axes', () => {
    const turned = {
      ...relative(3, null, [12, 2, 2]),
      pivot: { ...relative(3, null, [12, 2, 2]).pivot, rotation: turnAbout([0, 1, 0], 90) },
    };
    const { edit, metres } = pivotLike(document, turned);
    const after = applyEdit(document, edit);
    expect(after.pivot.rotation).toEqual(turned.pivot.rotation);
    expect(metres).toBeCloseTo(distance(after.pivot.position, document.pivot.position), 9);
    expect(after.family).toBeNull();
  });
});

describe('clearances', () => {
  const box = {
    center: [0, 1, 0] as Vec3,
    halfExtents: [0.5, 1, 0.1] as Vec3,
    rotation: [0, 0, 0, 1] as [number, number, number, number],
    through: 'z' as const,
  };

  it('are numbered on from the highest, changed, and removed by their id', () => {
    let now = applyEdit(document, addClearance(document, box));
    now = applyEdit(now, addClearance(now, box));
    expect(now.clearances.map(({ id, name }) => [id, name])).toEqual([
      ['c1', 'opening 1'],
      ['c2', 'opening 2'],
    ]);
    now = applyEdit(now, removeClearance(now, 'c1'));
    now = applyEdit(now, addClearance(now, box));
    expect(now.clearances.map(({ id }) => id)).toEqual(['c2', 'c3']);
    now = applyEdit(now, changeClearance(now, 'c3', { name: 'hatch' }));
    expect(now.clearances[1]!.name).toBe('hatch');
    expect(changeClearance(now, 'gone', { name: 'x' }).clearances).toEqual(now.clearances);
  });

  it('grow upwards from the sill, and to both sides', () => {
    const now = applyEdit(document, addClearance(document, box));
    const higher = applyEdit(now, resizeClearance(now, 'c1', 1, 3)).clearances[0]!;
    expect([higher.halfExtents[1], higher.center[1] - higher.halfExtents[1]]).toEqual([1.5, 0]);
    const wider = applyEdit(now, resizeClearance(now, 'c1', 0, 3)).clearances[0]!;
    expect([wider.halfExtents[0], wider.center]).toEqual([1.5, [0, 1, 0]]);
    // Turned onto its side, its own x stands upright and keeps the sill.
    const turned = {
      ...box,
      rotation: [0, 0, Math.SQRT1_2, Math.SQRT1_2] as [number, number, number, number],
    };
    const lying = applyEdit(document, addClearance(document, turned));
    expect(clearanceAxes(lying.clearances[0]!)).toEqual({ width: 1, height: 0, through: 2 });
    const taller = applyEdit(lying, resizeClearance(lying, 'c1', 0, 3)).clearances[0]!;
    expect(taller.center[1] - taller.halfExtents[0]).toBeCloseTo(0.5, 9);
  });
});

describe('the tree', () => {
  it('says what is below a node, however deep, and which transforms there are', () => {
    expect(idsBelow(document, [frame])).toEqual([frame, leaf]);
    expect([...nodesBelow(document, [leaf, sill])]).toEqual([0, 1, 1]);
    expect(idsBelow(document, ['gone'])).toEqual([]);
    expect(transformedNodes(document).map(({ id }) => id)).toEqual([leaf]);
  });

  it('knows the part with the most triangles; what is set aside is none', () => {
    expect(largestPart(document)).toBe(frame);
    const aside = {
      ...document,
      nodes: document.nodes.map((node) => ({ ...node, aside: node.id !== sill })),
    };
    expect(largestPart(aside)).toBe(sill);
    expect(largestPart({ ...document, nodes: [] })).toBeNull();
  });

  it('reports UVs a part; without any there is no density and nothing is stretched', () => {
    const reports = uvReports(document, piece.meshOf);
    expect(reports.map(({ part }) => part)).toEqual([frame, leaf, sill]);
    expect(reports[0]).toEqual({
      part: frame,
      sets: [],
      pictureTexels: null,
      vertexColours: null,
    });
    // Light is baked by the second set: here once across two metres.
    const half = (set: number) => Float32Array.of(0, 0, set, 0, 0, set);
    const flat = plainMesh([0, 0, 0, 2, 0, 0, 0, 2, 0], [0, 1, 2]);
    const { document: lit, meshOf } = pieceOf(sceneOf({ ...flat, uvs: [half(4), half(1)] }));
    const [report] = uvReports(lit, meshOf);
    expect(report!.sets.map(({ density }) => density)).toEqual([2, 0.5]);
    expect(report!.sets.map(({ outside }) => outside)).toEqual([1, 0]);
    expect(
      uvReports(lit, (id) => ({
        ...meshOf(id),
        colors: Float32Array.of(1, 1, 1, 1, 0, 0, 0, 1, 0, 1, 0, 1),
      }))[0]!.vertexColours,
    ).toEqual({ least: 0, mean: (1 + 0.7152) / 3, greatest: 1 });
  });
});
