import type { Vec3 } from '@yard-brace/core';
import type { Walking, WalkLook } from '../state/hand-walk';
import type { CameraRig } from './camera-rig';

/** Of an agent's height its eyes are this share up, where it says nothing else. */
const EYE_SHARE = 0.93;

/** What a view does while somebody walks in it. */
export interface WalkEyeHooks {
  /** somebody begins to walk */
  begin: () => void;
  /** nobody walks any more; `whole`: the view is to show everything again */
  end: (whole: boolean) => void;
  lookFrom: (from: 'free' | 'top') => void;
  fit: () => void;
}

/** Takes the eye of a view along with who walks: from around, from above, or through their eyes. */
export class WalkEye {
  private before: { at: Vec3; look: WalkLook } | null = null;

  constructor(private readonly hooks: WalkEyeHooks) {}

  follow(rig: CameraRig, now: Walking | null): void {
    const { begin, end, lookFrom, fit } = this.hooks;
    const { before } = this;
    if (!now) {
      end(before !== null && before.look !== 'around');
      this.before = null;
      return;
    }
    const { agent, frame, look } = now;
    if (!before) begin();
    if (before && look !== before.look) lookFrom(look === 'above' ? 'top' : 'free');
    if (look === 'eyes') {
      const eye = (agent.eye ?? agent.height * EYE_SHARE) * (frame.height / agent.height);
      rig.standAt([frame.at[0], frame.at[1] + eye, frame.at[2]], before?.look !== 'eyes');
    } else if (before?.look === look) rig.goAlong(frame.at.map((v, k) => v - before.at[k]!) as Vec3);
    else if (before?.look === 'eyes') fit();
    this.before = { at: frame.at, look };
  }
}
