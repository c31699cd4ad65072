import { readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import * as core from '@yard-brace/core';
import { compareTask, judgeTask } from './bench-convex.mjs';
import { trialByItself, trialRoute, trialSetUp, trialSteps } from './bench-trial.mjs';
import { lumpy } from './lumpy.mjs';

const [task, file] = process.argv.slice(2);
const tasks = {
  read,
  weld,
  'weld-near': weldNear,
  survey,
  'survey-shells': surveyShells,
  winding,
  stl,
  collada,
  deliver,
  write,
  'three-obj': threeObj,
  'three-gltf': threeGltf,
  'solid-distance': solidDistance,
  'decompose-5k': () => decomposeLumpy(50, 50),
  'decompose-50k': () => decomposeLumpy(160, 160),
  'decompose-million': () => decomposeLumpy(1000, 500),
  'decompose-crumbs': decomposeCrumbs,
  compare: async () => {
    const work = compareTask();
    work();
    await measure(work);
  },
  'judge-64': () => judgeMoved(4),
  'judge-1000': () => judgeMoved(10),
  'trial-set-up-64': () => measure(trialSetUp(64)),
  'trial-set-up-500': () => measure(trialSetUp(500)),
  'trial-set-up-5000': () => measure(trialSetUp(5000)),
  'trial-steps-64': async () => measure(await trialSteps(64)),
  'trial-steps-500': async () => measure(await trialSteps(500)),
  'trial-steps-5000': async () => measure(await trialSteps(5000)),
  'trial-route': async () => measure(await trialRoute(500)),
  'trial-by-itself': () => measure(trialByItself()),
  'hull-cube': () => hull(cube()),
  'hull-sphere': () => hull(sphere()),
  'three-hull-cube': () => threeHull(cube()),
  'three-hull-sphere': () => threeHull(sphere()),
};
await tasks[task]();

/** Time of the work alone, without reading the file; memory at its highest, with it. */
async function measure(work) {
  const start = performance.now();
  await work();
  const ms = performance.now() - start;
  process.stdout.write(JSON.stringify({ ms, megabytes: process.resourceUsage().maxRSS / 1024 }));
}

function readScene() {
  return core.readFile(core.memoryFile(basename(file), new Uint8Array(readFileSync(file))));
}

async function read() {
  const bytes = new Uint8Array(readFileSync(file));
  await measure(() => core.readFile(core.memoryFile(basename(file), bytes)));
}

/** Every triangle with corners of its own: the worst that an exporter writes. */
async function loosePositions() {
  const { mesh } = (await readScene()).meshes[0];
  const positions = new Float64Array(mesh.indices.length * 3);
  mesh.indices.forEach((v, i) => positions.set(mesh.positions.subarray(v * 3, v * 3 + 3), i * 3));
  return positions;
}

async function weld() {
  const positions = await loosePositions();
  await measure(() => core.weld(positions));
}

async function weldNear() {
  const positions = await loosePositions();
  await measure(() => core.weld(positions, 1e-4));
}

async function survey() {
  const { mesh } = (await readScene()).meshes[0];
  await measure(() => core.surveyMesh(mesh));
}

/** Balls in a grid so close that each runs into its neighbours: every face is asked whether it is hidden. */
async function surveyShells() {
  const balls = [];
  const ball = core.shapeTriangles({ kind: 'sphere', center: [0, 0, 0], radius: 0.55 }, { segments: 14 });
  for (let i = 0; i < 1000; i++)
    balls.push(
      core.plainMesh(
        ball.points.map((v, k) => v + [i % 10, ((i / 10) | 0) % 10, (i / 100) | 0][k % 3]),
        ball.indices,
      ),
    );
  const mesh = core.joinMeshes(balls);
  await measure(() => core.surveyMesh(mesh));
}

async function winding() {
  const { mesh } = (await readScene()).meshes[0];
  await measure(() => new core.Winding(mesh));
}

async function stl() {
  const [file] = await core.writeScene(await readScene(), 'stl', 'million');
  await measure(() => core.readFile(core.memoryFile('million.stl', file.bytes)));
}

async function collada() {
  const [file] = await core.writeScene(await readScene(), 'dae', 'kit');
  await measure(() => core.readFile(core.memoryFile('kit.dae', file.bytes)));
}

async function deliver() {
  const bytes = new Uint8Array(readFileSync(file));
  await measure(async () => {
    const scene = await core.readFile(core.memoryFile(basename(file), bytes));
    const { document, blobs } = core.takeIn(scene, {
      files: [{ name: 'kit.obj', blob: core.blobId(bytes), bytes: bytes.length }],
      meshName: core.meshNameFrom,
      target: 'prefix-tags',
    });
    const meshOf = (id) => core.decodeMesh(blobs.get(id));
    const { shapes } = core.wrap(core.artMesh(document, meshOf), {
      kind: 'hull',
      per: 'shell',
      maxCorners: 64,
    });
    const piece = core.applyEdit(
      document,
      core.replaceProxies(shapes.map((shape, i) => ({ id: `s${i}`, shape }))),
    );
    const files = await core.assemble(piece, core.PREFIX_TAGS, { meshOf, pictureOf: (id) => blobs.get(id) });
    const report = await core.readBack(files, core.PREFIX_TAGS);
    if (!core.agreesInAll(core.compareReadBack(core.expectationOf(piece, core.PREFIX_TAGS), report)))
      throw new Error('the read-back differs');
  });
}

async function threeObj() {
  const { OBJLoader } = await import('three/addons/loaders/OBJLoader.js');
  const bytes = readFileSync(file);
  await measure(() => new OBJLoader().parse(new TextDecoder().decode(bytes)));
}

async function threeGltf() {
  const { GLTFLoader } = await import('three/addons/loaders/GLTFLoader.js');
  const bytes = new Uint8Array(readFileSync(file));
  await measure(() => new GLTFLoader().parseAsync(bytes.buffer, ''));
}

/** A hull in the middle of work, not the first one ever: both sides are warmed up alike. */
async function hull(points) {
  for (let i = 0; i < 4; i++) core.convexHull(points);
  await measure(() => core.convexHull(points));
}

async function solidDistance() {
  const mesh = lumpy(1000, 500);
  await measure(() => new core.SolidDistance(mesh));
}

async function judgeMoved(perSide) {
  const work = judgeTask(perSide);
  work();
  await measure(work);
}

async function decomposeLumpy(around, up) {
  const mesh = lumpy(around, up);
  await measure(() => core.decompose(mesh, { maxShapes: 32 }));
}

/** A million loose triangles, a centimetre each, in a cube of ten metres: refused, and at once. */
async function decomposeCrumbs() {
  const next = numbers();
  const positions = new Float64Array(9_000_000);
  for (let i = 0; i < positions.length; i += 9) {
    const at = [next() * 10, next() * 10, next() * 10];
    for (let k = 0; k < 9; k++) positions[i + k] = at[k % 3] + next() * 0.01;
  }
  const mesh = core.plainMesh(
    positions,
    new Uint32Array(3_000_000).map((_, i) => i),
  );
  await measure(async () => {
    const refused = await core.decompose(mesh, { maxShapes: 32 }).then(
      () => false,
      (error) => error instanceof core.DecomposeError,
    );
    if (!refused) throw new Error('a million loose crumbs were not refused');
  });
}

async function threeHull(points) {
  const { ConvexHull } = await import('three/addons/math/ConvexHull.js');
  const { Vector3 } = await import('three');
  const vectors = [];
  for (let i = 0; i < points.length; i += 3)
    vectors.push(new Vector3(points[i], points[i + 1], points[i + 2]));
  for (let i = 0; i < 4; i++) new ConvexHull().setFromPoints(vectors);
  await measure(() => new ConvexHull().setFromPoints(vectors));
}

/** Numbers from 0 to 1, the same in every run. */
function numbers() {
  let state = 1;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

function cube() {
  const next = numbers();
  return Float64Array.from({ length: 300_000 }, next);
}

function sphere() {
  const next = numbers();
  const points = new Float64Array(300_000);
  for (let i = 0; i < points.length; i += 3) {
    const z = next() * 2 - 1;
    const angle = next() * 2 * Math.PI;
    const r = Math.sqrt(1 - z * z);
    points.set([r * Math.cos(angle), r * Math.sin(angle), z], i);
  }
  return points;
}

/** A wavy ball of a million triangles with UVs and normals, and a kit of 50 balls of 4 000. */
async function write() {
  const million = ball(1000, 500);
  const scene = (meshes) => ({
    unit: { metres: 1, stated: true },
    nodes: meshes.map((_, i) => core.plainNode(`ball_${i}`, i)),
    meshes: meshes.map((mesh, i) => ({ name: `ball_${i}`, mesh })),
    materials: [],
    pictures: [],
    leftOut: [],
    notes: [],
  });
  writeFileSync(join(file, 'million.obj'), core.writeObj(scene([million])).obj);
  writeFileSync(join(file, 'million.glb'), await core.writeGlb(scene([million])));
  const kit = Array.from({ length: 50 }, (_, i) => ({
    ...ball(80, 25),
    positions: ball(80, 25).positions.map((v, k) => v + (k % 3 === 0 ? i * 4 : 0)),
  }));
  writeFileSync(join(file, 'kit.obj'), core.writeObj(scene([core.joinMeshes(kit)])).obj);
}

function ball(around, up) {
  const positions = [];
  const normals = [];
  const uv = [];
  for (let j = 0; j <= up; j++) {
    for (let i = 0; i <= around; i++) {
      const [a, b] = [(i / around) * 2 * Math.PI, (j / up) * Math.PI];
      const n = [Math.sin(b) * Math.cos(a), Math.cos(b), Math.sin(b) * Math.sin(a)];
      const r = 1 + 0.05 * Math.sin(9 * a) * Math.sin(b) ** 2 * Math.sin(7 * b);
      positions.push(...n.map((v) => Math.round(v * r * 1e6) / 1e6));
      normals.push(...n.map((v) => Math.round(v * 1e4) / 1e4));
      uv.push(i / around, j / up);
    }
  }
  const indices = [];
  for (let j = 0; j < up; j++) {
    for (let i = 0; i < around; i++) {
      const a = j * (around + 1) + i;
      indices.push(a, a + 1, a + around + 2, a, a + around + 2, a + around + 1);
    }
  }
  const mesh = core.plainMesh(positions, indices);
  return { ...mesh, normals: Float32Array.from(normals), uvs: [Float32Array.from(uv)] };
}
