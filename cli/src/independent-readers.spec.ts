import { posix } from 'node:path';
import { inflateSync } from 'node:zlib';
import assimpjs from 'assimpjs';
import {
  add,
  applyEdit,
  assemble,
  type Container,
  distance,
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
import { Matrix4, Mesh, Vector3 } from 'three';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';

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

/** A point of a level in the target's unit and axes, as someone who knows the target works it out by hand. */
const BY_HAND: Record<string, (p: Vec3) => Vec3> = {
  'prefix-tags': ([x, y, z]) => [x * 100, z * 100, y * 100],
  'suffix-tags': (p) => p,
  'twin-file': ([x, y, z]) => [-x, y, z],
};

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

const farthest = (found: readonly Vec3[], wanted: readonly Vec3[]): number =>
  Math.max(...wanted.map((p) => Math.min(...found.map((v) => distance(v, p)))));

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
  let library: Awaited<ReturnType<typeof assimpjs>>;
  beforeAll(async () => (library = await assimpjs()));

  /** All vertices where they stand in the file, as the library sees them. */
  function verticesOf(files: { name: string; bytes: Uint8Array }[], model: string): Vec3[] {
    const list = new library.FileList();
    list.AddFile(model, files.find(({ name }) => name === model)!.bytes);
    for (const { name, bytes } of files) if (name !== model) list.AddFile(name, bytes);
    const result = library.ConvertFileList(list, 'assjson');
    expect(result.IsSuccess()).withContext(`${model}: ${result.GetErrorCode()}`).toBeTrue();
    const scene = JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent()));
    const out: Vec3[] = [];
    interface Node {
      transformation: number[];
      meshes?: number[];
      children?: Node[];
    }
    const walk = (node: Node, above: Matrix4) => {
      const m = above.clone().multiply(new Matrix4().fromArray(node.transformation).transpose());
      for (const i of node.meshes ?? []) {
        const v: number[] = scene.meshes[i].vertices;
        for (let k = 0; k < v.length; k += 3)
          out.push(new Vector3(v[k], v[k + 1], v[k + 2]).applyMatrix4(m).toArray());
      }
      for (const child of node.children ?? []) walk(child, m);
    };
    walk(scene.rootnode, new Matrix4());
    return out;
  }

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
      const list = new library.FileList();
      list.AddFile(model, files.find(({ name }) => name === model)!.bytes);
      for (const { name, bytes } of files) if (name !== model) list.AddFile(name, bytes);
      const result = library.ConvertFileList(list, 'assjson');
      const scene = JSON.parse(new TextDecoder().decode(result.GetFile(0).GetContent()));
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
      const vertices = verticesOf(files, `SluiceGate.${container}`);
      // glTF is in metres, Y up; the library brings COLLADA there by unit and up axis; OBJ is the target's own.
      const seen = container === 'obj' ? BY_HAND[profile.id]! : (p: Vec3) => p;
      const unit = container === 'obj' && profile.space.unit === 'cm' ? 100 : 1;
      expect(farthest(vertices, CORNERS.map(fromPivot).map(seen))).toBeLessThan(1e-5 * unit);
    });
});

describe('delivered USD, read by the general-purpose loader of the view', () => {
  const usd = PROFILES.find(({ id }) => id === 'open-physics-usd')!;
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
      const group = new USDLoader().parse(new TextDecoder().decode(file!.bytes) as never);
      group.updateMatrixWorld(true);
      const vertices: Vec3[] = [];
      group.traverse((object) => {
        if (!(object instanceof Mesh)) return;
        const position = object.geometry.getAttribute('position');
        for (let i = 0; i < position.count; i++)
          vertices.push(
            new Vector3().fromBufferAttribute(position, i).applyMatrix4(object.matrixWorld).toArray(),
          );
      });
      // The loader leaves axes as the layer has them.
      const seen = (p: Vec3): Vec3 => (up === 'z' ? [p[0], -p[2], p[1]] : p);
      expect(farthest(vertices, CORNERS.map(fromPivot).map(seen)))
        .withContext(up)
        .toBeLessThan(1e-5);
    }
  });
});
