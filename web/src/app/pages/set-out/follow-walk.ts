import { effect, type Signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Vec3 } from '@yard-brace/core';
import type { HandWalkStore, WalkLook } from '../../state/hand-walk';
import type { SetOutScene } from './set-out-scene';

/** Of an agent's height its eyes are this share up, where it says nothing else. */
const EYE_SHARE = 0.93;

export interface FollowedWalk {
  scene: Signal<SetOutScene | null>;
  walk: HandWalkStore;
  /** the view takes the keys: they steer */
  focus: () => void;
}

/** Draws who walks across the set; the free view goes along with it. Called where a component is made. */
export function followWalk({ scene, walk, focus }: FollowedWalk): void {
  const walking = toSignal(walk.walking$, { requireSync: true });
  let before: { at: Vec3; look: WalkLook } | null = null;
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
    untracked(() => {
      if (ready.plan) return;
      const { rig } = ready.viewport;
      if (!now) {
        if (before && before.look !== 'around') {
          rig.lookFrom('free');
          ready.fit();
        }
        before = null;
        return;
      }
      const { agent, frame, look } = now;
      if (!before) focus();
      if (before && look !== before.look) rig.lookFrom(look === 'above' ? 'top' : 'free');
      if (look === 'eyes') {
        const eye = (agent.eye ?? agent.height * EYE_SHARE) * (frame.height / agent.height);
        rig.standAt([frame.at[0], frame.at[1] + eye, frame.at[2]], before?.look !== 'eyes');
      } else if (before?.look === look) rig.goAlong(frame.at.map((v, k) => v - before!.at[k]!) as Vec3);
      else if (before?.look === 'eyes') ready.fit();
      before = { at: frame.at, look };
      ready.viewport.redraw();
    });
  });
}
