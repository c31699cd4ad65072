import { effect, inject, type Signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Vec3 } from '@yard-brace/core';
import { HandWalkStore, type WalkLook } from '../../../state/hand-walk';
import { BenchStore } from '../../../state/bench-store';
import { TrialPlayer } from '../../../state/trial-player';
import { TrialStore } from '../../../state/trial-store';
import { ViewSettingsStore } from '../../../state/view-settings';
import { CLEAR_PIXELS, type BenchScene } from './bench-scene';

/** Of an agent's height its eyes are this share up, where it says nothing else. */
const EYE_SHARE = 0.93;

/** Room under the view that the band of a walk takes, CSS pixels. */
const BAND_PIXELS = 116;

export interface BoundTrial {
  scene: Signal<BenchScene | null>;
  /** the view takes the keys: they steer */
  focus: () => void;
}

/** Draws trials, and takes the eye along with who walks. Called where a component is made. */
export function bindTrial({ scene, focus }: BoundTrial): void {
  const walk = inject(HandWalkStore);
  const view = inject(ViewSettingsStore);
  const walking = toSignal(walk.walking$, { requireSync: true });
  const flags = toSignal(inject(TrialStore).flags$, { requireSync: true });
  let before: { at: Vec3; look: WalkLook } | null = null;

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
    const now = walking();
    const shown = now && now.look !== 'eyes';
    ready.trial.set({
      walker: shown ? { agent: now.agent, at: now.frame.at, height: now.frame.height } : null,
      area: now?.area ?? null,
      route: now?.route ?? null,
      flags: flags(),
    });
    untracked(() => follow(ready));
  });

  function follow({ viewport }: BenchScene): void {
    const now = walking();
    if (!now) {
      // Who looked through its eyes, or from above, is given back the view of the whole.
      if (before && before.look !== 'around') {
        view.set({ from: 'free' });
        viewport.fit();
      }
      before = null;
      viewport.rig.insets = { ...viewport.rig.insets, bottom: CLEAR_PIXELS };
      return;
    }
    if (!before) {
      viewport.rig.insets = { ...viewport.rig.insets, bottom: BAND_PIXELS };
      viewport.fit();
      focus();
    }
    const { agent, frame, look } = now;
    if (before && look !== before.look) view.set({ from: look === 'above' ? 'top' : 'free' });
    if (look === 'eyes') {
      const eye = (agent.eye ?? agent.height * EYE_SHARE) * (frame.height / agent.height);
      viewport.rig.standAt([frame.at[0], frame.at[1] + eye, frame.at[2]], before?.look !== 'eyes');
    } else if (before?.look === look)
      viewport.rig.goAlong(frame.at.map((v, k) => v - before!.at[k]!) as Vec3);
    else if (before?.look === 'eyes') viewport.fit();
    before = { at: frame.at, look };
  }
}
