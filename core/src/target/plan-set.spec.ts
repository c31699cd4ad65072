import fc from 'fast-check';
import { inMetres, memoryFile, readFile } from '../format/index.js';
import type { Quat, Vec3 } from '../math/index.js';
import { applyEdit, artMesh, replaceProxies, wholeMesh } from '../piece/index.js';
import {
  mirroredAcross,
  type Placed,
  placedAt,
  placedMesh,
  placedPieces,
  type Placement,
  type SetOut,
} from '../set-out/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { place, turn } from '../testing/shapes.js';
import { writePlans } from './assemble.js';
import { expectationOfPlans } from './expectation.js';
import { instancesScene, placementListOf, placementListSchema } from './placement-list.js';
import { readManifest } from './manifest.js';
import { placedByManifests } from './placed-by-manifests.js';
import { planSet, PlanSetError, type SetForm } from './plan-set.js';
import type { TargetProfile } from './profile.js';
import { OPEN_PHYSICS_GLTF, PREFIX_TAGS, PROFILES, TWIN_FILE } from './profiles/index.js';
import { compareReadBack, readBack } from './read-back/index.js';

/** A wedge with a box in it: it looks the same from no two sides. */
function wedge(name: string, position: Vec3, rotation: Quat) {
  const mesh = boxMesh([0.5, 1, 0.25], [0.5, 1, 0]);
  const positions = mesh.positions.slice();
  for (let i = 0; i < positions.length; i += 3)
    if (positions[i + 1]! > 1 && positions[i]! > 0.5) positions[i + 1] = 1.2;
  const { document, blobs, meshOf } = pieceOf(
    sceneOf({ ...mesh, positions, groups: [{ material: 0, start: 0, count: 12 }] }, name),
  );
  const shape = {
    kind: 'box' as const,
    center: [0.5, 0.5, 0] as Vec3,
    halfExtents: [0.5, 0.5, 0.25] as Vec3,
    rotation: [0, 0, 0, 1] as Quat,
  };
  const whole = applyEdit(
    {
      ...document,
      name,
      meshName: name,
      pivot: { ...document.pivot, anchor: 'numeric' as const, position, rotation },
    },
    // Two of a kind: the second is numbered 02, as a copy of the piece could be.
    replaceProxies(['a', 'b'].map((id, i) => ({ id, shape: { ...shape, center: [0.5, 0.5 + i * 0.2, 0] } }))),
  );
  return { document: whole, blobs, art: artMesh(whole, meshOf) };
}

const at = (id: string, piece: number, position: Vec3, more: Partial<Placement> = {}): Placement => ({
  id,
  piece,
  version: null,
  ...placedAt(position),
  group: null,
  locked: false,
  materials: {},
  ...more,
});

const setOf = (placements: Placement[]): SetOut => ({ format: 1, name: 'Slip', placements });

type Made = ReturnType<typeof wedge>;

async function leave(
  placements: Placement[],
  things: Record<number, Made>,
  form: SetForm,
  profile: TargetProfile,
  container = profile.containers[0]!,
) {
  const documents = new Map(Object.entries(things).map(([key, { document }]) => [key, document]));
  const blobs = new Map(Object.values(things).flatMap((each) => [...each.blobs]));
  const plan = await planSet({
    setOut: setOf(placements),
    documents,
    form,
    name: 'Slip',
    profile,
    choices: { container },
    surfaces: [],
    blobs,
  });
  const files = [];
  for (const plans of plan.files)
    files.push(...(await writePlans(plans, { meshOf: plan.meshOf, pictureOf: () => new Uint8Array() })));
  return { plan, files, placed: placedPieces(setOf(placements), documents) };
}

/** Farthest of any point from the nearest of others; both [3n], few of them. */
function farthest(points: ArrayLike<number>, others: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < points.length; i += 3) {
    let least = Infinity;
    for (let k = 0; k < others.length; k += 3)
      least = Math.min(
        least,
        Math.hypot(points[i]! - others[k]!, points[i + 1]! - others[k + 1]!, points[i + 2]! - others[k + 2]!),
      );
    most = Math.max(most, least);
  }
  return most;
}

