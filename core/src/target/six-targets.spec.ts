import fc from 'fast-check';
import { validateBytes } from 'gltf-validator';
import { memoryFile, readFile } from '../format/index.js';
import { joinMeshes } from '../mesh/index.js';
import {
  applyEdit,
  type PieceDocument,
  plainMaterial,
  plainNode,
  pivotEdit,
  type Proxy,
  replaceProxies,
  type Scene,
} from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, moved, sceneOf } from '../testing/meshes.js';
import { anyShape, place, turn } from '../testing/shapes.js';
import { assemble } from './assemble.js';
import type { DeliveryChoices } from './choices.js';
import { expectationOf } from './expectation.js';
import { type Container, targetProfileSchema, type TargetProfile } from './profile.js';
import { PROFILES, PROXY_NODES, SUFFIX_TAGS, TWIN_FILE } from './profiles/index.js';
import { agreesInAll, compareReadBack, readBack, readBackSchema } from './read-back/index.js';

/** Three parts, one below another, turned and mirrored; two materials on the first. */
function gate(): Scene {
  const two = joinMeshes([
    { ...boxMesh([0.1, 1, 0.1]), groups: [{ material: 0, start: 0, count: 12 }] },
    { ...moved(boxMesh([0.1, 1, 0.1]), [2, 0, 0]), groups: [{ material: 1, start: 0, count: 12 }] },
  ]);
  return {
    ...sceneOf(boxMesh([1, 1, 1])),
    materials: [plainMaterial('oak'), plainMaterial('tarred_iron')],
    nodes: [
      { ...plainNode('Frame', 0), translation: [0.5, 1, -2] },
      { ...plainNode('Leaf', 1, 0), translation: [1, 0, 0], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2] },
      { ...plainNode('Latch', 2, 1), translation: [0, 0.4, 0.1], scale: [-1, 2, 1] },
    ],
    meshes: [
      { name: 'frame', mesh: two },
      { name: 'leaf', mesh: moved(boxMesh([0.8, 0.9, 0.04]), [0.8, 0, 0]) },
      { name: 'latch', mesh: moved(boxMesh([0.1, 0.02, 0.03]), [0.05, 0, 0]) },
    ],
  };
}

const piece = (change: (document: PieceDocument) => PieceDocument = (d) => d) => {
  const { document, ...sources } = pieceOf(gate(), 'sluice gate.obj');
  return { document: change(document), ...sources };
};

const withShapes = (document: PieceDocument, shapes: readonly Omit<Proxy, 'id'>[]) =>
  applyEdit(document, replaceProxies(shapes.map((shape, i) => ({ id: `s${i}`, ...shape }))));

const everyWay: [TargetProfile, Container][] = PROFILES.flatMap((profile) =>
  profile.containers.map((container): [TargetProfile, Container] => [profile, container]),
);

describe('the shipped profiles', () => {
  it('pass their schema, and each has an id and a name of its own', () => {
    for (const profile of PROFILES)
      expect(targetProfileSchema.parse(JSON.parse(JSON.stringify(profile)))).toEqual(profile);
    expect(new Set(PROFILES.map(({ id }) => id)).size).toBe(6);
  });
});

describe('a delivery for each of the six targets, in each of its containers', () => {
  for (const [profile, container] of everyWay)
    it(`reads back as planned: ${profile.id} as ${container}`, async () => {
      await fc.assert(
        fc.asyncProperty(
          fc.array(
            fc.record({
              shape: anyShape,
              part: fc.option(fc.constantFrom('n1', 'n2', 'n3'), { nil: undefined }),
            }),
            { minLength: 1, maxLength: 5 },
          ),
          place,
          turn,
          async (shapes, position, rotation) => {
            const { document, ...sources } = piece((d) => {
              const pivot = { ...d.pivot, anchor: 'numeric' as const, position, rotation };
              return withShapes({ ...d, pivot }, shapes);
            });
            const choices = { container };
            const files = await assemble(document, profile, { ...sources, choices });
            const report = readBackSchema.parse(await readBack(files, profile));
            const expected = expectationOf(document, profile, sources.meshOf, choices);
            const comparison = compareReadBack(expected, report);
            expect(comparison.filter((point) => !point.agrees && !point.substituted)).toEqual([]);
            expect(
              report.meshes.some(({ madeUpBox }) => madeUpBox) && profile.id !== 'prefix-tags',
            ).toBeFalse();
          },
        ),
        { numRuns: 12 },
      );
    });

  it('is the same every time', async () => {
    for (const [profile, container] of everyWay) {
      const { document, ...sources } = piece((d) => withShapes(d, []));
      const once = await assemble(document, profile, { ...sources, choices: { container } });
      expect(await assemble(document, profile, { ...sources, choices: { container } })).toEqual(once);
    }
  });
});

