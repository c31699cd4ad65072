import type { Vec3 } from '@yard-brace/core';
import type { Driving } from '../state/hand-drive';
import type { Walking, WalkLook } from '../state/hand-walk';
import type { CameraRig } from './camera-rig';

/** Of an agent's height its eyes are this share up, where it says nothing else. */
const EYE_SHARE = 0.93;

/** Somebody that a view goes along with. */
export interface Followed {
  at: Vec3;
  /** metres that its eyes are over that */
  eye: number;
  look: WalkLook;
}

/** Who walks, or what is driven, as a view goes along with it; null for nobody. */
export function followed(walking: Walking | null, driving: Driving | null): Followed | null {
  if (driving) return { at: driving.frame.at, eye: 0, look: driving.look };
  if (!walking) return null;
  const { agent, frame, look } = walking;
  const eye = (agent.eye ?? agent.height * EYE_SHARE) * (frame.height / agent.height);
  return { at: frame.at, eye, look };
}

/** What a view does while somebody walks or drives in it. */
export interface WalkEyeHooks {
  /** somebody begins to walk or to drive */
  begin: () => void;
  /** nobody does any more; `whole`: the view is to show everything again */
  end: (whole: boolean) => void;
  lookFrom: (from: 'free' | 'top') => void;
  fit: () => void;
}

/** Takes the eye of a view along with who walks or drives: from around, from above, or through their eyes. */
export class WalkEye {
  private before: Followed | null = null;

  constructor(private readonly hooks: WalkEyeHooks) {}

  follow(rig: CameraRig, now: Followed | null): void {
    const { begin, end, lookFrom, fit } = this.hooks;
    const { before } = this;
    this.before = now;
    if (!now) {
      end(before !== null && before.look !== 'around');
      return;
    }
    const { at, eye, look } = now;
    if (!before) begin();
    if (before && look !== before.look) lookFrom(look === 'above' ? 'top' : 'free');
    if (look === 'eyes') rig.standAt([at[0], at[1] + eye, at[2]], before?.look !== 'eyes');
    else if (before?.look === look) rig.goAlong(at.map((v, k) => v - before.at[k]!) as Vec3);
    else if (before?.look === 'eyes') fit();
  }
}
