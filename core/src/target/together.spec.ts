import fc from 'fast-check';
import { inMetres, memoryFile, readFile } from '../format/index.js';
import { boundsOf, distance, type Quat, unionOf, type Vec3 } from '../math/index.js';
import {
  applyEdit,
  artMesh,
  type PieceDocument,
  pivotEdit,
  plainMaterial,
  plainNode,
  replaceProxies,
  type Scene,
  wholeMesh,
} from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, moved, sceneOf } from '../testing/meshes.js';
import { anyShape, place, turn } from '../testing/shapes.js';
import { AssembleError, writePlans } from './assemble.js';
import { expectationOfPlans } from './expectation.js';
import { changesBetween, inventoryOf } from './inventory.js';
import { manifestSchema } from './manifest.js';
import { planDelivery } from './plan.js';
import { planTogether } from './plan-together.js';
import { PREFIX_TAGS, PROFILES, SUFFIX_TAGS, TWIN_FILE } from './profiles/index.js';
import { putTogether } from './put-together.js';
import { compareReadBack, readBack } from './read-back/index.js';
import { variantName } from './variant.js';

const HALF = {
  kind: 'box' as const,
  center: [0, 0, 0] as Vec3,
  halfExtents: [0.5, 0.5, 0.5] as Vec3,
  rotation: [0, 0, 0, 1] as Quat,
};

const quay = (): Scene => ({
  ...sceneOf(boxMesh([1, 1, 1])),
  materials: [plainMaterial('stone'), { ...plainMaterial('oak'), roughness: 0.2 }],
  nodes: [plainNode('Wall', 0), { ...plainNode('Coping', 1), translation: [0, 1.1, 0] }],
  meshes: [
    { name: 'Wall', mesh: { ...boxMesh([3, 1, 0.5]), groups: [{ material: 0, start: 0, count: 12 }] } },
    { name: 'Coping', mesh: { ...boxMesh([3, 0.1, 0.6]), groups: [{ material: 1, start: 0, count: 12 }] } },
  ],
});
const post = (): Scene => ({
  ...sceneOf({
    ...moved(boxMesh([0.2, 0.6, 0.3]), [1, 1.8, 0.2]),
    groups: [{ material: 0, start: 0, count: 12 }],
  }),
  materials: [{ ...plainMaterial('oak'), roughness: 0.9 }],
});

function pieces(pivots: readonly [Vec3, Quat][], change = (document: PieceDocument) => document) {
  const made = [pieceOf(quay(), 'quay wall.obj'), pieceOf(post(), 'bollard.obj')];
  const documents = made.map(({ document }, i) => {
    const [position, rotation] = pivots[i] ?? [
      [0, 0, 0],
      [0, 0, 0, 1],
    ];
    return change(
      applyEdit({ ...document, pivot: { ...document.pivot, rotation } }, pivotEdit('numeric', position)),
    );
  });
  return {
    documents: documents.map((document, i) => ({
      ...document,
      pivot: { ...document.pivot, rotation: pivots[i]?.[1] ?? ([0, 0, 0, 1] as Quat) },
    })),
    sources: {
      meshOf: (blob: string) => {
        try {
          return made[0]!.meshOf(blob);
        } catch {
          return made[1]!.meshOf(blob);
        }
      },
      pictureOf: made[0]!.pictureOf,
    },
    meshOfEach: made.map(({ meshOf }) => meshOf),
  };
}

