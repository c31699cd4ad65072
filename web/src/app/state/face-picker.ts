import { inject, Injectable } from '@angular/core';
import { artBounds, type Sight, type Vec3 } from '@yard-brace/core';
import {
  choosableFaces,
  type ChooseHow,
  facesFromClick,
  onlyWhere,
  type ShownArt,
} from '../drawing/face-selection';
import { Compute, Stopped } from '../workers/compute';
import { ArtStore, type DrawnArt } from './art-store';
import { cutPlane } from './cut-plane';
import { Notices } from './notices';
import { Selection } from './selection';
import { ViewSettingsStore } from './view-settings';

/** Turns clicks and drags in the view into chosen faces. What is hidden, faint or cut away is never chosen. */
@Injectable()
export class FacePicker {
  private readonly art = inject(ArtStore);
  private readonly selection = inject(Selection);
  private readonly view = inject(ViewSettingsStore);
  private readonly compute = inject(Compute);
  private readonly notices = inject(Notices);

  /** A click on a face, or beside everything. */
  async click(hit: { face: number; at: Vec3 } | null, how: ChooseHow): Promise<void> {
    const { art } = this.art;
    if (!art) return;
    if (!hit) {
      if (how === 'only') this.selection.clearFaces();
      return;
    }
    const { chooseBy, flatDegrees } = this.view.settings;
    if (chooseBy === 'border') return this.followEdge(art, hit, how);
    const faces = facesFromClick(art.art, hit.face, chooseBy, flatDegrees);
    this.selection.chooseFaces(onlyWhere(faces, this.mask(art)), how);
  }

  /** Faces marked out on the screen; without "through" only those that are seen. */
  async area(faces: Uint8Array, sight: Sight, how: ChooseHow): Promise<void> {
    const { art } = this.art;
    if (!art) return;
    const marked = onlyWhere(faces, this.mask(art));
    const look = { sight, hidden: this.hiddenParts(art), cut: this.shown(art).cut };
    const seen = this.view.settings.through
      ? marked
      : await this.asked(() =>
          this.compute.run((jobs, progress) => jobs.seenFaces(art.document, marked, look, progress), {
            first: 'Finding what is visible',
            quick: true,
          }),
        );
    if (seen && art === this.art.art) this.selection.chooseFaces(seen, how);
  }

  change(how: 'grow' | 'shrink' | 'invert'): void {
    const { art } = this.art;
    if (art) this.selection.changeFaces(how, this.mask(art));
  }

  private async followEdge(
    art: DrawnArt,
    { face, at }: { face: number; at: Vec3 },
    how: ChooseHow,
  ): Promise<void> {
    const run = await this.asked(() =>
      this.compute.run((jobs, progress) => jobs.edgeRun(art.document, face, at, progress), {
        first: 'Following the edge',
        quick: true,
      }),
    );
    if (run && art === this.art.art)
      this.selection.chooseRun(onlyWhere(run.faces, this.mask(art)), run.sides, how);
  }

  private mask = (art: DrawnArt): Uint8Array | null => choosableFaces(art, this.shown(art));

  private shown({ document }: DrawnArt): ShownArt {
    const { hidden, alone, cut } = this.view.settings;
    return { hidden, alone, cut: cut && cutPlane(cut, artBounds(document)) };
  }

  /** Faint parts neither show nor are in the way, as hidden ones. */
  private hiddenParts({ document }: DrawnArt): string[] {
    const { hidden, alone } = this.view.settings;
    return document.nodes.map(({ id }) => id).filter((id) => hidden.has(id) || (alone && !alone.has(id)));
  }

  private async asked<T>(work: () => Promise<T>): Promise<T | null> {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof Stopped)) this.notices.error(error);
      return null;
    }
  }
}
