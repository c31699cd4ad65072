import type { PieceDocument } from '@yard-brace/core';
import { routes } from '@yard-brace/contract';
import {
  ClampToEdgeWrapping,
  Color,
  DataTexture,
  DoubleSide,
  MeshLambertMaterial,
  MirroredRepeatWrapping,
  NearestFilter,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
} from 'three';
import type { ArtLook } from './art-object';
import type { ArtToDraw } from './art-to-draw';

const WRAPS = { repeat: RepeatWrapping, clamp: ClampToEdgeWrapping, mirror: MirroredRepeatWrapping };
const LIGHT_GREY = new Color('#d8d0c2');
const DARK_GREY = new Color('#857d70');

/** Fronts are pale, backs are vermilion with a hatch: told apart without colour, too. */
const FACING = `#include <opaque_fragment>
  if (facing > 0.5) {
    float light = 0.55 + 0.45 * dot(normal, normalize(vec3(0.3, 0.6, 0.7)));
    float hatch = step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 9.0));
    vec3 front = vec3(0.86, 0.83, 0.76);
    vec3 back = mix(vec3(0.58, 0.09, 0.05), vec3(0.75, 0.25, 0.17), hatch);
    gl_FragColor.rgb = (gl_FrontFacing ? front : back) * light;
  }`;

/** The materials of one art: warm greys by how light each is, pictures where it has them. */
export class ArtMaterials {
  readonly all: MeshLambertMaterial[];
  private readonly textures: Texture[] = [];
  private readonly pictures = new Map<MeshLambertMaterial, Texture>();
  private readonly facing = { value: 0 };
  private checker: DataTexture | undefined;

  /** @param changed called when a picture has arrived */
  constructor(
    private readonly art: ArtToDraw,
    private readonly document: Pick<PieceDocument, 'materials' | 'pictures'>,
    private readonly changed: () => void,
  ) {
    this.all = art.groups.map(({ material }) => this.material(material));
  }

  look({ facing, checker, checkerSet = 0 }: Omit<ArtLook, 'wire'>): void {
    this.facing.value = facing ? 1 : 0;
    for (const material of this.all) {
      material.map =
        checker && this.art.uvs[checkerSet]
          ? this.checkerOn(checkerSet)
          : (this.pictures.get(material) ?? null);
      material.needsUpdate = true;
    }
  }

  dispose(): void {
    for (const material of this.all) material.dispose();
    for (const texture of this.textures) texture.dispose();
  }

  private material(number: number): MeshLambertMaterial {
    const { art, document } = this;
    const source = document.materials[number];
    const [r, g, b] = source?.baseColor ?? [0.6, 0.6, 0.6];
    const lightness = Math.sqrt(Math.min(1, 0.3 * r + 0.6 * g + 0.1 * b));
    const drawn = new MeshLambertMaterial({
      flatShading: !art.normals,
      vertexColors: !!art.colors,
      // An inside-out face is a finding, not a hole in the picture.
      side: DoubleSide,
      color: art.colors ? new Color('#ffffff') : DARK_GREY.clone().lerp(LIGHT_GREY, lightness),
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    });
    drawn.onBeforeCompile = (shader) => {
      shader.uniforms['facing'] = this.facing;
      shader.fragmentShader = shader.fragmentShader
        .replace('void main() {', 'uniform float facing;\nvoid main() {')
        .replace('#include <opaque_fragment>', FACING);
    };
    const use = source?.pictures.baseColor;
    if (use && art.uvs[use.uvSet]) {
      void this.texture(document.pictures[use.picture]!.blob).then(
        (texture) => {
          texture.channel = use.uvSet;
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

  private checkerOn(set: number): DataTexture {
    const checker = this.checkerTexture();
    checker.channel = set;
    return checker;
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
