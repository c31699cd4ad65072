import fc from 'fast-check';
import { validateBytes } from 'gltf-validator';
import { memoryFile, readFile, writeGlb } from '../format/index.js';
import { add, boundsOf, type Quat, rotate, type Vec3 } from '../math/index.js';
import { joinMeshes, plainMesh } from '../mesh/index.js';
import {
  applyEdit,
  artMesh,
  type PieceDocument,
  plainMaterial,
  plainNode,
  type Scene,
  pivotEdit,
  replaceProxies,
} from '../piece/index.js';
import type { Shape } from '../shape/index.js';
import { wrap } from '../decompose/index.js';
import { pieceOf } from '../testing/documents.js';
import { ballMesh, boxMesh, moved, sceneOf, threeParts } from '../testing/meshes.js';
import { assemble, AssembleError } from './assemble.js';
import type { DeliveryChoices } from './choices.js';
import { manifestOf, manifestSchema } from './manifest.js';
import { planDelivery } from './plan.js';
import { expectationOf } from './expectation.js';
import { targetProfileSchema } from './profile.js';
import { PREFIX_TAGS, PROFILES } from './profiles/index.js';
import {
  agreesInAll,
  compareReadBack,
  readBack,
  readBackSchema,
  substitutionsIn,
} from './read-back/index.js';

const withShapes = (document: PieceDocument, shapes: Shape[]) =>
  applyEdit(document, replaceProxies(shapes.map((shape, i) => ({ id: `s${i}`, shape }))));
const number = fc.double({ min: -20, max: 20, noNaN: true });
const turn = fc
  .tuple(number, number, number, fc.double({ min: 1, max: 20, noNaN: true }))
  .map((q) => q.map((v) => v / Math.hypot(...q)) as Quat);
const size = fc.double({ min: 0.05, max: 3, noNaN: true });
const place = fc.tuple(number, number, number);
const shape: fc.Arbitrary<Shape> = fc.oneof(
  fc.record({
    kind: fc.constant('box' as const),
    center: place,
    rotation: turn,
    halfExtents: fc.tuple(size, size, size),
  }),
  fc.record({ kind: fc.constant('sphere' as const), center: place, radius: size }),
  fc.record({
    kind: fc.constant('capsule' as const),
    center: place,
    rotation: turn,
    radius: size,
    halfLength: size,
  }),
  fc.record({
    kind: fc.constant('cylinder' as const),
    center: place,
    rotation: turn,
    bottomRadius: size,
    topRadius: size,
    halfHeight: size,
  }),
  place.map((at): Shape => wrap(moved(ballMesh(0.8, [0, 0, 0], 8), at), { kind: 'hull' }).shapes[0]!),
);

describe('a read-back', () => {
  const sceneWith = (nodes: Scene['nodes']): Scene => ({
    ...sceneOf(boxMesh([1, 1, 1])),
    nodes,
  });

  it('takes in what the nodes above do to a mesh and its shapes', async () => {
    const scene = sceneWith([
      { ...plainNode('root', null), translation: [5, 0, 0], scale: [2, 2, 2] },
      plainNode('Crate', 0, 0),
      plainNode('UBX_Crate_01', 0, 0),
    ]);
    const report = await readBack([{ name: 'Crate.glb', bytes: await writeGlb(scene) }], PREFIX_TAGS);
    expect(report.meshes[0]).toEqual(
      jasmine.objectContaining({ position: [5, 0, 0], scale: [2, 2, 2], min: [-2, -2, -2] }),
    );
    expect([report.shapes[0]!.min, report.shapes[0]!.volume]).toEqual([[3, -2, -2], jasmine.any(Number)]);
    expect(report.shapes[0]!.volume).toBeCloseTo(64, 6);
    expect(report.changed.some(({ how }) => how.includes('its parents move'))).toBeTrue();
  });

  it('never calls a box that was made up as drawn', async () => {
    const { document, ...sources } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const report = await readBack(await assemble(document, PREFIX_TAGS, sources), PREFIX_TAGS);
    const comparison = compareReadBack(expectationOf(document, PREFIX_TAGS), report);
    expect(agreesInAll(comparison)).toBeFalse();
    expect(comparison.find(({ agrees }) => !agrees)!.found).toContain('made up');
  });
});

