import { posix } from 'node:path';
import { inflateSync } from 'node:zlib';
import {
  add,
  applyEdit,
  artMesh,
  assemble,
  type Container,
  meshNameFrom,
  meshReader,
  type PieceDocument,
  pivotEdit,
  plainMaterial,
  plainMesh,
  plainNode,
  PROFILES,
  replaceProxies,
  type Scene,
  shapeTriangles,
  takeIn,
  type TargetProfile,
  type Vec3,
} from '@yard-brace/core';
import {
  farthest,
  type Library,
  loadLibrary,
  sceneSeen,
  seenBy,
  unitsAMetre,
  verticesSeen,
} from './testing/independent-readers.js';

function box(half: Vec3, center: Vec3) {
  const { points, indices } = shapeTriangles({
    kind: 'box',
    center,
    halfExtents: half,
    rotation: [0, 0, 0, 1],
  });
  return plainMesh(points, indices);
}

/** A frame with a leaf that is turned below it, and no side like another. */
const gate = (): Scene => ({
  unit: { metres: 1, stated: true },
  nodes: [
    { ...plainNode('Frame', 0), translation: [0.5, 1, -2] },
    { ...plainNode('Leaf', 1, 0), translation: [1, 0, 0], rotation: [0, Math.SQRT1_2, 0, Math.SQRT1_2] },
  ],
  meshes: [
    { name: 'frame', mesh: box([0.1, 1, 0.2], [0, 0, 0]) },
    { name: 'leaf', mesh: box([0.8, 0.9, 0.04], [0.8, 0, 0]) },
  ],
  materials: [],
  pictures: [],
  leftOut: [],
  notes: [],
});

/** The pivot, and corners of the piece in its own space, in metres. */
const PIVOT: Vec3 = [0.5, 0, -2];
const CORNERS: Vec3[] = [
  [0.4, 0, -2.2],
  [0.6, 2, -1.8],
  [1.54, 0.1, -2],
  [1.46, 1.9, -3.6],
];

function piece(change: (document: PieceDocument) => PieceDocument = (document) => document) {
  const { document, blobs } = takeIn(gate(), {
    files: [{ name: 'sluice gate.obj', blob: 'a'.repeat(64), bytes: 1 }],
    meshName: meshNameFrom,
  });
  return {
    document: change(applyEdit(document, pivotEdit('numeric', PIVOT))),
    meshOf: meshReader(blobs),
    pictureOf: (id: string) => blobs.get(id)!,
  };
}

const everyWay: [TargetProfile, Container][] = PROFILES.flatMap((profile) =>
  profile.containers.map((container): [TargetProfile, Container] => [profile, container]),
);

const fromPivot = (p: Vec3): Vec3 => add(p, PIVOT.map((v) => -v) as Vec3);

interface Property {
  key: string;
  value: string;
}

/** The gate in one material that is only values: half red, linear. */
function painted() {
  const scene = gate();
  scene.materials = [{ ...plainMaterial('tarred oak'), baseColor: [0.5, 0, 0, 1] }];
  for (const { mesh } of scene.meshes)
    mesh.groups = [{ material: 0, start: 0, count: mesh.indices.length / 3 }];
  const { document, blobs } = takeIn(scene, {
    files: [{ name: 'sluice gate.obj', blob: 'a'.repeat(64), bytes: 1 }],
    meshName: meshNameFrom,
  });
  return { document, meshOf: meshReader(blobs), pictureOf: (id: string) => blobs.get(id)! };
}

/** The first pixel of a PNG as a colour code, by Node's own inflate. */
function pixelOf(png: Uint8Array): string {
  const at = Buffer.from(png).indexOf('IDAT');
  const data = inflateSync(png.subarray(at + 4, at + 4 + Buffer.from(png).readUInt32BE(at - 4)));
  return `#${data.subarray(1, 4).toString('hex').toUpperCase()}`;
}

