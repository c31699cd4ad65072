import { ballMesh } from '../testing/meshes.js';
import { SOLIDS } from '../testing/solids.js';
import { joinMeshes } from '../mesh/index.js';
import { decompose, type DecomposeOptions, LadderMemory } from './index.js';

describe('a ladder that remembers', () => {
  const art = joinMeshes([SOLIDS.tray(), ballMesh(0.5, [6, 0.5, 0], 8)]);

  it('tells what it would have told without: after other options, another count, another agent', async () => {
    const memory = new LadderMemory();
    const asked: DecomposeOptions[] = [
      { maxShapes: 8 },
      { maxShapes: 8, primitives: false },
      { maxShapes: 6, agentDetail: 0.05 },
      { maxShapes: 8 },
    ];
    for (const options of asked)
      expect(JSON.stringify(await decompose(art, { ...options, memory })))
        .withContext(JSON.stringify(options))
        .toBe(JSON.stringify(await decompose(art, options)));
  });

  it('asks no search again for other kinds of shapes, and nothing at all for what was asked before', async () => {
    const memory = new LadderMemory();
    const steps = async (options: DecomposeOptions) => {
      let count = 0;
      await decompose(art, { ...options, memory, progress: () => count++ });
      return count;
    };
    const first = await steps({ maxShapes: 8 });
    expect(await steps({ maxShapes: 8, primitives: false })).toBeLessThan(first / 2);
    expect(await steps({ maxShapes: 8 })).toBe(0);
  });

  it('knows an area again that was left for another one, but for what it has no room for', async () => {
    const memory = new LadderMemory();
    const ball = ballMesh(0.5, [6, 0.5, 0], 8).indices.length / 3;
    const all = art.indices.length / 3;
    const area = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => from + i);
    const steps = async (faces: number[] | undefined) => {
      let count = 0;
      await decompose(art, { maxShapes: 4, faces, memory, progress: () => count++ });
      return count;
    };
    const [tray, round] = [area(0, all - ball), area(all - ball, all)];
    for (const faces of [undefined, tray, round]) expect(await steps(faces)).toBeGreaterThan(0);
    for (const faces of [tray, undefined, round]) expect(await steps(faces)).toBe(0);
    // Six are kept: the tray was asked about for longest once four more have come.
    for (let i = 1; i <= 4; i++) await steps(area(all - ball, all - i));
    expect(await steps(undefined)).toBe(0);
    expect(await steps(tray)).toBeGreaterThan(0);
  });

  it('takes other art for other art, and other faces of the same', async () => {
    const memory = new LadderMemory();
    const stair = SOLIDS.stair(4);
    const last = async (options: DecomposeOptions) => (await decompose(stair, options)).rungs.at(-1)!.shapes;
    await decompose(art, { memory });
    expect(await last({ memory })).toEqual(await last({}));
    const faces = Array.from({ length: stair.indices.length / 6 }, (_, f) => f);
    expect(await last({ memory, faces })).toEqual(await last({ faces }));
    expect(await last({ memory })).toEqual(await last({}));
    // Moved in place it is not what it was.
    const moved = { ...stair, positions: stair.positions.map((v) => v + 1) };
    expect((await decompose(moved, { memory })).rungs.at(-1)!.shapes).toEqual(
      (await decompose(moved)).rungs.at(-1)!.shapes,
    );
  });

  it('keeps nothing of a run that was stopped', async () => {
    const memory = new LadderMemory();
    for (const steps of [3, 40, 160]) {
      let left = steps;
      const stop = () => {
        if (--left < 0) throw new Error('stop');
      };
      await expectAsync(decompose(art, { maxShapes: 8, memory, progress: stop })).toBeRejectedWithError(
        'stop',
      );
    }
    expect(JSON.stringify(await decompose(art, { maxShapes: 8, memory }))).toBe(
      JSON.stringify(await decompose(art, { maxShapes: 8 })),
    );
  });
});