describe('the import sheet', () => {
  it('shows names as they are, whatever they hold', async () => {
    const scene = sceneOf(boxMesh([1, 1, 1]));
    scene.materials = [{ ...plainMaterial('oak ` <b>') }];
    scene.meshes[0]!.mesh.groups = [{ material: 0, start: 0, count: 12 }];
    const { document, ...sources } = pieceOf(scene);
    const named = applyEdit(document, { kind: 'rename-piece', name: '# <img src=x> [a](b) *c*' });
    const files = await assemble(named, PREFIX_TAGS, sources);
    const sheet = new TextDecoder().decode(files.find(({ name }) => name.endsWith('.md'))!.bytes);
    expect(sheet).toContain('“\\# \\<img src=x\\> \\[a\\]\\(b\\) \\*c\\*”');
    expect(sheet).toContain('- Slot 0, `` oak ` <b> ``:');
  });

  it('bears the tracking code and the note, as the manifest does, and neither where there is none', async () => {
    const { document, ...sources } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const papers = async (choices: DeliveryChoices) => {
      const files = await assemble(document, PREFIX_TAGS, { ...sources, choices });
      const text = (ending: string) =>
        new TextDecoder().decode(files.find(({ name }) => name.endsWith(ending))!.bytes);
      return { sheet: text('.md'), manifest: manifestSchema.parse(JSON.parse(text('.json'))) };
    };
    const { sheet, manifest } = await papers({ code: 'SG-07', note: 'Old leaf.\nUse *this* one.' });
    expect(sheet).toContain('Tracking code `SG-07`.');
    expect(sheet).toContain('> Old leaf\\.\n> Use \\*this\\* one\\.');
    expect([manifest.code, manifest.note]).toEqual(['SG-07', 'Old leaf.\nUse *this* one.']);
    const without = await papers({});
    expect(without.sheet).not.toContain('Tracking');
    expect('code' in without.manifest || 'note' in without.manifest).toBeFalse();
  });
});

describe('the shipped profiles', () => {
  for (const profile of PROFILES)
    it(`${profile.id} passes its schema`, () => expect(targetProfileSchema.parse(profile)).toEqual(profile));
});

