import { type Mesh, transformMesh } from '../../mesh/index.js';
import { type Scene, worldMatrices } from '../../piece/index.js';
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
 */
export function writeObj(scene: Scene, mtlName = 'materials.mtl'): ObjFiles {
  const out = new TextSink();
  if (scene.materials.length) out.line(`mtllib ${mtlName}`);
  const world = worldMatrices(scene.nodes);
  const base = { v: 1, vt: 1, vn: 1 };
  scene.nodes.forEach((node, i) => {
    if (node.mesh === null) return;
    out.line(`o ${node.name}`);
    writeMesh(out, transformMesh(scene.meshes[node.mesh]!.mesh, world[i]!), scene, base);
  });
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
  for (const group of mesh.groups) {
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

/** The shortest text that is the same number again in single precision. */
function single(value: number): string {
  const wanted = Math.fround(value);
  for (let digits = 6; digits < 9; digits++) {
    const text = Number(wanted.toPrecision(digits));
    if (Math.fround(text) === wanted) return String(text);
  }
  return String(Number(wanted.toPrecision(9)));
}

/** Lines collected in blocks, so that no string of the whole file is ever held. */
class TextSink {
  private readonly blocks: Uint8Array[] = [];
  private lines: string[] = [];
  private readonly encoder = new TextEncoder();

  line(text: string): void {
    this.lines.push(text);
    if (this.lines.length >= 8192) this.flush();
  }

  bytes(): Uint8Array {
    this.flush();
    const all = new Uint8Array(this.blocks.reduce((sum, block) => sum + block.length, 0));
    let at = 0;
    for (const block of this.blocks) {
      all.set(block, at);
      at += block.length;
    }
    return all;
  }

  private flush(): void {
    if (this.lines.length) this.blocks.push(this.encoder.encode(`${this.lines.join('\n')}\n`));
    this.lines = [];
  }
}
