import { FIRST_AGENTS, type Vec3 } from '@yard-brace/core';
import type { Driving } from '../state/hand-drive';
import type { Walking, WalkLook } from '../state/hand-walk';
import type { CameraRig } from './camera-rig';
import { trialToDraw } from './trial-to-draw';
import { followed, WalkEye } from './walk-eye';

const [, DECKHAND] = FIRST_AGENTS;

const walking = (at: Vec3, look: WalkLook = 'around', height = 1.8): Walking => ({
  agent: DECKHAND!,
  frame: { at, height, stands: true, stoppedBy: null },
  contacts: [],
  running: true,
  pace: 'real time',
  look,
  route: null,
  over: 'none',
  area: null,
});
const driving = (at: Vec3): Driving => ({
  trolley: { track: 0.8, wheelbase: 1.1, wheelRadius: 0.15, clearance: 0.12 },
  frame: { at, turned: [0, 0, 0, 1], pace: 1, touching: 4, state: 'drives', wrongWay: null },
  marks: [{ kind: 'jolt', at: [1, 2, 3], metres: 0.02, shape: null }],
  running: true,
  pace: 'real time',
  look: 'around',
  from: null,
});

describe('a view that goes along', () => {
  let hooks: jasmine.SpyObj<{ begin(): void; end(whole: boolean): void; lookFrom(): void; fit(): void }>;
  let rig: jasmine.SpyObj<CameraRig>;
  let eye: WalkEye;
  beforeEach(() => {
    hooks = jasmine.createSpyObj('hooks', ['begin', 'end', 'lookFrom', 'fit']);
    rig = jasmine.createSpyObj('rig', ['goAlong', 'standAt']);
    eye = new WalkEye(hooks);
  });
  const follow = (now: Walking | null) => eye.follow(rig, followed(now, null));

  it('moves by as much as who walks does, once they have begun', () => {
    follow(walking([0, 0, 0]));
    expect(hooks.begin).toHaveBeenCalledTimes(1);
    expect(rig.goAlong).not.toHaveBeenCalled();
    follow(walking([1, 0.5, -2]));
    expect(rig.goAlong.calls.allArgs()).toEqual([[[1, 0.5, -2]]]);
    expect(hooks.begin).toHaveBeenCalledTimes(1);
    follow(null);
    expect(hooks.end).toHaveBeenCalledWith(false);
  });

  it('looks through their eyes, lower while they crouch, and shows everything again after it', () => {
    const { eye: own, height } = DECKHAND!;
    const up = own ?? height * 0.93;
    follow(walking([0, 0, 0]));
    follow(walking([0, 0, 0], 'eyes'));
    expect(rig.standAt.calls.mostRecent().args).toEqual([[0, up, 0], true]);
    follow(walking([1, 0, 0], 'eyes', 0.9));
    expect(rig.standAt.calls.mostRecent().args).toEqual([[1, up / 2, 0], false]);
    follow(walking([1, 0, 0]));
    expect(hooks.fit).toHaveBeenCalledTimes(1);
    follow(walking([1, 0, 0], 'above'));
    expect(hooks.lookFrom.calls.mostRecent().args as unknown[]).toEqual(['top']);
    follow(null);
    expect(hooks.end).toHaveBeenCalledWith(true);
  });

  it('goes along with what is driven as with who walks', () => {
    eye.follow(rig, followed(null, driving([0, 0, 0])));
    eye.follow(rig, followed(null, driving([0, 0, 3])));
    expect(rig.goAlong.calls.allArgs()).toEqual([[[0, 0, 3]]]);
  });
});

describe('what is drawn of a walk or a drive', () => {
  const flags = [{ id: 'fall-0', at: [9, 9, 9] as Vec3 }];

  it('is what a trial flagged while nobody goes, and what was felt while somebody does', () => {
    expect(trialToDraw(null, null, flags)).toEqual({
      walker: null,
      trolley: null,
      area: null,
      route: null,
      flags,
    });
    expect(trialToDraw(walking([1, 0, 0]), null, flags).flags).toEqual([]);
    const { trolley, flags: marks } = trialToDraw(null, driving([0, 0, 3]), flags);
    expect(trolley).toEqual(jasmine.objectContaining({ at: [0, 0, 3], turned: [0, 0, 0, 1] }));
    expect(marks).toEqual([{ id: '1', at: [1, 2, 3] }]);
  });

  it('is no figure where it is looked through its eyes', () => {
    expect(trialToDraw(walking([1, 0, 0]), null, []).walker).toEqual({
      agent: DECKHAND!,
      at: [1, 0, 0],
      height: 1.8,
    });
    expect(trialToDraw(walking([1, 0, 0], 'eyes'), null, []).walker).toBeNull();
  });
});
