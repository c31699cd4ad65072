import fc from 'fast-check';
import { inMetres, memoryFile, readFile } from '../format/index.js';
import { applyEdit, type Material, plainMaterial, replaceProxies } from '../piece/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { assemble } from './assemble.js';
import { encoded } from './colour-code.js';
import { settledChoices } from './choices.js';
import { expectationOfPlan } from './expectation.js';
import { leavingMaterials } from './leaving-materials.js';
import { lossesOf, lossText } from './losses.js';
import { planDelivery } from './plan.js';
import { PREFIX_TAGS, PROFILES, PROXY_NODES, SUFFIX_TAGS } from './profiles/index.js';
import { compareReadBack, readBack } from './read-back/index.js';

function painted(materials: Material[]) {
  const scene = { ...sceneOf(boxMesh([1, 1, 1])), materials };
  scene.meshes[0]!.mesh.groups = [{ material: 0, start: 0, count: 12 }];
  return pieceOf(scene, 'buoy.obj');
}

const tar: Material = {
  ...plainMaterial('tar'),
  baseColor: [0.2, 0.5, 1, 0.5],
  metalness: 0.4,
  roughness: 0.6,
};

const WRITTEN = { materials: 'written', pictures: 'beside' } as const;

/** The first pixel of a picture whose bytes are not compressed: after the filter of its first row. */
function firstPixel(png: Uint8Array): number[] {
  const data = png.findIndex((_, i) => new TextDecoder().decode(png.subarray(i, i + 4)) === 'IDAT') + 4;
  const channels = png[25] === 6 ? 4 : 3;
  return [...png.subarray(data + 8, data + 8 + channels)];
}

describe('material values that leave as pictures', () => {
  it('hold each value within half a step, and leave nothing that would change it', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(share, share, share, share), share, share, (baseColor, metalness, roughness) => {
        const material = { ...tar, baseColor, metalness, roughness, emissive: [0, 2, 1] as const };
        const { document } = painted([{ ...material, emissive: [0, 2, 1] }]);
        const choices = settledChoices(SUFFIX_TAGS, { constants: 'as-pictures' }, document);
        const { materials, pictures } = leavingMaterials(document, choices);
        const [made] = materials;
        expect(made).toEqual(
          jasmine.objectContaining({
            baseColor: [1, 1, 1, 1],
            metalness: 1,
            roughness: 1,
            emissive: [2, 2, 2],
          }),
        );
        const pixel = (slot: 'baseColor' | 'metallicRoughness' | 'emissive') =>
          firstPixel((pictures[made!.pictures[slot]!.picture] as { bytes: Uint8Array }).bytes).map(
            (v) => v / 255,
          );
        const wanted = [...baseColor.slice(0, 3).map(encoded), ...(baseColor[3] < 1 ? [baseColor[3]] : [])];
        const half = 0.5 / 255 + 1e-9;
        pixel('baseColor').forEach((v, k) => expect(Math.abs(v - wanted[k]!)).toBeLessThanOrEqual(half));
        expect(pixel('baseColor').length).toBe(wanted.length);
        const [, rough, metal] = pixel('metallicRoughness');
        expect(Math.abs(rough! - roughness)).toBeLessThanOrEqual(half);
        expect(Math.abs(metal! - metalness)).toBeLessThanOrEqual(half);
        expect(pixel('emissive').map((v) => Math.round(255 * v))).toEqual([
          0,
          255,
          Math.round(255 * encoded(0.5)),
        ]);
      }),
      { numRuns: 50 },
    );
  });

  it('arrive with every target and container, are announced, and drop out of what is lost', async () => {
    const { document: art, ...sources } = painted([tar]);
    const document = applyEdit(
      art,
      replaceProxies([
        {
          id: 'a',
          shape: { kind: 'box', center: [0, 0, 0], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] },
        },
      ]),
    );
    for (const profile of PROFILES)
      for (const container of profile.containers) {
        const choices = { ...WRITTEN, container, constants: 'as-pictures' as const };
        const plan = planDelivery(document, profile, choices);
        const files = await assemble(document, profile, { ...sources, choices });
        const model = files.find(({ name }) => name.endsWith(`.${container}`))!;
        const scene = inMetres(
          await readFile(
            memoryFile(model.name, model.bytes),
            files.map(({ name, bytes }) => memoryFile(name, bytes)),
          ),
        );
        const leaves = scene.materials.find(({ name }) => name === 'tar')!;
        const color = scene.pictures[leaves.pictures.baseColor!.picture]!;
        expect(firstPixel(color.bytes).slice(0, 3))
          .withContext(`${profile.id} ${container}`)
          .toEqual([0.2, 0.5, 1].map((v) => Math.round(255 * encoded(v))));
        const differs = compareReadBack(
          expectationOfPlan(plan, sources.meshOf),
          await readBack(files, profile),
        );
        expect(differs.filter(({ agrees, substituted }) => !agrees && !substituted)).toEqual([]);
        const about = lossesOf(plan).map((loss) => loss.about);
        expect(about).toContain('constants-as-pictures');
        expect(about).not.toContain('constants');
      }
  });

  it('are not made where pictures are left out, or materials leave by name', () => {
    const { document } = painted([tar]);
    for (const choices of [{ pictures: 'left-out' }, { materials: 'by-name' }] as const)
      expect(settledChoices(PREFIX_TAGS, { ...choices, constants: 'as-pictures' }, document).constants).toBe(
        'as-values',
      );
  });
});

describe('pictures that a container cannot name', () => {
  it('are left out, said, and not waited for', async () => {
    const bytes = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
    const scene = {
      ...sceneOf(boxMesh([1, 1, 1])),
      pictures: [{ name: 'grain_n.png', type: 'image/png' as const, bytes }],
      materials: [
        {
          ...plainMaterial('oak'),
          metalness: 0.5,
          pictures: { normal: { picture: 0, uvSet: 0, wrap: ['repeat', 'repeat'] as ['repeat', 'repeat'] } },
        },
      ],
    };
    scene.meshes[0]!.mesh.groups = [{ material: 0, start: 0, count: 12 }];
    const { document, ...sources } = pieceOf(scene, 'post.obj');
    const choices = { ...WRITTEN, container: 'dae' as const };
    const plan = planDelivery(document, PROXY_NODES, choices);
    expect(lossesOf(plan).map(lossText).join(' ')).toContain(
      'COLLADA names no pictures for normals: those of 1 material are left out.',
    );
    expect(lossesOf(plan).map(lossText).join(' ')).toContain(
      'COLLADA knows no metalness: oak arrives without it.',
    );
    const files = await assemble(document, PROXY_NODES, { ...sources, choices });
    expect(files.some(({ name }) => name.endsWith('.png'))).toBeFalse();
    const points = compareReadBack(
      expectationOfPlan(plan, sources.meshOf),
      await readBack(files, PROXY_NODES),
    );
    expect(points.filter(({ point, agrees }) => point.includes('pictures') && !agrees)).toEqual([]);
  });
});