describe('delivered glTF', () => {
  it('passes the validator where it is glTF', async () => {
    for (const [profile, container] of everyWay.filter(([, each]) => each === 'glb')) {
      const { document, ...sources } = piece((d) =>
        withShapes(d, [
          {
            shape: { kind: 'sphere', center: [0, 1, 0], radius: 0.5 },
            part: 'n2',
            role: 'animated',
            surface: 'wet oak',
            density: 700,
          },
        ]),
      );
      const [file] = await assemble(document, profile, { ...sources, choices: { container } });
      const { issues } = await validateBytes(file!.bytes);
      expect(issues.numErrors)
        .withContext(`${profile.id} ${JSON.stringify(issues.messages)}`)
        .toBe(0);
    }
  });
});

describe('choices of a delivery', () => {
  const delivered = async (profile: TargetProfile, choices: DeliveryChoices) => {
    const { document, ...sources } = piece((d) =>
      withShapes(d, [
        {
          shape: { kind: 'box', center: [0.5, 1, -2], halfExtents: [0.1, 1, 0.1], rotation: [0, 0, 0, 1] },
          part: 'n1',
        },
        {
          shape: { kind: 'box', center: [2.5, 1, -2], halfExtents: [0.1, 1, 0.1], rotation: [0, 0, 0, 1] },
          part: 'n1',
        },
        { shape: { kind: 'sphere', center: [1.5, 1, -2], radius: 0.3 }, part: 'n2' },
      ]),
    );
    const files = await assemble(document, profile, { ...sources, choices });
    const report = await readBack(files, profile);
    const comparison = compareReadBack(expectationOf(document, profile, sources.meshOf, choices), report);
    expect(agreesInAll(comparison))
      .withContext(JSON.stringify(comparison.filter((p) => !p.agrees && !p.substituted)))
      .toBeTrue();
    return { names: files.map(({ name }) => name), report };
  };

  it('make a file for the piece, for each part, or for each top node', async () => {
    expect((await delivered(SUFFIX_TAGS, { files: 'part' })).names.slice(0, 3)).toEqual([
      'Frame.glb',
      'Leaf.glb',
      'Latch.glb',
    ]);
    const top = await delivered(SUFFIX_TAGS, { files: 'top-node' });
    expect(top.names[0]).toBe('Frame.glb');
    expect(top.report.meshes.map(({ name }) => name)).toEqual(['Frame']);
    expect(top.report.shapes.length).toBe(3);
  });

  it('take only some parts, with their shapes', async () => {
    const { report } = await delivered(SUFFIX_TAGS, { parts: ['n2', 'n3'] });
    expect(report.meshes.map(({ name }) => name).sort()).toEqual(['Latch', 'Leaf']);
    expect(report.shapes.map(({ name }) => name)).toEqual(['Leaf-convcolonly']);
  });

  it('keep or flatten the tree', async () => {
    const kept = await delivered(SUFFIX_TAGS, {});
    expect(kept.report.meshes.map(({ name, parent }) => [name, parent])).toEqual([
      ['Frame', 'SluiceGate'],
      ['Leaf', 'Frame'],
      ['Latch', 'Leaf'],
    ]);
    const flat = await delivered(SUFFIX_TAGS, { hierarchy: 'flattened' });
    expect(flat.report.meshes.map(({ name }) => name)).toEqual(['SluiceGate']);
  });

  it('join the solids of an owner in one node, and a target that takes them so parts them again', async () => {
    const joining = { ...PROXY_NODES, solids: { ...PROXY_NODES.solids, as: 'joined' as const } };
    const { report } = await delivered(joining, {});
    expect(report.shapes.map(({ name, owner }) => `${owner} ${name}`).sort()).toEqual([
      'Frame $physics_proxy001',
      'Frame $physics_proxy001',
      'Leaf $physics_proxy001',
    ]);
  });

  it('leave materials out, or send them by name', async () => {
    const left = await delivered(SUFFIX_TAGS, { materials: 'left-out' });
    expect(left.report.meshes.every(({ slots }) => slots.length === 0)).toBeTrue();
    const named = await delivered(SUFFIX_TAGS, { materials: 'by-name' });
    expect(named.report.meshes[0]!.slots).toEqual(['oak', 'tarred_iron']);
  });

  it('put the collision of a twin file beside its art, faces outward', async () => {
    const { names, report } = await delivered(TWIN_FILE, {});
    expect(names.slice(0, 3)).toEqual(['SluiceGate.obj', 'SluiceGate.mtl', 'SluiceGate_collision.obj']);
    const [surface] = report.shapes;
    expect([surface!.kind, surface!.owner]).toEqual(['surface', 'SluiceGate']);
    expect(surface!.facing).toBeCloseTo(2 * 0.08 + (4 / 3) * Math.PI * 0.027, 4);
  });
});

describe('what a file says of its own space', () => {
  it('brings an OBJ of a left-handed target back as it was', async () => {
    const { document, ...sources } = piece((d) => applyEdit(d, pivotEdit('origin', [0, 0, 0])));
    const [file] = await assemble(document, TWIN_FILE, sources);
    const scene = await readFile(memoryFile(file!.name, file!.bytes));
    expect(scene.unit).toEqual({ metres: 1, stated: true });
    const frame = scene.meshes[scene.nodes.findIndex(({ name }) => name === 'Frame')]!.mesh;
    expect(Math.max(...frame.positions.filter((_, i) => i % 3 === 0))).toBeCloseTo(2.6, 9);
  });
});
