import { Group } from 'three';
import { ArtObject } from '../../drawing/art-object';
import type { ArtOfPiece } from '../../drawing/art-to-draw';
import type { Layer } from '../layer';

const NEIGHBOUR_OPACITY = 0.35;

/** Other pieces where they stand, drawn faintly. The same art may stand there many times: its buffers are shared. */
export class NeighboursLayer implements Layer {
  readonly object = new Group();
  private objects: ArtObject[] = [];

  constructor(private readonly changed: () => void) {}

  set(pieces: readonly ArtOfPiece[]): void {
    const before = this.objects;
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

  dispose(): void {
    this.set([]);
  }
}
