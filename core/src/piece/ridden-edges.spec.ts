import fc from 'fast-check';
import { edgesAlong } from '../compare/index.js';
import { barsAlong } from '../decompose/index.js';
import { distance, rotate, type Vec3 } from '../math/index.js';
import { edgeLine, edgeRun, faceNeighbours, type Mesh, meantSide, plainMesh, weld } from '../mesh/index.js';
import { type Shape, shapeVolume } from '../shape/index.js';
import { pieceOf } from '../testing/documents.js';
import { turn } from '../testing/shapes.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { pieceDocumentSchema } from './document.js';
import { applyEdit } from './edits/index.js';
import { markRidden } from './ridden-edges.js';

const box = (halfExtents: Vec3, center: Vec3 = [0, 0, 0]): Shape => ({
  kind: 'box',
  center,
  halfExtents,
  rotation: [0, 0, 0, 1],
});

/** The run that a click near an edge of a mesh marks. */
function marked(mesh: Mesh, at: Vec3, tolerance = 0.005) {
  const joined = weld(mesh.positions);
  const faces = mesh.indices.length / 3;
  const middle = (f: number): Vec3 =>
    [0, 1, 2].map(
      (k) => [0, 1, 2].reduce((sum, c) => sum + mesh.positions[mesh.indices[f * 3 + c]! * 3 + k]!, 0) / 3,
    ) as Vec3;
  const nearest = Array.from({ length: faces }, (_, f) => f).sort(
    (a, b) => distance(middle(a), at) - distance(middle(b), at),
  )[0]!;
  const neighbours = faceNeighbours(mesh, joined);
  const { sides } = edgeRun(mesh, neighbours, joined.remap, meantSide(mesh, neighbours, nearest, at));
  return edgeLine(mesh, sides, tolerance);
}

/** A quarter of a ring, 4 m in radius, 0.3 by 0.3 m: its upper outer edge is ridden. */
const quarterRing = (pieces: number): Mesh => {
  const points: number[] = [];
  const triangles: number[] = [];
  for (let i = 0; i <= pieces; i++) {
    const angle = (Math.PI / 2) * (i / pieces);
    for (const [radius, y] of [
      [4, 0.3],
      [4, 0],
      [3.7, 0],
      [3.7, 0.3],
    ] as const)
      points.push(radius * Math.cos(angle), y, radius * Math.sin(angle));
  }
  const quad = (a: number, b: number, c: number, d: number) => triangles.push(a, b, c, a, c, d);
  for (let i = 0; i < pieces; i++)
    for (let k = 0; k < 4; k++)
      quad(i * 4 + k, i * 4 + ((k + 1) % 4), (i + 1) * 4 + ((k + 1) % 4), (i + 1) * 4 + k);
  quad(0, 3, 2, 1);
  quad(pieces * 4, pieces * 4 + 1, pieces * 4 + 2, pieces * 4 + 3);
  return plainMesh(points, triangles);
};

/** The middle of the upper outer edge of its first piece. */
const onRing = (pieces: number): Vec3 => {
  const angle = Math.PI / 4 / pieces;
  const radius = 4 * Math.cos(angle);
  return [radius * Math.cos(angle), 0.3, radius * Math.sin(angle)];
};