describe('several pieces in one file', () => {
  for (const profile of PROFILES)
    for (const container of profile.containers)
      it(`stand where they stood and read back as planned: ${profile.id} as ${container}`, async () => {
        await fc.assert(
          fc.asyncProperty(
            fc.tuple(place, turn),
            fc.tuple(place, turn),
            fc.array(anyShape, { minLength: 1, maxLength: 3 }),
            async (first, second, shapes) => {
              const { documents, sources, meshOfEach } = pieces([first, second]);
              const plans = documents.map((document) =>
                planDelivery(
                  applyEdit(document, replaceProxies(shapes.map((shape, i) => ({ id: `s${i}`, shape })))),
                  profile,
                  { container, together: 'Quayside' },
                ),
              );
              const files = await writePlans(plans, sources);
              const models = files
                .filter(({ name }) => name.endsWith(`.${container}`))
                .map(({ name }) => name);
              expect(models).toEqual(
                profile.id === 'twin-file'
                  ? [`Quayside.${container}`, `Quayside_collision.${container}`]
                  : [`Quayside.${container}`],
              );
              const points = compareReadBack(
                expectationOfPlans(plans, sources.meshOf),
                await readBack(files, profile),
              );
              expect(points.filter(({ agrees, substituted }) => !agrees && !substituted)).toEqual([]);
              // Each comes back to its place by its own manifest.
              const inputs = files.map(({ name, bytes }) => memoryFile(name, bytes));
              for (const [i, document] of documents.entries()) {
                const paper = files.find(({ name }) => name === `${document.meshName}.manifest.json`)!;
                const manifest = manifestSchema.parse(JSON.parse(new TextDecoder().decode(paper.bytes)));
                const [file] = manifest.meshes.map((mesh) => mesh.file);
                const scene = inMetres(
                  await readFile(
                    inputs.find(({ name }) => name === file)!,
                    inputs,
                  ),
                );
                const back = boundsOf(wholeMesh(putTogether(manifest, new Map([[file!, scene]]))).positions);
                const before = boundsOf(artMesh(document, meshOfEach[i]!).positions);
                expect(Math.max(distance(back.min, before.min), distance(back.max, before.max))).toBeLessThan(
                  1e-4,
                );
              }
            },
          ),
          { numRuns: 6 },
        );
      });

  it('are where a level that takes the file as it is sees them', async () => {
    const { documents, sources, meshOfEach } = pieces([
      [
        [2, 1, 0],
        [0, Math.SQRT1_2, 0, Math.SQRT1_2],
      ],
      [
        [-1, 0, 3],
        [0, 0, 0, 1],
      ],
    ]);
    const plans = await planTogether(documents, SUFFIX_TAGS, { together: 'Quayside' });
    const [model] = await writePlans(plans, sources);
    const seen = boundsOf(
      wholeMesh(inMetres(await readFile(memoryFile(model!.name, model!.bytes), []))).positions,
    );
    const stood = documents
      .map((document, i) => boundsOf(artMesh(document, meshOfEach[i]!).positions))
      .reduce(unionOf);
    expect(Math.max(distance(seen.min, stood.min), distance(seen.max, stood.max))).toBeLessThan(1e-5);
  });

  it('share materials that are the same, and number those that only share a name', async () => {
    const { documents, sources } = pieces([]);
    const [wall, bollard] = documents as [PieceDocument, PieceDocument];
    const third = applyEdit({ ...bollard, name: 'Post' }, { kind: 'rename-mesh', name: 'Post' });
    const choices = { together: 'Quayside', materials: 'written' } as const;
    const plans = await planTogether([wall, bollard, third], SUFFIX_TAGS, choices);
    const files = await writePlans(plans, sources);
    const scene = await readFile(memoryFile('Quayside.glb', files[0]!.bytes), []);
    expect(scene.materials.map(({ name, roughness }) => [name, Number(roughness.toFixed(2))])).toEqual([
      ['stone', 0.9],
      ['oak', 0.2],
      ['oak_2', 0.9],
    ]);
    const report = await readBack(files, SUFFIX_TAGS);
    expect(report.meshes.map(({ slots }) => slots)).toEqual([['stone'], ['oak'], ['oak_2'], ['oak_2']]);
  });

  it('are refused where two nodes bear one name, with both pieces', async () => {
    const { documents, sources } = pieces([], (document) =>
      applyEdit(document, { kind: 'rename-mesh', name: 'Quay' }),
    );
    const plans = await planTogether(documents, PREFIX_TAGS, { together: 'Quayside' });
    await expectAsync(writePlans(plans, sources)).toBeRejectedWithError(
      AssembleError,
      '“Quay wall” and “Bollard” both hold a node named “Quay”; rename one of them.',
    );
  });
});

