import { effect, inject, type Signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { HandDriveStore } from '../../state/hand-drive';
import { HandWalkStore } from '../../state/hand-walk';
import { TrialFlags } from '../../state/trial-flags';
import { trialToDraw } from '../../viewport/trial-to-draw';
import { followed, WalkEye } from '../../viewport/walk-eye';
import type { SetOutScene } from './set-out-scene';

export interface FollowedWalk {
  scene: Signal<SetOutScene | null>;
  /** the view takes the keys: they steer */
  focus: () => void;
}

/** Draws who walks or drives across the set; the free view goes along with it. Called where a component is made. */
export function followWalk({ scene, focus }: FollowedWalk): void {
  const walk = inject(HandWalkStore);
  const flags = toSignal(inject(TrialFlags).flags$, { requireSync: true });
  const driving = toSignal(inject(HandDriveStore).driving$, { requireSync: true });
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
    const [walks, drives] = [walking(), driving()];
    if (!ready) return;
    // Through their eyes one sees from the free view; the plan shows where they are.
    const seen = ready.plan && walks ? { ...walks, look: 'above' as const } : walks;
    ready.trial.set(trialToDraw(seen, drives, flags()));
    if (ready.plan) return;
    untracked(() => eye.follow(ready.viewport.rig, followed(walks, drives)));
    ready.viewport.redraw();
  });
}
