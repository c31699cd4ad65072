import { type Mesh, transformMesh } from '../../mesh/index.js';
import { type Scene, worldMatrices } from '../../piece/index.js';
import { OUR_SPACE, type Space, spaceRemark } from '../space.js';
import { single, TextSink } from '../text-sink.js';
import { writeMtl } from './mtl.js';

export interface ObjFiles {
  obj: Uint8Array;
  /** empty when the scene has no materials */
  mtl: Uint8Array;
}

/**
 * A scene as OBJ and MTL: one `o` a node that has a mesh, transforms baked since OBJ has none. Numbers
 * are written in the shortest form that reads back the same. Pictures are named, not written.
 *
 * @param mtlName file name the OBJ refers to
 * @param space of the scene's numbers: OBJ states none, so a remark does where it is not ours
 */
export function writeObj(scene: Scene, mtlName = 'materials.mtl', space: Space = OUR_SPACE): ObjFiles {
  const out = new TextSink();
  if (JSON.stringify(space) !== JSON.stringify(OUR_SPACE)) out.line(spaceRemark(space));
  if (scene.materials.length) out.line(`mtllib ${mtlName}`);
  const world = worldMatrices(scene.nodes);
  const base = { v: 1, vt: 1, vn: 1 };
  // A material goes on until another one is named, and none cannot be: what has none stands first.
  const isBare = (mesh: number) => scene.meshes[mesh]!.mesh.groups.every(({ material }) => material < 0);
  const drawn = scene.nodes.flatMap(({ name, mesh }, i) => (mesh === null ? [] : [{ name, mesh, i }]));
  for (const { name, mesh, i } of [
    ...drawn.filter((node) => isBare(node.mesh)),
    ...drawn.filter((node) => !isBare(node.mesh)),
  ]) {
    out.line(`o ${name}`);
    writeMesh(out, transformMesh(scene.meshes[mesh]!.mesh, world[i]!), scene, base);
  }
  return { obj: out.bytes(), mtl: new TextEncoder().encode(scene.materials.length ? writeMtl(scene) : '') };
}

function writeMesh(
  out: TextSink,
  mesh: Mesh,
  scene: Scene,
  base: { v: number; vt: number; vn: number },
): void {
  const n = mesh.positions.length / 3;
  const { positions: p, colors, normals } = mesh;
  for (let i = 0; i < n; i++) {
    const colour = colors ? ` ${colors[i * 4]} ${colors[i * 4 + 1]} ${colors[i * 4 + 2]}` : '';
    out.line(`v ${p[i * 3]} ${p[i * 3 + 1]} ${p[i * 3 + 2]}${colour}`);
  }
  const uv = mesh.uvs[0];
  if (uv) for (let i = 0; i < n; i++) out.line(`vt ${single(uv[i * 2]!)} ${single(1 - uv[i * 2 + 1]!)}`);
  if (normals)
    for (let i = 0; i < n; i++)
      out.line(`vn ${single(normals[i * 3]!)} ${single(normals[i * 3 + 1]!)} ${single(normals[i * 3 + 2]!)}`);
  const corner = (v: number) =>
    `${base.v + v}${uv || normals ? '/' : ''}${uv ? base.vt + v : ''}${normals ? `/${base.vn + v}` : ''}`;
  for (const group of [...mesh.groups].sort((a, b) => Number(a.material >= 0) - Number(b.material >= 0))) {
    if (group.material >= 0) out.line(`usemtl ${scene.materials[group.material]!.name}`);
    for (let t = group.start; t < group.start + group.count; t++) {
      const [a, b, c] = [mesh.indices[t * 3]!, mesh.indices[t * 3 + 1]!, mesh.indices[t * 3 + 2]!];
      out.line(`f ${corner(a)} ${corner(b)} ${corner(c)}`);
    }
  }
  base.v += n;
  if (uv) base.vt += n;
  if (normals) base.vn += n;
}
