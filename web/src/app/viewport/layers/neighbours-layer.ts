import type { Vec3 } from '@yard-brace/core';
import { Group, type Raycaster, Vector3 } from 'three';
import { type ArtHit, ArtObject } from '../../drawing/art-object';
import type { ArtOfPiece } from '../../drawing/art-to-draw';
import type { Layer } from '../layer';

const NEIGHBOUR_OPACITY = 0.35;

/** Other pieces where they stand, drawn faintly. The same art may stand there many times: its buffers are shared. */
export class NeighboursLayer implements Layer {
  readonly object = new Group();
  private objects: ArtObject[] = [];
  private pieces: readonly ArtOfPiece[] = [];

  constructor(private readonly changed: () => void) {}

  set(pieces: readonly ArtOfPiece[]): void {
    const before = this.objects;
    this.pieces = pieces;
    this.objects = pieces.map(({ art, document }) => new ArtObject(art, document, this.changed));
    for (const piece of this.objects) {
      piece.fade(NEIGHBOUR_OPACITY);
      this.object.add(piece.group);
    }
    // Held before they are let go: what stays keeps its buffers.
    for (const piece of before) {
      this.object.remove(piece.group);
      piece.dispose();
    }
    this.changed();
  }

  /** All of them larger about a point, for a look; 1 as they are. */
  grow(factor: number, about: Vec3): void {
    this.object.scale.setScalar(factor);
    this.object.position.set(about[0] * (1 - factor), about[1] * (1 - factor), about[2] * (1 - factor));
    this.changed();
  }

  /** The nearest face of a piece that stands beside, with that piece. */
  pick(caster: Raycaster): (ArtHit & { piece: ArtOfPiece; metres: number }) | null {
    let nearest: (ArtHit & { piece: ArtOfPiece; metres: number }) | null = null;
    this.objects.forEach((object, i) => {
      const hit = object.hit(caster);
      if (!hit) return;
      const metres = caster.ray.origin.distanceTo(new Vector3(...hit.at));
      if (!nearest || metres < nearest.metres) nearest = { ...hit, piece: this.pieces[i]!, metres };
    });
    return nearest;
  }

  dispose(): void {
    this.set([]);
  }
}
