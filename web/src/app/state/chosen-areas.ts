import { inject, Injectable } from '@angular/core';
import { areaFaces, type FacesOfParts, facesOfArea } from '@yard-brace/core';
import { ArtStore } from './art-store';
import { BenchStore } from './bench-store';
import { Selection } from './selection';

/** Chosen faces as the document remembers them, and back. */
@Injectable()
export class ChosenAreas {
  private readonly bench = inject(BenchStore);
  private readonly arts = inject(ArtStore);
  private readonly selection = inject(Selection);

  /** Chooses remembered faces in the view; false when none of them is there. */
  choose(area: { faces: FacesOfParts }): boolean {
    const art = this.arts.art?.art;
    if (!art) return false;
    const marks = facesOfArea(this.bench.document, area, { node: art.part, face: art.face });
    this.selection.chooseFaces(marks, 'only');
    return marks.includes(1);
  }

  /** Whether the chosen faces are collided with: those that are not need no shapes, and are not measured against. */
  collide(collides: boolean): void {
    const faces = areaFaces(this.bench.document, this.selection.facesByPart());
    if (faces.length) this.bench.apply({ kind: 'set-faces-collision', faces, collides });
    this.selection.clearFaces();
  }

  /** All faces that were left out are collided with again. */
  collideWithAll(): void {
    this.bench.apply({ kind: 'set-faces-collision', faces: this.bench.document.noCollision, collides: true });
  }
}