describe('delivered files, read by a general-purpose library', () => {
  let library: Library;
  beforeAll(async () => (library = await loadLibrary()));

  it('names its pictures where they stand, in folders of their own too, with the values that they hold', async () => {
    const { document, ...sources } = painted();
    const folders = { models: 'models', pictures: 'art/pictures', papers: '' };
    for (const [profile, container] of everyWay.filter(([, each]) => each === 'gltf' || each === 'dae')) {
      const choices = {
        container,
        materials: 'written',
        pictures: 'beside',
        constants: 'as-pictures',
      } as const;
      const files = await assemble(document, profile, { ...sources, choices, folders });
      const model = `models/SluiceGate.${container}`;
      const scene = sceneSeen(library, files, model);
      const named: string[] = scene.materials.flatMap((material: { properties: Property[] }) =>
        material.properties.filter(({ key }) => key === '$tex.file').map(({ value }) => value),
      );
      // The library leaves the escapes of a URI as they are.
      const standing = named.map((path) => posix.normalize(`models/${decodeURI(path)}`));
      expect(standing)
        .withContext(`${profile.id} ${container}`)
        .toContain('art/pictures/tarred oak_base_color.png');
      for (const place of standing) expect(files.map(({ name }) => name)).toContain(place);
      const color = files.find(({ name }) => name.endsWith('oak_base_color.png'))!;
      expect(pixelOf(color.bytes)).toBe('#BC0000');
    }
  });

  for (const [profile, container] of everyWay.filter(([, each]) => each !== 'usda'))
    it(`has its vertices where they belong: ${profile.id} as ${container}`, async () => {
      const { document, ...sources } = piece();
      const files = await assemble(document, profile, { ...sources, choices: { container } });
      const vertices = verticesSeen(library, files, `SluiceGate.${container}`);
      const wanted = CORNERS.map(fromPivot).map(seenBy(profile, container));
      expect(farthest(vertices, wanted)).toBeLessThan(1e-5 * unitsAMetre(profile, container));
    });
});

describe('delivered USD, read by the general-purpose loader of the view', () => {
  let library: Library;
  beforeAll(async () => (library = await loadLibrary()));

  const usd = PROFILES.find(({ id }) => id === 'open-physics-usd')!;
  it('is read also where its lists are long, with normals, UVs and several materials', async () => {
    const scene = gate();
    const grid = (material: number) => {
      const positions: number[] = [];
      const indices: number[] = [];
      for (let i = 0; i < 21; i++) for (let k = 0; k < 21; k++) positions.push(i * 0.1, material, k * 0.1);
      for (let i = 0; i < 20; i++)
        for (let k = 0; k < 20; k++) {
          const v = i * 21 + k;
          indices.push(v, v + 1, v + 21, v + 1, v + 22, v + 21);
        }
      const n = positions.length / 3;
      return {
        ...plainMesh(positions, indices),
        normals: Float32Array.from({ length: n * 3 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
        uvs: [Float32Array.from({ length: n * 2 }, (_, i) => (i % 7) / 7)],
        groups: [
          { material: 0, start: 0, count: 400 },
          { material: 1, start: 400, count: 400 },
        ],
      };
    };
    scene.materials = ['oak', 'tar'].map(plainMaterial);
    scene.meshes = scene.meshes.map((each, i) => ({ ...each, mesh: grid(i) }));
    const { document, blobs } = takeIn(scene, {
      files: [{ name: 'deck.obj', blob: 'a'.repeat(64), bytes: 1 }],
      meshName: meshNameFrom,
    });
    const sources = { meshOf: meshReader(blobs), pictureOf: (id: string) => blobs.get(id)! };
    const [file] = await assemble(document, usd, { ...sources, choices: { materials: 'written' } });
    const seen = verticesSeen(library, [file!], file!.name);
    const { positions } = artMesh(document, sources.meshOf);
    const wanted = Array.from({ length: positions.length / 3 }, (_, i) =>
      [...positions.subarray(3 * i, 3 * i + 3)].map((v, k) => v - document.pivot.position[k]!),
    ) as Vec3[];
    expect(farthest(seen, wanted)).toBeLessThan(1e-5);
  });

  it('has its vertices and shapes where they belong', async () => {
    const { document, ...sources } = piece((d) =>
      applyEdit(
        d,
        replaceProxies([
          {
            id: 'a',
            shape: { kind: 'box', center: [0.5, 1, -2], halfExtents: [0.1, 1, 0.2], rotation: [0, 0, 0, 1] },
            part: 'n1',
          },
        ]),
      ),
    );
    for (const up of ['y', 'z'] as const) {
      const space = { ...usd.space, up, forward: up === 'z' ? ('-y' as const) : ('+z' as const) };
      const [file] = await assemble(document, { ...usd, space }, sources);
      const vertices = verticesSeen(library, [file!], file!.name);
      const wanted = CORNERS.map(fromPivot).map(seenBy({ ...usd, space }, 'usda'));
      expect(farthest(vertices, wanted)).withContext(up).toBeLessThan(1e-5);
    }
  });
});
