import { FIRST_AGENTS, type WalkTrial } from '@yard-brace/core';
import { HandDriveStore } from '../../state/hand-drive';
import { HandWalkStore } from '../../state/hand-walk';
import { SetOutSelection } from '../../state/set-out-selection';
import { TrialFlags } from '../../state/trial-flags';
import { postDocument } from '../../testing/post';
import { boxed, placed, type TestSetOut, testSetOut } from '../../testing/set-out';
import { SetTrialPanel } from './set-trial-panel';

const WALK: WalkTrial = {
  key: 'a'.repeat(64),
  agent: 'deckhand',
  runs: 12,
  openings: [],
  contacts: [],
  contactCount: 0,
  blocked: [
    {
      at: [4, 0, 1],
      shape: 'p2 1',
      metres: 0.4,
      from: { at: [4, 0, 5], way: [0, -1] },
    },
  ],
  blockedCount: 1,
  stuck: [],
  falls: [],
  fallCount: 0,
  jolts: [],
  stumbles: [],
  slips: [],
  routes: [],
};

describe('the trial of a set', () => {
  let set: TestSetOut;
  beforeEach(async () => {
    set = await testSetOut(undefined, (api) =>
      api.pieces.set(1, { ...boxed(postDocument(2)), name: 'Wall' }),
    );
    set.jobs['beginSetWalk']!.and.resolveTo({ at: [0, 0, 3], height: 1.8, stands: true, stoppedBy: null });
    set.jobs['beginSetDrive']!.and.resolveTo({
      at: [0, 0, 3],
      turned: [0, 0, 0, 1],
      pace: 0,
      touching: 4,
      state: 'drives',
      wrongWay: null,
    });
    for (const job of ['endWalk', 'endDrive']) set.jobs[job]!.and.resolveTo(undefined);
  });
  afterEach(() => {
    set.get(HandWalkStore).end();
    set.get(HandDriveStore).end();
  });
  const panel = () => set.show(SetTrialPanel);

  it('says why nobody walks where nothing stands, and where nothing has shapes', async () => {
    set = await testSetOut([]);
    expect((await panel()).text).toContain('Nothing stands here yet');
    set = await testSetOut([placed('p1', 2, [0, 0, 0])]);
    const page = await panel();
    expect(page.text).toContain('None of these pieces has shapes yet');
    for (const act of ['walk-set', 'walk-set-by-hand', 'try-across', 'drive-by-keys'])
      expect(page.one<HTMLButtonElement>(`[data-testid=${act}]`).disabled)
        .withContext(act)
        .toBeTrue();
  });

  it('lists what was found by the piece it is at, flagged; a click chooses that piece, and it is walked again', async () => {
    set.jobs['walkSet']!.and.resolveTo(WALK);
    const page = await panel();
    page.one<HTMLButtonElement>('[data-testid=walk-set]').click();
    await page.rest();
    const [line] = page.all('[data-line]').map((each) => each.textContent!.replace(/\s+/g, ' ').trim());
    expect(line).toContain('stopped by air');
    expect(line).toContain('400.0 mm');
    expect(line).toContain('shape 1 of Wall 2');
    let flags: readonly { at: readonly number[] }[] = [];
    set.get(TrialFlags).flags$.subscribe((all) => (flags = all));
    expect(flags.map(({ at }) => at)).toEqual([[4, 0, 1]]);
    page.one<HTMLButtonElement>('[data-line] button').click();
    expect([...set.get(SetOutSelection).ids]).toEqual(['p2']);
    await page.press('walk');
    expect(set.get(HandWalkStore).walking!.agent.id).toBe(FIRST_AGENTS[1]!.id);
    page.fixture.destroy();
    expect(flags).toEqual([]);
  });

  it('lists what is felt while somebody walks by hand', async () => {
    const contact = { at: [1, 0, 0], shape: 'p1 1', from: null, kind: 'air', where: 'side', metres: 0.12 };
    set.jobs['advanceWalk']!.and.resolveTo({
      frame: { at: [0, 0, 3], height: 1.8, stands: true, stoppedBy: null },
      contacts: [contact],
    });
    const page = await panel();
    const walk = set.get(HandWalkStore);
    await walk.begin(FIRST_AGENTS[1]!);
    await walk.step();
    await page.rest();
    expect(page.one('[aria-label="Felt by hand"]').textContent).toContain(
      'air at its side120.0 mmshape 1 of Wall 1',
    );
    walk.end();
    await page.rest();
    expect(page.has('[aria-label="Felt by hand"]')).toBeFalse();
  });

  it('drives a trolley of typed measures by keys, and sends the same across by itself', async () => {
    const page = await panel();
    await page.type('Track', '1');
    await page.type('Clearance', '0.2');
    page.one<HTMLButtonElement>('[data-testid=drive-by-keys]').click();
    await page.rest();
    const trolley = { track: 1, wheelbase: 1.4, wheelRadius: 0.15, clearance: 0.2 };
    expect(set.get(HandDriveStore).driving!.trolley).toEqual(trolley);
    page.one<HTMLButtonElement>('[data-testid=try-across]').click();
    await page.rest();
    expect(set.jobs['acrossSet']!.calls.mostRecent().args[3]).toEqual({
      kind: 'drive',
      ...trolley,
      way: [1, 0],
    });
  });
});
