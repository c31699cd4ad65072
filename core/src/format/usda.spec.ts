import fc from 'fast-check';
import { shapeVolume } from '../shape/index.js';
import { wholeMesh } from '../piece/index.js';
import { massOf, topologyOf } from '../mesh/index.js';
import { boundsOf } from '../math/index.js';
import { setApart } from '../target/index.js';
import { text } from '../testing/meshes.js';
import { FormatError } from './format-error.js';
import { memoryFile } from './input-file.js';
import { readFile } from './read-files.js';

const read = (body: string, head = '') =>
  readFile(memoryFile('layer.usda', text(`#usda 1.0\n${head}\n${body}`)));
const fault = async (body: string, head = ''): Promise<string> => {
  const error = await read(body, head).then(
    () => null,
    (thrown: unknown) => thrown,
  );
  expect(error).toBeInstanceOf(FormatError);
  return (error as FormatError).message;
};

/** A unit cube of six quads, its corners listed as other programs list them. */
const CUBE = `
  int[] faceVertexCounts = [4, 4, 4, 4, 4, 4]
  int[] faceVertexIndices = [0, 1, 3, 2, 2, 3, 5, 4, 4, 5, 7, 6, 6, 7, 1, 0, 1, 7, 5, 3, 6, 0, 2, 4]
  point3f[] points = [(-0.5, -0.5, 0.5), (0.5, -0.5, 0.5), (-0.5, 0.5, 0.5), (0.5, 0.5, 0.5), (-0.5, 0.5, -0.5), (0.5, 0.5, -0.5), (-0.5, -0.5, -0.5), (0.5, -0.5, -0.5)]`;
const mesh = (more = '', metadata = '') => `def Mesh "Cube" ${metadata} {${CUBE}\n${more}\n}`;