describe('a new variant', () => {
  it('counts up the number that stands there, in its digits', () => {
    expect(['Coping_01', 'Coping', 'Coping_009', 'Coping.002'].map((name) => variantName(name, 3))).toEqual([
      'Coping_03',
      'Coping_03',
      'Coping_003',
      'Coping.002_03',
    ]);
  });

  it('shares no file or node with what left before, and reads back, for every target and split', async () => {
    const { document: art, ...sources } = pieceOf(quay(), 'quay wall.obj');
    const box = (part: string, center: Vec3) => ({ id: part, part, shape: { ...HALF, center } });
    const document = applyEdit(art, replaceProxies([box('n1', [0, 0, 0]), box('n2', [0, 1.5, 0])]));
    for (const profile of PROFILES)
      for (const split of ['piece', 'part', 'top-node'] as const) {
        const plan = (variant?: number) =>
          planDelivery(document, profile, { files: split, ...(variant ? { variant } : {}) });
        const [before, after] = [plan(), plan(2)];
        const names = (of: typeof before) =>
          of.files.flatMap(({ stem, nodes }) => [stem, ...nodes.map(({ name }) => name)]);
        expect(names(after).filter((name) => names(before).includes(name))).toEqual([]);
        const files = await writePlans([after], sources);
        expect(files.every(({ name }) => /_02(_collision)?\./.test(name))).toBeTrue();
        const points = compareReadBack(
          expectationOfPlans([after], sources.meshOf),
          await readBack(files, profile),
        );
        expect(points.filter(({ agrees, substituted }) => !agrees && !substituted))
          .withContext(`${profile.id} ${split}`)
          .toEqual([]);
        expect(
          changesBetween(inventoryOf(before), inventoryOf(after)).some(({ breaks }) => breaks),
        ).toBeTrue();
      }
    expect(planDelivery(document, TWIN_FILE).document.meshName).toBe('QuayWall');
  });
});

describe('a file that is named otherwise than its mesh', () => {
  it('reads back for every target and container, and is missed by levels when its name changes', async () => {
    const { document: art, ...sources } = pieceOf(post(), 'bollard.obj');
    const document = applyEdit(art, replaceProxies([{ id: 'a', shape: { ...HALF, center: [1, 1.8, 0.2] } }]));
    for (const profile of PROFILES)
      for (const container of profile.containers) {
        const plan = planDelivery(document, profile, { container, stem: 'qw_bollard-01' });
        const files = await writePlans([plan], sources);
        expect(files[0]!.name).toBe(`qw_bollard-01.${container}`);
        const points = compareReadBack(
          expectationOfPlans([plan], sources.meshOf),
          await readBack(files, profile),
        );
        expect(points.filter(({ agrees, substituted }) => !agrees && !substituted))
          .withContext(`${profile.id} ${container}`)
          .toEqual([]);
      }
    const [before, after] = [{}, { stem: 'other' }].map((choices) =>
      inventoryOf(planDelivery(document, PREFIX_TAGS, choices)),
    );
    expect(changesBetween(before!, after!)).toEqual([
      { says: 'Bollard.glb is not written any more.', breaks: true },
    ]);
  });
});

describe('mass', () => {
  it('comes from the surface of contact where a shape says no density of its own', () => {
    const { document } = pieceOf(post(), 'bollard.obj');
    const glTF = PROFILES.find(({ id }) => id === 'open-physics-gltf')!;
    const mass = (change: object) =>
      expectationOfPlans([
        planDelivery(
          applyEdit(
            document,
            replaceProxies([{ id: 'a', shape: HALF, role: 'simulated', surface: 'wet oak', ...change }]),
          ),
          glTF,
          {},
          [{ name: 'wet oak', friction: 0.5, restitution: 0, density: 700 }],
        ),
      ]).bodies.map(({ kilograms }) => kilograms);
    expect(mass({})).toEqual([700]);
    expect(mass({ density: 20 })).toEqual([20]);
    expect(mass({ surface: 'dry oak' })).toEqual([null]);
  });
});
