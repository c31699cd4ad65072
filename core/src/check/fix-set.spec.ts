import { Comparer, judgeSet } from '../compare/index.js';
import type { Vec3 } from '../math/index.js';
import { joinMeshes } from '../mesh/index.js';
import {
  addProxies,
  applyEdit,
  areaFaces,
  collidingArt,
  documentFault,
  placedArt,
  type PieceDocument,
  pieceDocumentSchema,
  replaceProxies,
} from '../piece/index.js';
import { type Shape, shapeTriangles, shapeVolume } from '../shape/index.js';
import { checkRulesOf, PREFIX_TAGS } from '../target/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { FIRST_AGENTS } from './agents.js';
import { findingsOf } from './findings.js';
import { fixSet, type SetFix, withOpeningsFree } from './fix-set.js';
import { proxyFactsSchema } from './proxy-facts.js';
import { proxyKey } from './proxy-key.js';
import { setFactsOf, setKey, setOf } from './set-facts.js';

const box = (half: Vec3, center: Vec3 = [0, 0, 0]): Shape => ({
  kind: 'box',
  center,
  halfExtents: half,
  rotation: [0, 0, 0, 1],
});
const deckhand = FIRST_AGENTS.find(({ id }) => id === 'deckhand')!;
const rules = { ...checkRulesOf(PREFIX_TAGS), agent: deckhand };