describe('a USD layer of another program', () => {
  it('is read by its unit and up axis, through groups, turns in any order and remarks', async () => {
    const scene = await read(
      `def Xform "Root" ( kind = "component" ; doc = """two
        lines""" )
      {
        # a remark
        double3 xformOp:translate:pivot = (1, 0, 0)
        float3 xformOp:rotateXYZ = (90, 0, 0)
        float3 xformOp:scale = (100, 100, 200)
        uniform token[] xformOpOrder = ["xformOp:translate:pivot", "xformOp:rotateXYZ", "xformOp:scale", "!invert!xformOp:translate:pivot"]
        ${mesh()}
        def Camera "Eye" { float focalLength = 50 }
        over "Elsewhere" { bool active = 0 }
        def DistantLight "Sun" { float inputs:intensity = 3 }
      }`,
      '(\n defaultPrim = "Root"\n metersPerUnit = 0.01\n upAxis = "Z"\n)',
    );
    expect(scene.unit).toEqual({ metres: 0.01, stated: true });
    expect(scene.leftOut.map(({ kind }) => kind)).toEqual(['camera', 'light']);
    const whole = wholeMesh(scene);
    expect(massOf(whole).volume).toBeCloseTo(2e6, 0);
    // Long along its own Z, turned a quarter about X, with Z up: it lies along our Z.
    const { min, max } = boundsOf(whole.positions);
    expect(max.map((v, k) => Math.round(v - min[k]!))).toEqual([100, 100, 200]);
  });

  it('keeps corners that differ by their UVs or normals apart, and joins those that do not', async () => {
    const perCorner = Array.from({ length: 24 }, (_, i) => `(${i % 4 < 2 ? 0 : 1}, ${i % 2})`).join(', ');
    const split = await read(
      mesh(`texCoord2f[] primvars:st = [${perCorner}] ( interpolation = "faceVarying" )`),
    );
    expect(split.meshes[0]!.mesh.uvs.length).toBe(1);
    expect(split.meshes[0]!.mesh.positions.length / 3).toBeGreaterThan(8);
    expect(topologyOf(split.meshes[0]!.mesh).openEdges).toBe(0);
    const indexed = await read(
      mesh(
        `texCoord2f[] primvars:st = [(0, 0), (1, 1)] ( interpolation = "vertex" )\n int[] primvars:st:indices = [0, 1, 0, 1, 0, 1, 0, 1]`,
      ),
    );
    expect(indexed.meshes[0]!.mesh.positions.length / 3).toBe(8);
  });

  it('turns the faces of a left-handed mesh, and gives faces their materials by subsets', async () => {
    const flipped = await read(mesh('uniform token orientation = "leftHanded"'));
    expect(massOf(flipped.meshes[0]!.mesh).volume).toBeCloseTo(-1, 9);
    const painted = await read(`
      def Scope "Looks" { def Material "Oak" {} def Material "Tar" {} }
      def Mesh "Cube" {${CUBE}
        rel material:binding = </Looks/Oak>
        def GeomSubset "some" { uniform token elementType = "face" int[] indices = [0, 2] rel material:binding = </Looks/Tar> }
      }`);
    expect(painted.materials.map(({ name }) => name)).toEqual(['Oak', 'Tar']);
    expect(painted.meshes[0]!.mesh.groups.map(({ material, count }) => [material, count])).toEqual([
      [0, 8],
      [1, 4],
    ]);
  });

  it('brings the collision that it says, and not what is only a guide or hidden', async () => {
    const scene = await read(`
      def Xform "Crate" {
        ${mesh()}
        def Cylinder "touch" ( prepend apiSchemas = ["PhysicsCollisionAPI"] ) {
          uniform token purpose = "guide"
          uniform token axis = "X"
          double radius = 0.25
          double height = 2
        }
        def Sphere "marker" { uniform token purpose = "guide" }
        def Cube "hidden" { token visibility = "invisible" }
      }`);
    const { proxies, scene: art } = setApart(scene);
    expect(proxies.map(({ shape }) => shape.kind)).toEqual(['cylinder']);
    expect(shapeVolume(proxies[0]!.shape)).toBeCloseTo(Math.PI * 0.0625 * 2, 9);
    const { min, max } = boundsOf(wholeMesh(art).positions);
    expect(max[0] - min[0]).toBeCloseTo(1, 9);
  });

  it('that is broken says what, and on which line', async () => {
    expect(await fault('')).toContain('it holds no drawn mesh');
    expect(
      (await readFile(memoryFile('x.usda', text('PXR-USDC'))).catch((e: Error) => e.message)) as string,
    ).toContain('#usda 1.0');
    expect(await fault('def Mesh "A" {')).toMatch(/line \d+.*not closed/);
    expect(await fault('def Mesh "A" { int[] x = [1, 2 }')).toMatch(/layer.usda, line/);
    expect(await fault('def Mesh "A" { string s = "never }')).toContain('not closed');
    expect(await fault('float x = 3')).toContain('outside of any prim');
    expect(await fault(mesh().replace('[4, 4, 4, 4, 4, 4]', '[4, 4, 4, 4, 4]'))).toContain(
      'its faces have 20 corners, and 24 are listed',
    );
    expect(await fault(mesh().replace('[0, 1, 3, 2,', '[0, 1, 3, 99,'))).toContain(
      'corner 4 names point 99, and there are 8',
    );
    expect(await fault(mesh().replace('[0, 1, 3, 2,', '[0, 1, 3, nan,'))).toContain(
      'corner 4 names no number of a point',
    );
    expect(await fault(mesh().replace('[4, 4, 4,', '[4, nan, 4,'))).toContain(
      'face 2 has no number of corners',
    );
    expect(await fault(mesh('normal3f[] normals = [(0, 0, 1)] ( interpolation = "vertex" )'))).toContain(
      'normals has too few values',
    );
    expect(await fault(`${'def Xform "a" {'.repeat(600)}${'}'.repeat(600)}`)).toContain('nest deeper');
    expect(
      await fault(
        mesh('double3 xformOp:translate = (1, 2)\n uniform token[] xformOpOrder = ["xformOp:translate"]'),
      ),
    ).toContain('2 numbers instead of 3');
  });

  it('cut anywhere, or with anything in it, is read or refused with a sentence', async () => {
    const whole = `#usda 1.0\n(\n metersPerUnit = 1\n)\ndef Xform "Root" {\n${mesh('rel material:binding = </a/b>')}\n}`;
    await fc.assert(
      fc.asyncProperty(
        fc.nat(whole.length),
        fc.nat(whole.length),
        fc.string({ maxLength: 6, unit: 'binary' }),
        async (from, to, put) => {
          const broken = whole.slice(0, from) + put + whole.slice(Math.max(from, to));
          await readFile(memoryFile('layer.usda', text(broken))).catch((error: unknown) => {
            expect(error).withContext(broken).toBeInstanceOf(FormatError);
          });
        },
      ),
      { numRuns: 400 },
    );
  });
});
