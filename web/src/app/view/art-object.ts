import type { PieceDocument } from '@yard-brace/core';
import { routes } from '@yard-brace/contract';
import {
  BufferAttribute,
  BufferGeometry,
  ClampToEdgeWrapping,
  Color,
  DataTexture,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  MeshStandardMaterial,
  MirroredRepeatWrapping,
  NearestFilter,
  type Plane,
  type Raycaster,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
} from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { ArtToDraw } from '../compute/messages';

const WRAPS = { repeat: RepeatWrapping, clamp: ClampToEdgeWrapping, mirror: MirroredRepeatWrapping };
const LIGHT_GREY = new Color('#d8d0c2');
const DARK_GREY = new Color('#857d70');
const FAINT = 0.12;

/** How the art is drawn. */
export interface ArtLook {
  /** front and back of faces told apart */
  facing: boolean;
  /** a checker in place of the pictures */
  checker: boolean;
  wire: boolean;
}

export interface ArtHit {
  /** number of the triangle */
  face: number;
  /** metres, in the piece's space */
  at: [number, number, number];
}

/** The art as three.js draws it: warm greys by how light each material is, pictures where it has them, inked edges. */
export class ArtObject {
  readonly group = new Group();
  readonly mesh: Mesh<BufferGeometry, MeshStandardMaterial[]>;
  private readonly faint: Mesh<BufferGeometry, MeshStandardMaterial[]>;
  private readonly ink: LineSegments<BufferGeometry, LineBasicMaterial>;
  private wire: LineSegments<BufferGeometry, LineBasicMaterial> | undefined;
  private readonly textures: Texture[] = [];
  private readonly pictures = new Map<MeshStandardMaterial, Texture>();
  private readonly base: BufferGeometry;
  private tree: MeshBVH | undefined;
  private readonly facing = { value: 0 };
  private swung: Mesh<BufferGeometry, MeshStandardMaterial[]> | undefined;
  private solid: ((face: number) => boolean) | null = null;
  private clip: Plane | null = null;
  private checker: DataTexture | undefined;
  private opacity = 1;
  private painted: Mesh<BufferGeometry, MeshStandardMaterial> | undefined;

