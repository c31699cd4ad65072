import type { PointerAt, ScreenPoint } from '../tool';
import { AreaTool } from './area-tool';
import { CutTool, shareAlong } from './cut-tool';
import { LookTool } from './look-tool';
import { type CaughtPoint, PickPointTool } from './pick-point-tool';
import { SelectFacesTool } from './select-faces-tool';

const at = (x: number, y: number, over: Partial<PointerAt> = {}): PointerAt => ({
  at: [x, y],
  pressed: false,
  still: false,
  shift: false,
  alt: false,
  ...over,
});
const escape = new KeyboardEvent('keydown', { key: 'Escape' });

describe('tools', () => {
  it('looking reads what is under the pointer, but not while the view is turned', () => {
    const seen: (string | null)[] = [];
    const tool = new LookTool<string>({ pick: ([x]) => `face ${x}`, hover: (hit) => seen.push(hit) });
    tool.move(at(3, 0));
    tool.move(at(4, 0, { pressed: true }));
    tool.leave();
    expect(seen).toEqual(['face 3', null]);
  });

  it('looking chooses what is clicked, and nothing that is turned past', () => {
    const clicked: unknown[] = [];
    const tool = new LookTool<string>({
      pick: ([x]) => (x > 0 ? `shape ${x}` : null),
      hover: () => undefined,
      click: (hit, { shift }) => clicked.push([hit, shift]),
    });
    tool.up(at(3, 0, { still: true }));
    tool.up(at(4, 0, { still: true, shift: true }));
    tool.up(at(5, 0));
    tool.up(at(-1, 0, { still: true }));
    expect(clicked).toEqual([
      ['shape 3', false],
      ['shape 4', true],
      [null, false],
    ]);
  });

  it('choosing faces: a click chooses, Shift adds, Alt takes away, a click beside chooses none', () => {
    const chosen: unknown[] = [];
    const tool = new SelectFacesTool<string, number>({
      pick: () => null,
      hover: () => undefined,
      face: ([x]) => (x > 0 ? x : null),
      choose: (face, how) => chosen.push([face, how]),
    });
    tool.up(at(5, 0, { still: true }));
    tool.up(at(6, 0, { still: true, shift: true }));
    tool.up(at(7, 0, { still: true, alt: true }));
    tool.up(at(-1, 0, { still: true }));
    tool.up(at(8, 0));
    expect(chosen).toEqual([
      [5, 'only'],
      [6, 'add'],
      [7, 'take'],
      [null, 'only'],
    ]);
  });

  it('a box has the corners of the drag, a lasso every place of it', () => {
    const marked: { area: readonly ScreenPoint[]; how: string }[] = [];
    const draw = (shape: 'box' | 'lasso', over: Partial<PointerAt> = {}) => {
      const tool = new AreaTool({ shape, mark: (area, how) => marked.push({ area, how }) });
      tool.down(at(10, 10, over));
      for (const [x, y] of [
        [20, 10],
        [20, 30],
        [12, 25],
      ] as const)
        tool.move(at(x, y, { pressed: true, ...over }));
      expect(tool.overlay().length).toBe(4);
      tool.up(at(12, 25, over));
      expect(tool.overlay()).toEqual([]);
    };
    draw('box');
    draw('lasso', { shift: true });
    expect(marked).toEqual([
      {
        area: [
          [10, 10],
          [12, 10],
          [12, 25],
          [10, 25],
        ],
        how: 'only',
      },
      {
        area: [
          [10, 10],
          [20, 10],
          [20, 30],
          [12, 25],
        ],
        how: 'add',
      },
    ]);
  });

  it('an area that was not dragged, or that Escape took back, marks nothing; Escape is its own only then', () => {
    const marked: unknown[] = [];
    const tool = new AreaTool({ shape: 'box', mark: (area) => marked.push(area) });
    tool.down(at(10, 10));
    tool.up(at(11, 10, { still: true }));
    expect(tool.key(escape)).toBeFalse();
    tool.down(at(10, 10));
    tool.move(at(50, 50, { pressed: true }));
    expect(tool.key(new KeyboardEvent('keydown', { key: 'x' }))).toBeFalse();
    expect(tool.key(escape)).toBeTrue();
    tool.move(at(60, 60, { pressed: true }));
    tool.up(at(60, 60));
    expect(marked).toEqual([]);
  });

  it('picking a point shows what would be caught, and takes it by a click only', () => {
    const point = { kind: 'vertex', at: [1, 2, 3], part: 0 } as unknown as CaughtPoint;
    const said: unknown[] = [];
    const tool = new PickPointTool({
      snap: ([x]) => (x > 0 ? point : null),
      hover: (caught) => said.push(['hover', caught]),
      pick: (caught) => said.push(['pick', caught]),
    });
    tool.move(at(1, 0));
    tool.move(at(1, 0, { pressed: true }));
    tool.up(at(1, 0));
    tool.up(at(-1, 0, { still: true }));
    tool.up(at(1, 0, { still: true }));
    tool.leave();
    expect(said).toEqual([
      ['hover', point],
      ['pick', point],
      ['hover', null],
    ]);
  });

  it('the cut goes along its axis on the screen, however the hand shakes', () => {
    const axis = [
      [100, 100],
      [200, 100],
    ] as const;
    expect(shareAlong(axis, [0, 0], [50, 0])).toBe(0.5);
    expect(shareAlong(axis, [0, 0], [50, 80])).toBe(0.5);
    expect(shareAlong(axis, [0, 0], [-25, 0])).toBe(-0.25);
    // An axis at the eye has no length on the screen: up and down move it.
    expect(
      shareAlong(
        [
          [5, 5],
          [5, 6],
        ],
        [0, 0],
        [40, -100],
      ),
    ).toBe(0.5);
    const moves: number[] = [];
    const tool = new CutTool({ axis: () => axis, move: (share) => moves.push(share) });
    tool.move(at(20, 0));
    tool.down(at(0, 0));
    tool.move(at(10, 0));
    tool.move(at(30, 0));
    tool.up();
    tool.move(at(90, 0));
    expect(moves).toEqual([0.1, 0.2]);
  });
});
