import { cutPlace, cutPlane } from './cut-plane';
import { ViewSettingsStore } from './view-settings';

describe('ViewSettingsStore', () => {
  let view: ViewSettingsStore;
  beforeEach(() => (view = new ViewSettingsStore()));

  it('shows parts alone or hides them, and takes that back by the same act', () => {
    view.toggleAlone(['a', 'b']);
    expect([...view.settings.alone!]).toEqual(['a', 'b']);
    view.toggleAlone(['a']);
    expect(view.settings.alone).toBeNull();
    view.toggleHidden(['a', 'b']);
    view.toggleHidden(['b', 'c']);
    expect([...view.settings.hidden]).toEqual(['a', 'b', 'c']);
    view.toggleHidden(['a', 'b']);
    expect([...view.settings.hidden]).toEqual(['c']);
  });

  it('cuts within the bounds', () => {
    view.setCut({ at: 0.2 });
    expect(view.settings.cut).toBeNull();
    view.toggleCut();
    view.setCut({ axis: 0, at: 1.7 });
    expect(view.settings.cut).toEqual({ axis: 0, at: 1, flipped: false });
    view.setCut({ at: -3 });
    expect(view.settings.cut!.at).toBe(0);
    view.toggleCut();
    expect(view.settings.cut).toBeNull();
  });

  it('takes a way of choosing, and ends choosing by it', () => {
    view.chooseBy('shell');
    expect([view.settings.choosing, view.settings.chooseBy]).toEqual([true, 'shell']);
    view.chooseBy('box');
    expect(view.settings.choosing).toBeTrue();
    view.chooseBy('box');
    expect(view.settings.choosing).toBeFalse();
  });

  it('puts references beside and away again', () => {
    view.toggleReference('door');
    view.toggleReference('cube');
    view.toggleReference('door');
    expect(view.settings.references).toEqual(['cube']);
  });

  it('forgets for another piece what was of the last one, and keeps how one likes to look', () => {
    view.toggle('wire');
    view.toggleHidden(['a']);
    view.toggleCut();
    view.set({ from: 'top', veil: 0.2 });
    view.newPiece();
    const { hidden, cut, from, wire, veil } = view.settings;
    expect([hidden.size, cut, from, wire, veil]).toEqual([0, null, 'free', true, 0.2]);
  });
});

describe('a cut', () => {
  const bounds = { min: [0, 0, 0], max: [2, 4, 8] } as {
    min: [number, number, number];
    max: [number, number, number];
  };

  it('keeps the low side, or the other half', () => {
    const cut = { axis: 1 as const, at: 0.25, flipped: false };
    expect(cutPlace(cut, bounds)).toBe(1);
    const keeps = (y: number, flipped: boolean) => {
      const { normal, offset } = cutPlane({ ...cut, flipped }, bounds);
      return normal[1] * y >= offset;
    };
    expect([keeps(0.5, false), keeps(3, false), keeps(0.5, true), keeps(3, true)]).toEqual([
      true,
      false,
      false,
      true,
    ]);
  });
});