describe('a delivery for prefix tags', () => {
  it('reads back as what was drawn, for any shapes, pivot and unit', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(shape, { minLength: 1, maxLength: 5 }),
        place,
        fc.constantFrom('m', 'cm', 'in'),
        async (shapes, position, unit) => {
          const { document, ...sources } = pieceOf({
            ...sceneOf(threeParts()),
            unit: { metres: 1, stated: false },
          });
          let piece = applyEdit(document, { kind: 'set-unit', unit: unit as 'm' });
          piece = applyEdit(withShapes(piece, shapes), pivotEdit('numeric', position));
          const files = await assemble(piece, PREFIX_TAGS, sources);
          const report = readBackSchema.parse(await readBack(files, PREFIX_TAGS));
          const comparison = compareReadBack(expectationOf(piece, PREFIX_TAGS), report);
          expect(comparison.filter((point) => !point.agrees && !point.substituted)).toEqual([]);
          expect(agreesInAll(comparison)).toBeTrue();
          // A cylinder leaves as a prism of its volume, and that is said, never called the same.
          const round = shapes.filter(({ kind }) => kind === 'cylinder').length;
          expect(comparison.filter(({ point, agrees }) => / kind$/.test(point) && !agrees).length).toBe(
            round,
          );
          expect(substitutionsIn(comparison).length).toBeGreaterThanOrEqual(round);
          expect(report.ignored).toEqual([]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is a valid GLB, bakes mirrors and scales, names every shape, and is the same every time', async () => {
    const scene: Scene = {
      ...sceneOf(boxMesh([100, 50, 20])),
      nodes: [
        { ...plainNode('a', null), scale: [0.01, 0.01, 0.01] },
        { ...plainNode('b', 0, 0), scale: [-1, 1, 1], translation: [300, 0, 0] },
      ],
    };
    const { document, ...sources } = pieceOf(scene, 'quay wall 2.obj');
    const piece = withShapes(
      applyEdit(document, pivotEdit('base-centre', [3, -0.5, 0])),
      wrap(moved(boxMesh([1, 0.5, 0.2]), [3, 0, 0]), { kind: 'box' }).shapes,
    );
    const files = await assemble(piece, PREFIX_TAGS, sources);
    expect(files.map((file) => file.name)).toEqual([
      'QuayWall_02.glb',
      'QuayWall_02.manifest.json',
      'QuayWall_02.import.md',
    ]);
    const validity = await validateBytes(files[0]!.bytes);
    expect(validity.issues.numErrors).withContext(JSON.stringify(validity.issues.messages)).toBe(0);
    const report = await readBack(files, PREFIX_TAGS);
    expect(report.meshes[0]).toEqual(
      jasmine.objectContaining({
        name: 'QuayWall_02',
        scale: [1, 1, 1],
        position: [0, 0, 0],
        rotated: false,
      }),
    );
    expect(report.shapes.map(({ name, kind }) => [name, kind])).toEqual([['UBX_QuayWall_02_01', 'box']]);
    expect(agreesInAll(compareReadBack(expectationOf(piece, PREFIX_TAGS), report))).toBeTrue();
    expect(await assemble(piece, PREFIX_TAGS, sources)).toEqual(files);
    const manifest = JSON.parse(new TextDecoder().decode(files[1]!.bytes));
    expect(manifest.pivot.position).toEqual([3, -0.5, 0]);
    expect(
      manifest.hierarchy.map((node: { name: string; parent: number | null }) => [node.name, node.parent]),
    ).toEqual([
      ['a', null],
      ['b', 0],
    ]);
    expect(new TextDecoder().decode(files[2]!.bytes)).toContain('200.00 × 40.00 × 100.00 cm');
  });

  it('leaves with what its shapes do, where that was said', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const box = {
      kind: 'box' as const,
      center: [0, 0, 0] as Vec3,
      halfExtents: [1, 1, 1] as Vec3,
      rotation: [0, 0, 0, 1] as Quat,
    };
    const piece = applyEdit(
      document,
      replaceProxies([
        {
          id: 'a',
          shape: box,
          role: 'animated',
          surface: 'wet stone',
          response: 'blocks all',
          density: 2600,
        },
        { id: 'b', shape: box },
      ]),
    );
    const { proxies } = manifestSchema.parse(manifestOf(planDelivery(piece, PREFIX_TAGS), []));
    expect(proxies[0]).toEqual(
      jasmine.objectContaining({
        role: 'animated',
        surface: 'wet stone',
        response: 'blocks all',
        kilogramsPerCubicMetre: 2600,
      }),
    );
    expect(Object.keys(proxies[1]!)).toEqual(['name', 'owner', 'kind', 'cubicMetres']);
  });

  it('does not leave with a name the target drops', async () => {
    const { document, ...sources } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    await expectAsync(
      assemble(applyEdit(document, { kind: 'rename-mesh', name: 'a b' }), PREFIX_TAGS, sources),
    ).toBeRejectedWithError(AssembleError, /a space.*step 6/);
    const long = applyEdit(document, { kind: 'rename-mesh', name: 'x'.repeat(62) });
    const box: Shape = { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] };
    expect((await assemble(long, PREFIX_TAGS, sources))[0]!.name).toBe(`${'x'.repeat(62)}.glb`);
    await expectAsync(assemble(withShapes(long, [box]), PREFIX_TAGS, sources)).toBeRejectedWithError(
      AssembleError,
      /names of its shapes come to 69.*takes 64/,
    );
  });
});

