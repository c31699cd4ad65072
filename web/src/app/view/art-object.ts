import type { PieceDocument } from '@yard-brace/core';
import { routes } from '@yard-brace/contract';
import {
  BufferAttribute,
  BufferGeometry,
  ClampToEdgeWrapping,
  Color,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshStandardMaterial,
  MirroredRepeatWrapping,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
} from 'three';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';
import type { ArtToDraw } from '../compute/messages';

const WRAPS = { repeat: RepeatWrapping, clamp: ClampToEdgeWrapping, mirror: MirroredRepeatWrapping };
const LIGHT_GREY = new Color('#d8d0c2');
const DARK_GREY = new Color('#857d70');

/** The art as three.js draws it: warm greys by how light each material is, pictures where it has them, inked edges. */
export class ArtObject {
  readonly group = new Group();
  readonly mesh: Mesh<BufferGeometry, MeshStandardMaterial[]>;
  private readonly ink: LineSegments<BufferGeometry, LineBasicMaterial>;
  private readonly textures: Texture[] = [];

  constructor(art: ArtToDraw, document: Pick<PieceDocument, 'materials' | 'pictures'>, changed: () => void) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(art.positions, 3));
    geometry.setIndex(new BufferAttribute(art.indices, 1));
    if (art.normals) geometry.setAttribute('normal', new BufferAttribute(art.normals, 3));
    if (art.uv) geometry.setAttribute('uv', new BufferAttribute(art.uv, 2));
    if (art.colors) geometry.setAttribute('color', new BufferAttribute(art.colors, 4));
    if (art.tree) geometry.boundsTree = MeshBVH.deserialize(art.tree, geometry, { setIndex: false });
    art.groups.forEach(({ start, count }, i) => geometry.addGroup(start * 3, count * 3, i));
    const materials = art.groups.map(({ material }) => this.material(art, document, material, changed));
    this.mesh = new Mesh(geometry, materials);
    this.mesh.raycast = acceleratedRaycast;
    const edges = new BufferGeometry();
    edges.setAttribute('position', new BufferAttribute(art.ink, 3));
    this.ink = new LineSegments(
      edges,
      new LineBasicMaterial({ color: '#1E2A2F', transparent: true, opacity: 0.4 }),
    );
    this.group.add(this.mesh, this.ink);
    this.group.position.set(...art.origin);
  }

  /** 0 is gone, 1 is solid. */
  fade(opacity: number): void {
    this.group.visible = opacity > 0.01;
    for (const material of this.mesh.material) {
      material.transparent = opacity < 1;
      material.opacity = opacity;
      material.depthWrite = opacity > 0.5;
      material.needsUpdate = true;
    }
    this.ink.material.opacity = 0.4 * opacity;
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.ink.geometry.dispose();
    this.ink.material.dispose();
    for (const material of this.mesh.material) material.dispose();
    for (const texture of this.textures) texture.dispose();
  }

  private material(
    art: ArtToDraw,
    document: Pick<PieceDocument, 'materials' | 'pictures'>,
    number: number,
    changed: () => void,
  ): MeshStandardMaterial {
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
    const use = source?.pictures.baseColor;
    if (use && art.uv) {
      void this.texture(document.pictures[use.picture]!.blob).then(
        (texture) => {
          texture.wrapS = WRAPS[use.wrap[0]];
          texture.wrapT = WRAPS[use.wrap[1]];
          drawn.map = texture;
          drawn.color = new Color(r, g, b);
          drawn.needsUpdate = true;
          changed();
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
}