describe('edges that are ridden', () => {
  it('are followed from end to end, straight where they bend by less than the tolerance', () => {
    const ring = quarterRing(48);
    const [fine, coarse] = [0.0001, 0.02].map((tolerance) => marked(ring, onRing(48), tolerance)!) as [
      ReturnType<typeof edgeLine>,
      ReturnType<typeof edgeLine>,
    ];
    expect(fine!.line.length).toBe(49);
    expect(coarse!.line.length).toBeLessThan(12);
    expect(coarse!.sides.length).toBe(coarse!.line.length - 1);
    for (const place of coarse!.line) expect(Math.hypot(place[0], place[2])).toBeCloseTo(4, 9);
    // One way goes in, the other down.
    for (const sides of coarse!.sides) {
      expect(Math.min(...sides.map(([, y]) => y))).toBeCloseTo(-1, 2);
      expect(Math.max(...sides.map(([x, , z]) => Math.hypot(x, z)))).toBeCloseTo(1, 2);
    }
    expect(edgeLine(ring, [], 0.01)).toBeNull();
    // Three sides of a triangle close; sides that lie apart are no run.
    expect(edgeLine(boxMesh([1, 1, 1]), [0, 1, 2], 0)!.line.length).toBe(4);
    const apart = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0, 5, 0, 0, 6, 0, 0, 5, 1, 0], [0, 1, 2, 3, 4, 5]);
    expect(edgeLine(apart, [0, 3], 0)).toBeNull();
  });

  it('are meant by a click on a face beside them, though a side that is no edge lies nearer', () => {
    // Near the diagonal of a face's two triangles, and nearer to it than to the edge.
    const cube = boxMesh([1, 1, 1]);
    const line = marked(cube, [0.05, 1, 0.02])!.line;
    expect(line.length).toBe(2);
    expect(distance(line[0]!, line[1]!)).toBeCloseTo(2, 9);
  });

  it('are followed by the edge of a box on them, and by none that is off, bevelled or round', () => {
    const line: Vec3[] = [
      [-1, 1, 1],
      [1, 1, 1],
    ];
    const along = (...shapes: Shape[]) => edgesAlong([{ id: 'e1', line }], shapes, 0.01)[0]!;
    expect(along(box([1, 1, 1]))).toEqual(jasmine.objectContaining({ length: 2, bare: 0 }));
    expect(along(box([1, 1, 1], [1, 0, 0])).bare).toBeCloseTo(1, 1);
    expect(along(box([1, 1.05, 1])).off).toBeCloseTo(0.05, 9);
    expect(along(box([1, 1.05, 1])).bare).toBeCloseTo(2, 9);
    expect(along({ kind: 'sphere', center: [0, 0, 0], radius: Math.SQRT2 }).off).toBeNull();
    expect(along().bare).toBeCloseTo(2, 9);
    expect(edgesAlong([], [box([1, 1, 1])], 0.01)).toEqual([]);
  });

  it('get bars under them that have an edge along them, lie in the art and meet, however it is turned', () => {
    fc.assert(
      fc.property(turn, fc.integer({ min: 2, max: 10 }), (rotation, pieces) => {
        const ring = quarterRing(pieces);
        for (let i = 0; i < ring.positions.length; i += 3)
          ring.positions.set(
            rotate(rotation, [ring.positions[i]!, ring.positions[i + 1]!, ring.positions[i + 2]!]),
            i,
          );
        const edge = marked(ring, rotate(rotation, onRing(pieces)), 0)!;
        const bars = barsAlong(ring, edge, { minMetres: 0.02, maxMetres: 0.1 });
        expect(bars.length).toBe(edge.line.length - 1);
        const [along] = edgesAlong([{ id: 'e1', line: edge.line }], bars, 0.001);
        expect(along!.bare).toBe(0);
        expect(along!.off!).toBeLessThan(1e-9);
        // Mitred on the inside of the bend: a little less than the section times the length.
        const volume = bars.reduce((sum, bar) => sum + shapeVolume(bar), 0);
        expect(volume / (0.01 * along!.length)).toBeGreaterThan(0.95);
        expect(volume / (0.01 * along!.length)).toBeLessThan(1 + 1e-9);
      }),
      { numRuns: 25 },
    );
  });

  it('are no deeper than the art, and refuse what has no depth or turns back', () => {
    const plank = boxMesh([1, 0.01, 1]);
    const edge = marked(plank, [0, 0.01, 0.99])!;
    expect(shapeVolume(barsAlong(plank, edge, { minMetres: 0.005, maxMetres: 0.2 })[0]!)).toBeCloseTo(
      2 * 0.02 * 0.2,
      6,
    );
    const back = {
      line: [
        [0, 0, 0],
        [1, 0, 0],
        [0, 0, 0],
      ] as Vec3[],
      sides: [edge.sides[0]!, edge.sides[0]!],
    };
    expect(() => barsAlong(plank, back, { minMetres: 0.01, maxMetres: 0.1 })).toThrowError(
      /turns back on itself/,
    );
    const flat = { line: edge.line, sides: [[edge.sides[0]![0], edge.sides[0]![0]] as [Vec3, Vec3]] };
    expect(() => barsAlong(plank, flat, { minMetres: 0.01, maxMetres: 0.1 })).toThrowError(
      /lie in one plane/,
    );
  });

  it('are kept with the piece, turn and grow with it, and keep their ids apart', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const line = marked(boxMesh([1, 1, 1]), [0, 1, 0.9])!;
    const once = applyEdit(document, markRidden(document, line));
    const twice = applyEdit(once, markRidden(once, line));
    expect(twice.riddenEdges.map(({ id }) => id)).toEqual(['e1', 'e2']);
    expect(pieceDocumentSchema.parse(JSON.parse(JSON.stringify(twice)))).toEqual(twice);
    const grown = applyEdit(once, { kind: 'resize', factor: 2, about: [0, 0, 0] });
    expect(distance(...(grown.riddenEdges[0]!.line as [Vec3, Vec3]))).toBeCloseTo(4, 9);
    const left = applyEdit(twice, { kind: 'set-ridden-edges', changed: [], removed: ['e1'] });
    expect(left.riddenEdges.map(({ id }) => id)).toEqual(['e2']);
  });
});