/** A wall 4 wide, 3 high and 0.4 thick with a doorway 1 wide and 2 high in its middle. */
const WALL = joinMeshes([
  boxMesh([0.75, 1.5, 0.2], [-1.25, 1.5, 0]),
  boxMesh([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
  boxMesh([0.5, 0.5, 0.2], [0, 2.5, 0]),
]);
const { document: art, meshOf } = pieceOf(sceneOf(WALL));

const withShapes = (...shapes: Shape[]): PieceDocument =>
  applyEdit(art, replaceProxies(shapes.map((shape, i) => ({ id: `s${i + 1}`, shape }))));
const withDoorway = (document: PieceDocument): PieceDocument => ({
  ...document,
  clearances: [
    {
      id: 'c1',
      name: 'doorway',
      center: [0, 1, 0],
      halfExtents: [0.5, 1, 0.2],
      rotation: [0, 0, 0, 1],
      through: 'z',
    },
  ],
});

function judged(document: PieceDocument) {
  const placed = placedArt(document, meshOf);
  const comparer = new Comparer(placed.mesh);
  const toleranceMetres = deckhand.detail;
  const set = judgeSet(comparer, {
    ...setOf(document),
    partOfFace: (face) => document.nodes[placed.node[face]!]!.id,
    toleranceMetres,
  });
  const facts = setFactsOf(document, toleranceMetres, rules.takes, set);
  const measured = proxyFactsSchema.parse(
    JSON.parse(
      JSON.stringify({
        key: proxyKey(document),
        artOutside: facts.uncovered.max,
        proxyOutside: facts.excess.max,
        judged: facts,
      }),
    ),
  );
  return {
    facts,
    findings: findingsOf(document, rules, { measured }).filter(({ step }) => step === 'proxies'),
    mend: (fix: SetFix) => {
      const edit = fixSet(fix, { document, placed, comparer, toleranceMetres, maxCorners: 32 });
      return edit ? applyEdit(document, edit) : document;
    },
  };
}
const ids = (document: PieceDocument) => judged(document).findings.map(({ id }) => id);
const volumeOf = ({ proxies }: PieceDocument) =>
  proxies.reduce((sum, { shape }) => sum + shapeVolume(shape), 0);

describe('a judged set', () => {
  it('is clear when it was measured on the art as it is and lies close', () => {
    const clear = withDoorway(
      withShapes(
        box([0.75, 1.5, 0.2], [-1.25, 1.5, 0]),
        box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
        box([0.5, 0.5, 0.2], [0, 2.5, 0]),
      ),
    );
    expect(ids(clear)).toEqual([]);
  });

  it('is out of date when shapes, their owner, an opening or what is felt change', () => {
    const document = withDoorway(withShapes(box([2, 1.5, 0.2], [0, 1.5, 0])));
    const key = setKey(document, 0.04, rules.takes);
    const owned = { ...document, proxies: document.proxies.map((proxy) => ({ ...proxy, part: 'n1' })) };
    for (const [other, tolerance] of [
      [withShapes(box([2, 1.5, 0.2], [0, 1.5, 0])), 0.04],
      [owned, 0.04],
      [document, 0.01],
      [withDoorway(withShapes(box([2, 1.4, 0.2], [0, 1.5, 0]))), 0.04],
    ] as const)
      expect(setKey(other, tolerance, rules.takes)).not.toBe(key);
    expect(setKey({ ...document, meshName: 'Other' }, 0.04, rules.takes)).toBe(key);
    // What leaves is measured: where a target could replace a kind, it is another set for another target.
    expect(setKey(document, 0.04, 'elsewhere')).toBe(key);
    const ball = withShapes({ kind: 'sphere', center: [0, 1, 0], radius: 1 });
    expect(setKey(ball, 0.04, 'elsewhere')).not.toBe(setKey(ball, 0.04, rules.takes));
  });

  it('is measured against the art that is collided with alone', () => {
    const scene = sceneOf(boxMesh([1, 1, 1]));
    scene.meshes.push({ name: 'rail', mesh: boxMesh([1, 0.1, 0.1], [0, 3, 0]) });
    scene.nodes.push({ ...scene.nodes[0]!, name: 'rail', mesh: 1 });
    const railed = pieceOf(scene);
    const boxed = applyEdit(railed.document, replaceProxies([{ id: 's1', shape: box([1, 1, 1]) }]));
    const uncovered = (document: PieceDocument) => {
      const placed = collidingArt(document, placedArt(document, railed.meshOf));
      return new Comparer(placed.mesh).compare(document.proxies.map(({ shape }) => shape)).artOutside.max;
    };
    expect(uncovered(boxed)).toBeCloseTo(2.1, 6);
    const [, rail] = boxed.nodes;
    const left = applyEdit(boxed, { kind: 'set-collision', parts: [rail!.id], collides: false });
    expect(uncovered(left)).toBeLessThan(1e-9);
    expect(setKey(left, 0.04, rules.takes)).not.toBe(setKey(boxed, 0.04, rules.takes));
    expect(applyEdit(left, { kind: 'set-collision', parts: [rail!.id], collides: true }).nodes).toEqual(
      boxed.nodes,
    );
  });

  it('is measured without faces that nothing collides with, until they are counted in again', () => {
    const scene = sceneOf(joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 0.1, 0.1], [0, 3, 0])]));
    const railed = pieceOf(scene);
    const boxed = applyEdit(railed.document, replaceProxies([{ id: 's1', shape: box([1, 1, 1]) }]));
    const uncovered = (document: PieceDocument) => {
      const placed = collidingArt(document, placedArt(document, railed.meshOf));
      return new Comparer(placed.mesh).compare(document.proxies.map(({ shape }) => shape)).artOutside.max;
    };
    const part = boxed.nodes[0]!.id;
    const rail = Array.from({ length: 12 }, (_, k) => 12 + k);
    const faces = areaFaces(boxed, [{ part, faces: rail }]);
    const left = applyEdit(boxed, { kind: 'set-faces-collision', faces, collides: false });
    expect(uncovered(boxed)).toBeCloseTo(2.1, 6);
    expect(uncovered(left)).toBeLessThan(1e-9);
    expect(setKey(left, 0.04, rules.takes)).not.toBe(setKey(boxed, 0.04, rules.takes));
    expect(pieceDocumentSchema.parse(JSON.parse(JSON.stringify(left)))).toEqual(left);
    // Other art in the part: the faces are others, and count.
    const [node] = left.nodes;
    expect(uncovered({ ...left, noCollision: [{ ...faces[0]!, mesh: 'f'.repeat(64) }] })).toBeCloseTo(2.1, 6);
    expect(node!.mesh).toBe(faces[0]!.mesh);
    const some = areaFaces(boxed, [{ part, faces: rail.slice(6) }]);
    const half = applyEdit(left, { kind: 'set-faces-collision', faces: some, collides: true });
    expect(half.noCollision).toEqual(areaFaces(boxed, [{ part, faces: rail.slice(0, 6) }]));
    expect(applyEdit(half, { kind: 'set-faces-collision', faces, collides: true })).toEqual(boxed);
  });

  it('takes what stands out on purpose as it was accepted, and no farther', () => {
    const document = withShapes(
      box([0.75, 1.5, 0.3], [-1.25, 1.5, 0]),
      box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
      box([0.5, 0.5, 0.2], [0, 2.5, 0]),
    );
    const [found] = judged(document).findings;
    expect([found!.id, found!.fix!.label]).toEqual(['proxies-excess', 'Accept shape 1 as it stands']);
    const accepted = applyEdit(document, found!.fix!.edit);
    expect(accepted.proxies.map(({ acceptedExcess }) => acceptedExcess ?? null)).toEqual([0.1, null, null]);
    const { findings } = judged(accepted);
    expect(findings.map(({ id, severity }) => [id, severity])).toEqual([['excess-accepted', 'info']]);
    expect(findings[0]!.says).toBe('Shape 1 stands out of the art by up to 100.0 mm, as accepted.');
    const [first, ...others] = accepted.proxies;
    const grown = { ...first!, shape: box([0.75, 1.5, 0.31], [-1.25, 1.5, 0]) };
    expect(ids({ ...accepted, proxies: [grown, ...others] })).toEqual(['proxies-excess']);
  });

  it('finds an edge that is ridden and that no shape follows, and lays bars along it', () => {
    const corners = withShapes(
      box([0.75, 1.485, 0.2], [-1.25, 1.485, 0]),
      box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
      box([0.5, 0.5, 0.2], [0, 2.5, 0]),
    );
    const coping: PieceDocument = {
      ...corners,
      riddenEdges: [
        {
          id: 'e1',
          name: 'coping',
          line: [
            [-2, 3, 0.2],
            [2, 3, 0.2],
          ],
          sides: [
            [
              [0, -1, 0],
              [0, 0, -1],
            ],
          ],
        },
      ],
    };
    expect(ids(coping)).toEqual([]);
    const moved = { ...coping, proxies: coping.proxies.slice(1) };
    const found = judged(moved).findings.find(({ id }) => id === 'edges-bare')!;
    expect(found.says).toBe('No shape has an edge along 1.48 m of the 4.00 m of “coping”.');
    const after = judged(moved).mend(found.setFix!.fix);
    expect(after.proxies.length).toBe(3);
    expect(ids(after)).not.toContain('edges-bare');
    expect(setKey(moved, 0.04, rules.takes)).not.toBe(
      setKey({ ...moved, riddenEdges: [] }, 0.04, rules.takes),
    );
  });

  it('a million metres away, of no size or one micron thin gives figures that can be kept, or is refused', () => {
    const far = judged(withShapes(box([1, 1, 1], [1e6, 0, 0])));
    expect(far.findings.map(({ id }) => id)).toContain('shapes-away');
    expect(Object.values(far.facts.excess).flat().every(Number.isFinite)).toBeTrue();
    expect(far.findings.find(({ id }) => id === 'shapes-away')!.says).toContain('999,997');
    const thin = judged(withShapes(box([1e-6, 1, 1])));
    expect(thin.facts.overfill).toBeLessThan(1e-5);
    const none = { ...art, proxies: [{ id: 's1', shape: box([0, 1, 1]) }] };
    expect(documentFault(none, art)?.path).toContain('halfExtents');
  });

  it('cuts a box over a doorway into what is beside it and above', () => {
    const document = withDoorway(withShapes(box([2, 1.5, 0.2], [0, 1.5, 0])));
    const { findings, mend } = judged(document);
    expect(findings.map(({ id }) => id)).toEqual(['opening-blocked', 'proxies-excess']);
    expect(findings[0]!.says).toBe('1 opening is blocked: “doorway”. Shape 1 goes in by 400.0 mm.');
    expect(findings[0]!.setFix!.label).toBe('Cut shape 1 back, out of “doorway”');
    const after = mend(findings[0]!.setFix!.fix);
    expect(after.proxies.length).toBe(3);
    expect(volumeOf(after)).toBeCloseTo(0.4 * (12 - 2), 9);
    expect(ids(after)).toEqual([]);
  });

  it('does not cut all shapes away for an opening round the whole piece, and says so', () => {
    const document = withShapes(box([2, 1.5, 0.2], [0, 1.5, 0]));
    const around = { ...withDoorway(document).clearances[0]!, halfExtents: [9, 9, 9] as Vec3 };
    const { findings, mend } = judged({ ...document, clearances: [around] });
    expect(findings.some(({ id }) => id === 'opening-blocked')).toBeTrue();
    expect(() => mend({ fix: 'cut-back' })).toThrowError(/none would be left; make them smaller/);
  });

  it('leaves no sheet across an opening, before or behind it', () => {
    const document = withDoorway(withShapes(box([2, 1.5, 0.24], [0, 1.5, 0])));
    const after = judged(document).mend({ fix: 'cut-back' });
    expect(after.proxies.length).toBe(3);
    expect(volumeOf(after)).toBeCloseTo(0.48 * (12 - 2), 9);
  });

  it('cuts a jamb back that goes into the doorway by a hand, and keeps it one shape', () => {
    const document = withDoorway(
      withShapes(
        box([0.769, 1.5, 0.2], [-1.231, 1.5, 0]),
        box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
        box([0.5, 0.5, 0.2], [0, 2.5, 0]),
      ),
    );
    const { findings, mend } = judged(document);
    const blocked = findings.find(({ id }) => id === 'opening-blocked')!;
    expect(blocked.says).toContain('Shape 1 goes in by 38.0 mm.');
    const after = mend(blocked.setFix!.fix);
    expect(after.proxies.length).toBe(3);
    expect(after.proxies[0]!.shape).toEqual(box([0.75, 1.5, 0.2], [-1.25, 1.5, 0]));
  });

  it('wraps what is bare, away from the opening, and removes what lies away from all art', () => {
    const document = withDoorway(
      withShapes(box([0.75, 1.5, 0.2], [-1.25, 1.5, 0]), box([0.1, 0.1, 0.1], [9, 1, 0])),
    );
    const { findings, mend } = judged(document);
    expect(findings.map(({ id }) => id)).toEqual(['proxies-bare', 'proxies-excess', 'shapes-away']);
    expect(findings[0]!.says).toMatch(
      /^2 areas of the art are bare, the largest 1\d\.\d+ m²; the art stands out by up to 2\.5/,
    );
    const wrapped = mend(findings[0]!.setFix!.fix);
    expect(wrapped.proxies.length).toBe(4);
    const cleared = applyEdit(wrapped, findings[2]!.fix!.edit);
    expect(ids(cleared)).toEqual([]);
  });

  it('trims pairs that go into each other, and then they meet', () => {
    const document = withShapes(
      box([0.75, 1.5, 0.2], [-1.25, 1.5, 0]),
      box([0.6, 0.5, 0.2], [0, 2.5, 0]),
      box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
    );
    const { findings, mend } = judged(document);
    expect(findings.map(({ severity }) => severity)).toEqual(['info']);
    expect(findings[0]!.says).toBe(
      '2 pairs of shapes go into each other, 1 and 2 by 100.0 mm; together they share 0.0800 m³.',
    );
    const after = mend(findings[0]!.setFix!.fix);
    expect(judged(after).facts.crossingCount).toBe(0);
    expect(volumeOf(after)).toBeCloseTo(0.4 * 10, 9);
  });

  it('refits shapes to the art that is theirs, and leaves those that lie close', () => {
    const document = withShapes(
      box([0.8, 1.6, 0.25], [-1.2, 1.5, 0]),
      box([0.75, 1.5, 0.2], [1.25, 1.5, 0]),
      box([0.5, 0.5, 0.2], [0, 2.5, 0]),
    );
    const { findings, mend } = judged(document);
    const off = findings.find(({ id }) => id === 'proxies-excess')!;
    expect(off.shapes).toEqual(['s1']);
    const after = mend(off.setFix!.fix);
    const [first, second] = after.proxies;
    expect(second).toBe(document.proxies[1]!);
    expect(shapeVolume(first!.shape)).toBeCloseTo(1.5 * 3 * 0.4, 6);
    expect(ids(after)).toEqual([]);
  });

  it('is added to without closing an opening: what is made is cut back out of it, what was there is left alone', () => {
    const whole = box([2, 1.5, 0.2], [0, 1.5, 0]);
    const before = withDoorway(withShapes(box([0.1, 0.1, 0.1], [0, 0.5, 0])));
    const placed = placedArt(before, meshOf);
    const input = {
      document: before,
      placed,
      comparer: new Comparer(placed.mesh),
      toleranceMetres: 0.04,
      maxCorners: 32,
    };
    const edit = withOpeningsFree(addProxies(before, [whole]), input);
    const after = applyEdit(before, edit);
    const [kept, ...made] = after.proxies;
    expect(kept).toBe(before.proxies[0]!);
    expect(made.length).toBe(3);
    expect(made.reduce((sum, { shape }) => sum + shapeVolume(shape), 0)).toBeCloseTo(
      4 * 3 * 0.4 - 1 * 2 * 0.4,
      6,
    );
    expect(judged({ ...after, proxies: made }).facts.blocked).toEqual([]);
    const wrapped = withOpeningsFree({ ...replaceProxies([{ id: 'all', shape: whole }]) }, input);
    expect(applyEdit(before, wrapped).proxies.length).toBe(3);
    const beside = addProxies(before, [box([0.5, 1, 0.2], [1.4, 1.5, 0])]);
    expect(withOpeningsFree(beside, input)).toBe(beside);
    expect(() => withOpeningsFree(addProxies(before, [box([0.1, 0.1, 0.1], [0, 1, 0])]), input)).toThrowError(
      /opening holds all of it/,
    );
  });

  it('offers to fit solids anew, not surfaces', () => {
    const { points, indices } = shapeTriangles(box([2, 1.5, 0.3], [0, 1.5, 0]));
    const surface: Shape = { kind: 'surface', points: [...points], indices: [...indices] };
    const fixes = (...shapes: Shape[]) =>
      judged(withShapes(...shapes)).findings.find(({ id }) => id === 'proxies-excess')!.setFix;
    expect(fixes(surface)).toBeUndefined();
    expect(fixes(surface, box([2, 1.5, 0.3], [0, 1.5, 0]))!.fix).toEqual({ fix: 'refit', shapes: ['s2'] });
  });
});
