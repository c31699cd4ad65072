import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
} from 'three';
import type { ArtToDraw } from '../../drawing/art-to-draw';
import type { Layer } from '../layer';

/** Faces and edges of the art painted over: a selection, or where a fault is. */
export class OverlayLayer implements Layer {
  readonly object = new Group();
  private readonly faces: Mesh<BufferGeometry, MeshBasicMaterial>;
  private readonly lines: LineSegments<BufferGeometry, LineBasicMaterial>;

  constructor(
    color: string,
    opacity: number,
    private readonly changed: () => void,
    { hatched = false } = {},
  ) {
    this.faces = new Mesh(
      new BufferGeometry(),
      new MeshBasicMaterial({
        color,
        transparent: true,
        opacity,
        side: DoubleSide,
        depthWrite: false,
        // Over faces that are tinted for a look, too.
        polygonOffset: true,
        polygonOffsetFactor: -2,
        polygonOffsetUnits: -2,
      }),
    );
    this.lines = new LineSegments(
      new BufferGeometry(),
      new LineBasicMaterial({ color, depthTest: false, transparent: true }),
    );
    if (hatched) hatch(this.faces.material);
    this.faces.renderOrder = 4;
    this.lines.renderOrder = 5;
    this.object.add(this.faces, this.lines);
  }

  /** `faces` are numbers of the art's, `edges` pairs of points from its origin; null for nothing. */
  show(art: ArtToDraw | null, faces: Iterable<number> | null, edges: Float32Array | null = null): void {
    for (const each of [this.faces, this.lines]) {
      each.geometry.dispose();
      each.geometry = new BufferGeometry();
      each.visible = false;
    }
    if (art) {
      this.object.position.set(...art.origin);
      const index = Uint32Array.from(
        [...(faces ?? [])].flatMap((f) => [0, 1, 2].map((k) => art.indices[f * 3 + k]!)),
      );
      if (index.length) {
        this.faces.geometry.setAttribute('position', new BufferAttribute(art.positions, 3));
        this.faces.geometry.setIndex(new BufferAttribute(index, 1));
        this.faces.visible = true;
      }
      if (edges?.length) {
        this.lines.geometry.setAttribute('position', new BufferAttribute(edges, 3));
        this.lines.visible = true;
      }
    }
    this.changed();
  }

  /** How many faces are painted. */
  get painted(): number {
    return this.faces.visible ? this.faces.geometry.getIndex()!.count / 3 : 0;
  }

  dispose(): void {
    this.faces.geometry.dispose();
    this.lines.geometry.dispose();
    this.faces.material.dispose();
    this.lines.material.dispose();
  }
}

/** Lines aslant the screen instead of a full face, as on a drawing: CSS pixels from one to the next, and how wide. */
const HATCH_PIXELS = 7;
const HATCH_WIDTH_PIXELS = 1.6;

function hatch(material: MeshBasicMaterial): void {
  material.onBeforeCompile = (shader) => {
    shader.fragmentShader = shader.fragmentShader.replace(
      'void main() {',
      `void main() {\n  if (mod(gl_FragCoord.x + gl_FragCoord.y, ${HATCH_PIXELS.toFixed(1)} * 1.4142) > ${HATCH_WIDTH_PIXELS.toFixed(1)} * 1.4142) discard;`,
    );
  };
}
