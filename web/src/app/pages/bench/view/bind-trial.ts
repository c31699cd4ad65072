import { effect, inject, type Signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { HandDriveStore } from '../../../state/hand-drive';
import { HandWalkStore } from '../../../state/hand-walk';
import { trialToDraw } from '../../../viewport/trial-to-draw';
import { BenchStore } from '../../../state/bench-store';
import { TrialFlags } from '../../../state/trial-flags';
import { TrialPlayer } from '../../../state/trial-player';
import { ViewSettingsStore } from '../../../state/view-settings';
import { followed, WalkEye } from '../../../viewport/walk-eye';
import { CLEAR_PIXELS, type BenchScene } from './bench-scene';

/** Room under the view that the band of a walk takes, CSS pixels. */
const BAND_PIXELS = 116;

export interface BoundTrial {
  scene: Signal<BenchScene | null>;
  /** the view takes the keys: they steer */
  focus: () => void;
}

/** Draws trials, and takes the eye along with who walks or drives. Called where a component is made. */
export function bindTrial({ scene, focus }: BoundTrial): void {
  const walk = inject(HandWalkStore);
  const view = inject(ViewSettingsStore);
  const walking = toSignal(walk.walking$, { requireSync: true });
  const driving = toSignal(inject(HandDriveStore).driving$, { requireSync: true });
  const flags = toSignal(inject(TrialFlags).flags$, { requireSync: true });
  const eye = new WalkEye({
    begin: () => {
      setBottom(BAND_PIXELS);
      scene()?.viewport.fit();
      focus();
    },
    // Who looked through its eyes, or from above, is given back the view of the whole.
    end: (whole) => {
      if (whole) {
        view.set({ from: 'free' });
        scene()?.viewport.fit();
      }
      setBottom(CLEAR_PIXELS);
    },
    lookFrom: (from) => view.set({ from }),
    fit: () => scene()?.viewport.fit(),
  });
  /** Room under what is fitted, CSS pixels. */
  const setBottom = (bottom: number) => {
    const rig = scene()?.viewport.rig;
    if (rig) rig.insets = { ...rig.insets, bottom };
  };

  const playing = toSignal(inject(TrialPlayer).playing$, { requireSync: true });
  const document = toSignal(inject(BenchStore).document$);
  let fitted: unknown = null;
  effect(() => {
    const ready = scene();
    const now = playing();
    if (!ready) return;
    const played = now?.run.played;
    const proxies = untracked(() => document()?.proxies ?? []);
    ready.played.set(now && played ? { ...now.run, played, proxies } : null);
    if (!now || !played) return;
    ready.played.showFrame(now.frame);
    if (fitted !== played) ready.viewport.fit();
    fitted = played;
  });
  effect(() => {
    const ready = scene();
    if (ready) walk.heading = () => ready.viewport.rig.heading;
  });
  effect(() => {
    const ready = scene();
    if (!ready) return;
    const [walks, drives] = [walking(), driving()];
    ready.trial.set(trialToDraw(walks, drives, flags()));
    untracked(() => eye.follow(ready.viewport.rig, followed(walks, drives)));
  });
}