describe('read-back is as strict as importers', () => {
  const box = boxMesh([1, 1, 1]);
  const imported = async (
    ...nodes: [string, ReturnType<typeof boxMesh>, Partial<Scene['nodes'][number]>?][]
  ) => {
    const scene: Scene = {
      ...sceneOf(box),
      nodes: [
        plainNode('Post', 0),
        ...nodes.map(([name, , change], i) => ({ ...plainNode(name, i + 1), ...change })),
      ],
      meshes: [{ name: 'Post', mesh: box }, ...nodes.map(([name, mesh]) => ({ name, mesh }))],
    };
    return readBack([{ name: 'Post.glb', bytes: await writeGlb(scene) }], PREFIX_TAGS);
  };
  const whatHappened = (report: Awaited<ReturnType<typeof imported>>) =>
    [
      ...report.changed.map((c) => `${c.name}: ${c.how}`),
      ...report.ignored.map((i) => `${i.name}: ${i.why}`),
    ].join('\n');

  it('takes only the exact name', async () => {
    for (const name of ['UCX_Posts_01', 'UCX_', 'UCX_Post_1a', 'ucx_Post_01', 'UCX_post_01']) {
      const report = await imported([name, box]);
      expect(report.meshes.map((mesh) => mesh.name))
        .withContext(name)
        .toContain(name);
      expect(report.shapes).withContext(name).toEqual([]);
      expect(whatHappened(report)).withContext(name).toContain('visible mesh');
    }
  });

  it('drops the second of two shapes with one name', async () => {
    const report = await imported(['UCX_Post_01', box], ['UCX_Post_01', box]);
    expect(report.shapes.length).toBe(1);
    expect(whatHappened(report)).toContain('the second is dropped');
  });

  it('fills a shape that caves in and says by how much', async () => {
    const ell = joinMeshes([boxMesh([1, 1, 1]), boxMesh([1, 1, 1], [4, 0, 0])]);
    const report = await imported(['UCX_Post_01', ell]);
    expect(report.shapes[0]!.filled).toBeCloseTo(8, 4);
    expect(whatHappened(report)).toContain('8.00 m³ were filled');
  });

  it('refuses open and flat shapes', async () => {
    const report = await imported(
      [
        'UCX_Post_01',
        { ...box, indices: box.indices.slice(3), groups: [{ material: -1, start: 0, count: 11 }] },
      ],
      ['UCX_Post_02', plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0], [0, 1, 2, 0, 2, 1])],
    );
    expect(report.shapes).toEqual([]);
    expect(whatHappened(report)).toMatch(
      /UCX_Post_01: the shape is open along 3 edges[\s\S]*UCX_Post_02: the shape is flat/,
    );
  });

  it('takes a primitive that is none for a hull', async () => {
    for (const [tag, mesh] of [
      ['UBX', ballMesh(1)],
      ['USP', box],
      ['UCP', box],
    ] as const) {
      const report = await imported([`${tag}_Post_01`, mesh]);
      expect(report.shapes.map((s) => s.kind)).toEqual(['hull']);
      expect(whatHappened(report)).toContain('treated as a hull');
    }
  });

  it('reduces a hull to the limit and says what that costs', async () => {
    const report = await imported(['UCX_Post_01', ballMesh(1, [0, 0, 0], 48)]);
    expect(report.shapes[0]!.corners).toBe(PREFIX_TAGS.solids.maxHullVertices);
    expect(report.shapes[0]!.cutBack).toBeGreaterThan(0);
    expect(whatHappened(report)).toMatch(/corners were reduced to 255, up to [\d.]+ mm short/);
  });

  it('keeps a scale and a rotation and reports both, and makes up a box where no shape arrives', async () => {
    const report = await imported([
      'Other',
      box,
      { scale: [2, 1, 1], rotation: [Math.SQRT1_2, 0, 0, Math.SQRT1_2] },
    ]);
    expect(whatHappened(report)).toContain('its node scale of 2.00, 1.00, 1.00 is kept');
    expect(whatHappened(report)).toContain('a rotation is left on its root node');
    expect(report.meshes.map((mesh) => mesh.madeUpBox)).toEqual([true, true]);
    expect(report.meshes[1]!.max[0]).toBeCloseTo(2, 6);
  });

  it('a changed delivery does not agree', async () => {
    const { document, ...sources } = pieceOf(sceneOf(threeParts()));
    const piece = withShapes(document, wrap(threeParts(), { kind: 'hull', per: 'shell' }).shapes);
    const report = await readBack(await assemble(piece, PREFIX_TAGS, sources), PREFIX_TAGS);
    const wrong = applyEdit(piece, pivotEdit('numeric', [0, 0.001, 0]));
    const points = compareReadBack(expectationOf(wrong, PREFIX_TAGS), report).filter(
      (point) => !point.agrees,
    );
    expect(points.map((point) => point.point)).toContain('pivot, from the lowest corner');
    const fewer = compareReadBack(expectationOf(withShapes(piece, []), PREFIX_TAGS), report);
    expect(fewer.filter((point) => !point.agrees).length).toBe(4);
  });
});

