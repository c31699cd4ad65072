import { effect, type Signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { HandWalkStore } from '../../state/hand-walk';
import { WalkEye } from '../../viewport/walk-eye';
import type { SetOutScene } from './set-out-scene';

export interface FollowedWalk {
  scene: Signal<SetOutScene | null>;
  walk: HandWalkStore;
  /** the view takes the keys: they steer */
  focus: () => void;
}

/** Draws who walks across the set; the free view goes along with it. Called where a component is made. */
export function followWalk({ scene, walk, focus }: FollowedWalk): void {
  const walking = toSignal(walk.walking$, { requireSync: true });
  const eye = new WalkEye({
    begin: focus,
    end: (whole) => {
      if (!whole) return;
      scene()?.viewport.rig.lookFrom('free');
      scene()?.fit();
    },
    lookFrom: (from) => scene()?.viewport.rig.lookFrom(from),
    fit: () => scene()?.fit(),
  });
  effect(() => {
    const ready = scene();
    if (ready && !ready.plan) walk.heading = () => ready.viewport.rig.heading;
  });
  effect(() => {
    const ready = scene();
    const now = walking();
    if (!ready) return;
    ready.trial.set({
      walker:
        now && (ready.plan || now.look !== 'eyes')
          ? { agent: now.agent, at: now.frame.at, height: now.frame.height }
          : null,
      area: now?.area ?? null,
      route: now?.route ?? null,
      flags: (now?.contacts ?? []).map(({ at }, i) => ({ id: String(i + 1), at })),
    });
    if (ready.plan) return;
    untracked(() => eye.follow(ready.viewport.rig, now));
    ready.viewport.redraw();
  });
}
