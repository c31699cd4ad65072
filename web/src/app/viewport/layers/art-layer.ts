import { type Bounds, boundsOf, type Matrix, type Vec3 } from '@yard-brace/core';
import { Group, Matrix4, type Plane, type Raycaster } from 'three';
import { type ArtLook, ArtObject } from '../../drawing/art-object';
import type { ArtOfPiece, ArtToDraw } from '../../drawing/art-to-draw';
import type { Deviations } from '../../state/deviation-store';
import { deviationColors } from '../deviation-paint';
import type { PickableLayer } from '../layer';

/** A face of the art under the pointer. */
export interface FaceHit {
  face: number;
  /** number of the node */
  part: number;
  material: number;
  /** metres, in the piece's space */
  at: Vec3;
}

export interface ShownParts {
  hidden: ReadonlySet<string>;
  /** drawn whole while the rest is faint; null for all */
  alone: ReadonlySet<string> | null;
}

/** Parts drawn elsewhere for a look. */
export interface MovedParts {
  part: (number: number) => boolean;
  /** from where they stand to where they are drawn, in the piece's space */
  matrix: Matrix;
}

/** The art of the piece on the bench. */
export class ArtLayer implements PickableLayer<FaceHit> {
  readonly object = new Group();
  private shown: ArtObject | undefined;
  private art: ArtOfPiece | null = null;
  private box: Bounds | null = null;
  private opacity = 1;
  private clip: Plane | null = null;

  constructor(private readonly changed: () => void) {}

  set(art: ArtOfPiece | null): void {
    this.clear();
    this.art = art;
    this.box = art && boundsOfArt(art.art);
    if (art) {
      this.shown = new ArtObject(art.art, art.document, this.changed);
      this.object.add(this.shown.group);
      this.shown.cut(this.clip);
      this.shown.fade(this.opacity);
    }
    this.changed();
  }

  bounds(): Bounds | null {
    return this.box;
  }

  roughen(rough: boolean): void {
    this.shown?.roughen(rough);
  }

  pick(ray: Raycaster): FaceHit | null {
    const hit = this.opacity > 0.02 ? this.shown?.hit(ray) : null;
    return hit ? this.faceHit(hit.face, hit.at) : null;
  }

  /** The face under a ray, however faint the veil has made the art. */
  pickFace(ray: Raycaster): FaceHit | null {
    const hit = this.shown?.hit(ray);
    return hit ? this.faceHit(hit.face, hit.at) : null;
  }

  /** 0 is gone, 1 is solid. */
  fade(opacity: number): void {
    this.opacity = opacity;
    this.shown?.fade(opacity);
    this.changed();
  }

  look(look: ArtLook): void {
    this.shown?.look(look);
    this.changed();
  }

  /** Paint the art by how far the proxies lie from it; null shows it as it is. True when it is painted. */
  paint(deviation: Pick<Deviations, 'vertices' | 'scale'> | null): boolean {
    const fits = deviation && this.shown?.art.positions.length === deviation.vertices.length * 3;
    this.shown?.paint(fits ? deviationColors(deviation) : null);
    this.changed();
    return !!fits;
  }

  /** What is hidden or faint; while parts are drawn elsewhere everything else is drawn where it stands. */
  showParts({ hidden, alone }: ShownParts, moved: MovedParts | null): void {
    if (moved) this.shown?.move(moved.part, new Matrix4().fromArray(moved.matrix));
    else {
      this.shown?.move(null);
      const ids = this.art?.document.nodes.map(({ id }) => id) ?? [];
      const look = (part: number) =>
        hidden.has(ids[part]!) ? 'gone' : alone && !alone.has(ids[part]!) ? 'faint' : 'whole';
      this.shown?.showParts(alone || hidden.size ? look : null);
    }
    this.changed();
  }

  /** What lies behind the plane is cut away. */
  cut(plane: Plane | null): void {
    this.clip = plane;
    this.shown?.cut(plane);
    this.changed();
  }

  dispose(): void {
    this.clear();
  }

  private faceHit(face: number, at: Vec3): FaceHit {
    const { groups, part } = this.shown!.art;
    const group = groups.find(({ start, count }) => face >= start && face < start + count);
    return { face, at, part: part[face]!, material: group?.material ?? -1 };
  }

  private clear(): void {
    if (!this.shown) return;
    this.object.remove(this.shown.group);
    this.shown.dispose();
    this.shown = undefined;
  }
}

export function boundsOfArt(art: ArtToDraw): Bounds {
  const local = boundsOf(art.positions);
  const shift = (p: Vec3): Vec3 => [p[0] + art.origin[0], p[1] + art.origin[1], p[2] + art.origin[2]];
  return { min: shift(local.min), max: shift(local.max) };
}