  constructor(
    readonly art: ArtToDraw,
    document: Pick<PieceDocument, 'materials' | 'pictures'>,
    private readonly changed: () => void,
  ) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(art.positions, 3));
    geometry.setIndex(new BufferAttribute(art.indices, 1));
    if (art.normals) geometry.setAttribute('normal', new BufferAttribute(art.normals, 3));
    if (art.uv) geometry.setAttribute('uv', new BufferAttribute(art.uv, 2));
    if (art.colors) geometry.setAttribute('color', new BufferAttribute(art.colors, 4));
    if (art.tree) this.tree = MeshBVH.deserialize(art.tree, geometry, { setIndex: false });
    art.groups.forEach(({ start, count }, i) => geometry.addGroup(start * 3, count * 3, i));
    this.base = geometry;
    const materials = art.groups.map(({ material }) => this.material(document, material));
    this.mesh = new Mesh(geometry, materials);
    this.faint = new Mesh(
      new BufferGeometry(),
      materials.map((material) => {
        const faint = material.clone();
        Object.assign(faint, { transparent: true, opacity: FAINT, depthWrite: false });
        return faint;
      }),
    );
    this.faint.visible = false;
    const edges = new BufferGeometry();
    edges.setAttribute('position', new BufferAttribute(art.ink, 3));
    this.ink = new LineSegments(
      edges,
      new LineBasicMaterial({ color: '#1E2A2F', transparent: true, opacity: 0.4 }),
    );
    this.group.add(this.mesh, this.faint, this.ink);
    this.group.position.set(...art.origin);
  }

  /** Paint every vertex in a colour of its own ([3n], linear) in place of its material; null takes that away. */
  paint(colors: Float32Array | null): void {
    if (this.painted) {
      this.group.remove(this.painted);
      this.painted.geometry.dispose();
      this.painted.material.dispose();
      this.painted = undefined;
    }
    this.mesh.visible = !colors;
    if (!colors) return;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', this.base.getAttribute('position'));
    if (this.art.normals) geometry.setAttribute('normal', this.base.getAttribute('normal'));
    geometry.setAttribute('color', new BufferAttribute(colors, 3));
    geometry.setIndex(this.base.getIndex());
    const material = new MeshStandardMaterial({
      vertexColors: true,
      roughness: 1,
      flatShading: !this.art.normals,
      side: DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
      clippingPlanes: this.clip ? [this.clip] : null,
    });
    this.painted = new Mesh(geometry, material);
    this.group.add(this.painted);
    this.fade(this.opacity);
  }

  /** 0 is gone, 1 is solid. */
  fade(opacity: number): void {
    this.opacity = opacity;
    this.group.visible = opacity > 0.01;
    for (const material of this.drawnMaterials()) {
      material.transparent = opacity < 1;
      material.opacity = opacity;
      material.depthWrite = opacity > 0.5;
      material.needsUpdate = true;
    }
    this.ink.material.opacity = 0.4 * opacity;
  }

  /** Draw some parts whole, some faintly, the rest not at all; null draws everything whole. */
  showParts(looks: ((part: number) => 'whole' | 'faint' | 'gone') | null): void {
    this.solid = looks && ((face) => looks(this.art.part[face]!) === 'whole');
    if (this.mesh.geometry !== this.base) this.mesh.geometry.dispose();
    this.faint.geometry.dispose();
    this.mesh.geometry = looks ? this.facesWhere((part) => looks(part) === 'whole') : this.base;
    this.faint.geometry = looks ? this.facesWhere((part) => looks(part) === 'faint') : new BufferGeometry();
    this.faint.visible = !!looks;
    this.ink.visible = !looks;
  }

  /** Draw some parts turned about a point, the rest where it stands; null puts all back. */
  swing(parts: ((part: number) => boolean) | null, turn?: Matrix4): void {
    if (this.swung) {
      this.group.remove(this.swung);
      this.swung.geometry.dispose();
      this.swung = undefined;
    }
    this.showParts(parts && ((part) => (parts(part) ? 'gone' : 'whole')));
    if (!parts || !turn) return;
    this.swung = new Mesh(this.facesWhere(parts), this.mesh.material);
    const { x, y, z } = this.group.position;
    this.swung.matrixAutoUpdate = false;
    this.swung.matrix
      .makeTranslation(-x, -y, -z)
      .multiply(turn)
      .multiply(new Matrix4().makeTranslation(x, y, z));
    this.group.add(this.swung);
  }

  look({ facing, checker, wire }: ArtLook): void {
    this.facing.value = facing ? 1 : 0;
    for (const material of this.mesh.material) {
      material.map = checker && this.art.uv ? this.checkerTexture() : (this.pictures.get(material) ?? null);
      material.needsUpdate = true;
    }
    if (wire && !this.wire) this.wire = this.wireLines();
    if (this.wire) this.wire.visible = wire;
  }

  /** What lies in front of the plane is cut away. */
  cut(plane: Plane | null): void {
    this.clip = plane;
    const lines = this.wire ? [this.ink.material, this.wire.material] : [this.ink.material];
    for (const material of [...this.drawnMaterials(), ...this.faint.material, ...lines]) {
      material.clippingPlanes = plane ? [plane] : null;
      material.needsUpdate = true;
    }
  }

  private drawnMaterials(): MeshStandardMaterial[] {
    return this.painted ? [...this.mesh.material, this.painted.material] : this.mesh.material;
  }

  /** The nearest face that is drawn and not cut away. */
  hit(ray: Raycaster): ArtHit | null {
    // Built here only for art that came without one: the worker sends it along.
    this.tree ??= new MeshBVH(this.base, { indirect: true });
    const local = ray.ray.clone();
    local.origin.sub(this.group.position);
    const shown = (face: number) => !this.solid || this.solid(face);
    let nearest: ArtHit | null = null;
    let distance = Infinity;
    const hits =
      this.solid || this.clip
        ? this.tree.raycast(local, DoubleSide)
        : [this.tree.raycastFirst(local, DoubleSide)];
    for (const hit of hits) {
      if (
        !hit ||
        hit.distance >= distance ||
        hit.faceIndex === null ||
        hit.faceIndex === undefined ||
        !shown(hit.faceIndex)
      )
        continue;
      const at = hit.point.add(this.group.position);
      if (this.clip && this.clip.distanceToPoint(at) < 0) continue;
      distance = hit.distance;
      nearest = { face: hit.faceIndex, at: at.toArray() };
    }
    return nearest;
  }

  dispose(): void {
    this.paint(null);
    this.mesh.geometry.dispose();
    this.base.dispose();
    this.faint.geometry.dispose();
    this.swung?.geometry.dispose();
    this.ink.geometry.dispose();
    this.ink.material.dispose();
    this.wire?.geometry.dispose();
    this.wire?.material.dispose();
    for (const material of [...this.mesh.material, ...this.faint.material]) material.dispose();
    for (const texture of this.textures) texture.dispose();
  }

  /** The same vertices with an index of only some faces. */
  private facesWhere(takes: (part: number) => boolean): BufferGeometry {
    const { indices, part, groups } = this.art;
    const picked = new Uint32Array(indices.length);
    const geometry = new BufferGeometry();
    for (const name of Object.keys(this.base.attributes))
      geometry.setAttribute(name, this.base.getAttribute(name));
    let at = 0;
    groups.forEach(({ start, count }, i) => {
      const from = at;
      for (let face = start; face < start + count; face++) {
        if (!takes(part[face]!)) continue;
        picked[at] = indices[face * 3]!;
        picked[at + 1] = indices[face * 3 + 1]!;
        picked[at + 2] = indices[face * 3 + 2]!;
        at += 3;
      }
      geometry.addGroup(from, at - from, i);
    });
    geometry.setIndex(new BufferAttribute(picked.subarray(0, at), 1));
    return geometry;
  }

  /** Each shared edge once: a side is drawn by the lower of its two faces. */
  private wireLines(): LineSegments<BufferGeometry, LineBasicMaterial> {
    const { indices, neighbours } = this.art;
    const lines = new Uint32Array(indices.length * 2);
    let at = 0;
    for (let side = 0; side < indices.length; side++) {
      if (neighbours[side]! > ((side / 3) | 0)) continue;
      lines[at++] = indices[side]!;
      lines[at++] = indices[side % 3 === 2 ? side - 2 : side + 1]!;
    }
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', this.base.getAttribute('position'));
    geometry.setIndex(new BufferAttribute(lines.subarray(0, at), 1));
    const wire = new LineSegments(
      geometry,
      new LineBasicMaterial({ color: '#17616E', transparent: true, opacity: 0.55 }),
    );
    this.group.add(wire);
    return wire;
  }

  private material(
    document: Pick<PieceDocument, 'materials' | 'pictures'>,
    number: number,
  ): MeshStandardMaterial {
    const { art } = this;
    const source = document.materials[number];
    const drawn = new MeshStandardMaterial({
      roughness: 0.95,
      metalness: 0,
      flatShading: !art.normals,
      vertexColors: !!art.colors,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    });
    // Art is drawn from both sides: an inside-out face is a finding, not a hole in the picture.
    drawn.side = DoubleSide;
    const [r, g, b] = source?.baseColor ?? [0.6, 0.6, 0.6];
    const lightness = Math.sqrt(Math.min(1, 0.3 * r + 0.6 * g + 0.1 * b));
    drawn.color = art.colors ? new Color('#ffffff') : DARK_GREY.clone().lerp(LIGHT_GREY, lightness);
    drawn.onBeforeCompile = (shader) => {
      shader.uniforms['facing'] = this.facing;
      // With `facing`, fronts are pale and backs are vermilion with a hatch: told apart without colour too.
      shader.fragmentShader = shader.fragmentShader
        .replace('void main() {', 'uniform float facing;\nvoid main() {')
        .replace(
          '#include <opaque_fragment>',
          `#include <opaque_fragment>
          if (facing > 0.5) {
            float light = 0.55 + 0.45 * dot(normal, normalize(vec3(0.3, 0.6, 0.7)));
            float hatch = step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 9.0));
            vec3 front = vec3(0.86, 0.83, 0.76);
            vec3 back = mix(vec3(0.58, 0.09, 0.05), vec3(0.75, 0.25, 0.17), hatch);
            gl_FragColor.rgb = (gl_FrontFacing ? front : back) * light;
          }`,
        );
    };
    const use = source?.pictures.baseColor;
    if (use && art.uv) {
      void this.texture(document.pictures[use.picture]!.blob).then(
        (texture) => {
          texture.wrapS = WRAPS[use.wrap[0]];
          texture.wrapT = WRAPS[use.wrap[1]];
          this.pictures.set(drawn, texture);
          drawn.map ??= texture;
          drawn.color = new Color(r, g, b);
          drawn.needsUpdate = true;
          this.changed();
        },
        () => undefined,
      );
    }
    return drawn;
  }

  private async texture(blob: string): Promise<Texture> {
    const response = await fetch(routes.blob(blob));
    const texture = new Texture(await createImageBitmap(await response.blob()));
    texture.flipY = false;
    texture.colorSpace = SRGBColorSpace;
    texture.needsUpdate = true;
    this.textures.push(texture);
    return texture;
  }

  /** Eight by eight squares a picture, one corner square darker, so that turns and mirrors show. */
  private checkerTexture(): DataTexture {
    if (this.checker) return this.checker;
    const data = new Uint8Array(8 * 8 * 4);
    for (let y = 0; y < 8; y++)
      for (let x = 0; x < 8; x++) {
        const tone = x === 0 && y === 0 ? [23, 97, 110] : (x + y) % 2 ? [246, 242, 233] : [166, 156, 138];
        data.set([...tone, 255], (y * 8 + x) * 4);
      }
    this.checker = new DataTexture(data, 8, 8);
    this.checker.wrapS = this.checker.wrapT = RepeatWrapping;
    this.checker.magFilter = NearestFilter;
    this.checker.colorSpace = SRGBColorSpace;
    this.checker.needsUpdate = true;
    this.textures.push(this.checker);
    return this.checker;
  }
}