describe('parts that leave each on its own pivot', () => {
  it('stand at the origin, and the manifest puts the whole together again', async () => {
    const leaf = moved(boxMesh([1, 0.5, 0.1]), [3, 1, 2]);
    const scene: Scene = {
      ...sceneOf(boxMesh([0.2, 1, 0.2])),
      nodes: [
        { ...plainNode('Post', 0), scale: [2, 1, 2] },
        {
          ...plainNode('Leaf', 1, 0),
          rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2],
          translation: [0.5, 0, 0],
        },
      ],
      meshes: [
        { name: 'Post', mesh: boxMesh([0.2, 1, 0.2]) },
        { name: 'Leaf', mesh: leaf },
      ],
    };
    const { document, ...sources } = pieceOf(scene);
    let piece = applyEdit(document, { kind: 'set-leaves', leaves: 'each-part' });
    const turned: Quat = [0, Math.sin(0.4), 0, Math.cos(0.4)];
    piece = applyEdit(piece, {
      kind: 'set-pivots',
      pivots: [
        {
          part: 'n2',
          pivot: {
            anchor: 'hinge',
            position: [5, 1, -4],
            rotation: turned,
            locked: false,
            hinge: { axis: [0, 1, 0], opens: [0, 90] },
          },
        },
      ],
    });
    piece = withShapes(
      piece,
      wrap(artMesh(piece, sources.meshOf), { kind: 'smallest-box', per: 'shell' }).shapes,
    );
    const files = await assemble(piece, PREFIX_TAGS, sources);
    expect(files.map(({ name }) => name)).toEqual([
      'Post.glb',
      'Leaf.glb',
      'Thing.manifest.json',
      'Thing.import.md',
    ]);
    const report = await readBack(files, PREFIX_TAGS);
    expect(report.shapes.map(({ name }) => name)).toEqual(['UBX_Post_01', 'UBX_Leaf_01']);
    const comparison = compareReadBack(expectationOf(piece, PREFIX_TAGS, sources.meshOf), report);
    expect(comparison.filter((point) => !point.agrees)).toEqual([]);
    // Put together from nothing but the delivered bytes.
    const { meshes } = JSON.parse(new TextDecoder().decode(files[2]!.bytes));
    const whole = artMesh(piece, sources.meshOf);
    const stood = boundsOf(whole.positions);
    const back: number[] = [];
    for (const [i, { file, position, rotation: turn }] of meshes.entries()) {
      expect(file).toBe(files[i]!.name);
      const delivered = await readFile(memoryFile(file, files[i]!.bytes));
      const mesh =
        delivered.meshes[delivered.nodes.find((node) => !node.name.startsWith('UBX_'))!.mesh!]!.mesh;
      for (let v = 0; v < mesh.positions.length; v += 3)
        back.push(
          ...add(
            rotate(turn, [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!]),
            position,
          ),
        );
    }
    const again = boundsOf(back);
    for (let k = 0; k < 3; k++) {
      expect(Math.abs(again.min[k]! - stood.min[k]!)).toBeLessThan(1e-6 * 10);
      expect(Math.abs(again.max[k]! - stood.max[k]!)).toBeLessThan(1e-6 * 10);
    }
  });
});