/** Every vertex of a model among files. */
async function verticesIn(
  files: readonly { name: string; bytes: Uint8Array }[],
  model: string,
): Promise<Float64Array> {
  const inputs = files.map(({ name, bytes }) => memoryFile(name, bytes));
  const scene = await readFile(
    inputs.find(({ name }) => name === model)!,
    inputs,
  );
  return wholeMesh(inMetres(scene)).positions;
}

describe('a set that leaves', () => {
  const things = {
    1: wedge('Wall', [0.1, 0.2, 0.3], [0, 0, 0, 1]),
    2: wedge('Post', [0, 0, 0], [0, Math.SQRT1_2, 0, Math.SQRT1_2]),
  };
  const artOf = ({ placement }: Placed) => things[placement.piece as 1 | 2].art;
  const stands = fc.array(fc.tuple(place, turn, fc.boolean(), fc.constantFrom(1, 2)), {
    minLength: 1,
    maxLength: 4,
  });
  const placementsOf = (all: [Vec3, Quat, boolean, number][]) =>
    all.map(([position, rotation, mirrored, piece], i) => {
      const one = at(`p${i}`, piece, position, { rotation });
      return mirrored ? mirroredAcross([one], [0, 0, 0])[0]! : one;
    });

  for (const profile of PROFILES)
    for (const container of profile.containers)
      it(`in one file reads back as planned: ${profile.id} as ${container}`, async () => {
        await fc.assert(
          fc.asyncProperty(stands, async (all) => {
            const { plan, files, placed } = await leave(
              placementsOf(all),
              things,
              'one-file',
              profile,
              container,
            );
            const points = compareReadBack(
              expectationOfPlans(plan.files.flat(), plan.meshOf),
              await readBack(files, profile),
            );
            expect(points.filter(({ agrees, substituted }) => !agrees && !substituted)).toEqual([]);
            if (profile !== TWIN_FILE && profile !== OPEN_PHYSICS_GLTF) return;
            // Shapes stand elsewhere in these: every vertex of the file is art, where the set has it.
            const given = await verticesIn(files, `Slip.${container}`);
            const wanted = placed.flatMap((each) => [...placedMesh(each, artOf(each)).positions]);
            expect(farthest(wanted, given)).toBeLessThan(1e-4);
            expect(farthest(given, wanted)).toBeLessThan(1e-4);
          }),
          { numRuns: 5 },
        );
      });

  it('in files of pieces has each once, and a list and a scene of where they stand', async () => {
    await fc.assert(
      fc.asyncProperty(stands, async (all) => {
        const placements = placementsOf(all);
        const { plan, files, placed } = await leave(placements, things, 'file-a-piece', PREFIX_TAGS);
        const used = new Set(placements.map(({ piece }) => piece)).size;
        expect(files.filter(({ name }) => name.endsWith('.manifest.json')).length).toBe(used);
        const list = placementListSchema.parse(
          JSON.parse(JSON.stringify(placementListOf('Slip', plan.leaving))),
        );
        expect(list.placements.map(({ position, mirrored }) => ({ position, mirrored }))).toEqual(
          placements.map(({ position, mirrored }) => ({
            position: position.map((v) => v || 0) as Vec3,
            mirrored,
          })),
        );
        const bytes = await instancesScene(plan.leaving, {
          meshOf: plan.meshOf,
          pictureOf: () => new Uint8Array(),
        });
        const scene = inMetres(await readFile(memoryFile('Slip.glb', bytes), []));
        expect(scene.meshes.length).toBe(used);
        const wanted = placed.flatMap((each) => [...placedMesh(each, artOf(each)).positions]);
        expect(farthest(wanted, wholeMesh(scene).positions)).toBeLessThan(1e-4);
      }),
      { numRuns: 10 },
    );
  });

  it('grouped stands in a file a group; copies are numbered, materials are those of the placement', async () => {
    const placements = [
      at('p1', 1, [0, 0, 0], { group: 'g1' }),
      at('p2', 1, [2, 0, 0], { group: 'g1', materials: { oak: 'granite' } }),
      at('p3', 2, [5, 0, 0]),
    ];
    const { plan, files } = await leave(placements, things, 'grouped', OPEN_PHYSICS_GLTF);
    const models = files.filter(({ name }) => /\.(glb|gltf)$/.test(name));
    expect(models.map(({ name }) => name.replace(/\..*/, ''))).toEqual(['Slip_g1', 'Slip']);
    expect(plan.leaving.map(({ node }) => node)).toEqual(['Wall', 'Wall_copy02', 'Post']);
    expect([...plan.firstOf].map(([key, { document }]) => [key, document.meshName])).toEqual([
      ['1', 'Wall'],
      ['2', 'Post'],
    ]);
    const scene = await readFile(memoryFile(models[0]!.name, models[0]!.bytes), []);
    expect(scene.materials.map(({ name }) => name)).toEqual(['oak', 'granite']);
  });

  it('of nothing, or of more than files hold, says so in one sentence', async () => {
    await expectAsync(leave([at('p1', 9, [0, 0, 0])], things, 'one-file', PREFIX_TAGS)).toBeRejectedWithError(
      PlanSetError,
      /Nothing of the set-out is in the yard/,
    );
    const many = Array.from({ length: 501 }, (_, i) => at(`p${i}`, 1, [i, 0, 0]));
    await expectAsync(leave(many, things, 'one-file', PREFIX_TAGS)).toBeRejectedWithError(
      PlanSetError,
      /holds 501 pieces, and files hold 500/,
    );
    expect((await leave(many, things, 'file-a-piece', PREFIX_TAGS)).plan.leaving.length).toBe(501);
  });

  it('apart comes together again from its manifests, to a millionth of a metre, and says what has moved since', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(place, turn), { minLength: 2, maxLength: 3 }), async (pivots) => {
        const made = pivots.map(([position, rotation], i) => wedge(`Part${i + 1}`, position, rotation));
        const pieces = new Map(made.map(({ document }, i) => [i + 1, document]));
        const manifests = [];
        for (const [i, each] of made.entries()) {
          const { files } = await leave([at('p', 1, [9, 9, 9])], { 1: each }, 'file-a-piece', PREFIX_TAGS);
          const paper = files.find(({ name }) => name === `Part${i + 1}.manifest.json`)!;
          manifests.push(readManifest(paper.name, new TextDecoder().decode(paper.bytes)));
        }
        const { stands, unknown } = placedByManifests(manifests, pieces);
        expect([stands.length, unknown]).toEqual([made.length, []]);
        stands.forEach(({ piece, at: stand, off }) => {
          expect(off).toBeLessThan(1e-6);
          const [placed] = placedPieces(
            setOf([{ ...at('q', piece, [0, 0, 0]), ...stand }]),
            new Map([[`${piece}`, pieces.get(piece)!]]),
          ) as [Placed];
          const { art } = made[piece - 1]!;
          const there = placedMesh(placed, art).positions;
          expect(Math.max(...there.map((v, k) => Math.abs(v - art.positions[k]!)))).toBeLessThan(1e-6);
        });
        // A pivot that has moved since carries the art off with it, and that is told.
        const moved = new Map(pieces);
        const { pivot } = pieces.get(1)!;
        const position = pivot.position.map((v) => v + 0.01) as Vec3;
        moved.set(1, { ...pieces.get(1)!, pivot: { ...pivot, position } });
        const [first] = placedByManifests(manifests, moved).stands;
        expect(first!.off).toBeCloseTo(Math.hypot(0.01, 0.01, 0.01), 6);
        expect(placedByManifests([{ ...manifests[0]!, mesh: 'Other' }], pieces).unknown).toEqual(['Other']);
      }),
      { numRuns: 10 },
    );
  });
});
