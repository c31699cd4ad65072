import fc from 'fast-check';
import { quatAbout } from '../math/index.js';
import { joinMeshes } from '../mesh/index.js';
import { moved } from '../testing/meshes.js';
import { shapeBounds, shapeVolume } from '../shape/index.js';
import { turn } from '../testing/shapes.js';
import { bowl, post, turned } from '../testing/turned.js';
import { decompose, deviationOf, misfitOf, rungWithin } from './index.js';

const filledShare = ({ figures }: NonNullable<ReturnType<typeof rungWithin>>) =>
  (figures.overfill + figures.underfill) / figures.artVolume;

describe('turned bodies', () => {
  it('lays a bowl as plates along its shell: bands of equal wedges, closer with every count', async () => {
    const ladder = await decompose(bowl());
    const [at8, at16, at32] = [8, 16, 32].map((most) => rungWithin(ladder, most)!);
    expect(at8!.shapes.length).toBeLessThanOrEqual(8);
    // A slab across the hollow fills more than four times the shell.
    expect(filledShare(ladder.rungs[0]!)).toBeGreaterThan(4);
    expect(filledShare(at16!)).toBeLessThan(0.85);
    expect(filledShare(at32!)).toBeLessThan(0.45);
    expect(deviationOf(at32!)).toBeLessThan(0.03);
  });

  it('cuts a bucket off its floor, exactly there', async () => {
    const outline: [number, number][] = [
      [0.001, 0],
      [0.25, 0],
      [0.35, 0.6],
      [0.33, 0.6],
      [0.235, 0.02],
      [0.001, 0.02],
    ];
    const ladder = await decompose(turned(outline, 20), { maxShapes: 16 });
    const rung = rungWithin(ladder, 16)!;
    expect(rung.shapes.some((shape) => shapeBounds(shape).max[1] < 0.021)).toBeTrue();
    expect(deviationOf(rung)).toBeLessThan(0.02);
  });

  it('cuts where facets meet, so that all wedges of a band are alike', async () => {
    const { rungs } = await decompose(bowl(24), { maxShapes: 16 });
    const { shapes } = rungs.at(-1)!;
    const bands = new Map<number, number[]>();
    for (const shape of shapes) {
      const low = Math.round(shapeBounds(shape).min[1] * 1e4);
      bands.set(low, [...(bands.get(low) ?? []), shapeVolume(shape)]);
    }
    expect(bands.size).toBeGreaterThan(1);
    for (const [low, volumes] of bands)
      for (const volume of volumes)
        expect(Math.abs(volume / volumes[0]! - 1))
          .withContext(`band at ${low}`)
          .toBeLessThan(1e-4);
  });

  it('cuts bodies whose facets divide by little into any number of wedges', async () => {
    for (const around of [9, 22, 25]) {
      const rung = rungWithin(await decompose(bowl(around), { maxShapes: 16 }), 16)!;
      expect(filledShare(rung)).withContext(`${around} sides`).toBeLessThan(0.95);
    }
  });

  it('does so whichever way the body is turned and wherever it stands', async () => {
    const straight = rungWithin(await decompose(bowl(), { maxShapes: 12 }), 12)!;
    await fc.assert(
      fc.asyncProperty(turn, async (rotation) => {
        const rung = rungWithin(
          await decompose(moved(bowl(), [40, -3, 7], rotation), { maxShapes: 12 }),
          12,
        )!;
        expect(filledShare(rung)).toBeLessThan(filledShare(straight) * 1.2);
      }),
      { numRuns: 4, seed: 15 },
    );
  });

  it('takes a solid waisted post band by band, each in one shape', async () => {
    const rung = rungWithin(await decompose(post()), 6)!;
    expect(rung.shapes.length).toBeLessThanOrEqual(6);
    expect(filledShare(rung)).toBeLessThan(0.05);
  });

  it('gives an agent what stands off least, of several bodies the worst first', async () => {
    const { rungs } = await decompose(joinMeshes([bowl(32), moved(bowl(32), [2, 0, 0])]), {
      maxShapes: 24,
      agentDetail: 0.04,
    });
    const last = rungs.at(-1)!;
    expect(last.shapes.length).toBeLessThanOrEqual(24);
    expect(deviationOf(last)).toBeLessThan(0.07);
    // As much for the one as for the other.
    const left = last.shapes.filter((shape) => shapeBounds(shape).max[0] < 1).length;
    expect(Math.abs(left * 2 - last.shapes.length)).toBeLessThanOrEqual(4);
  });

  it('keeps bodies in a row symmetric about their common plane, though the search sees them reduced', async () => {
    const mesh = joinMeshes([bowl(36), moved(bowl(60), [2, 0, 0])]);
    const { rungs } = await decompose(mesh, { maxShapes: 12, agentDetail: 0.04 });
    expect(deviationOf(rungs.at(-1)!)).toBeLessThan(0.12);
  });

  it('takes no square pillar for round', async () => {
    const { rungs } = await decompose(
      turned(
        [
          [0.5, 0],
          [0.5, 1],
          [0.4, 1],
          [0.4, 0],
        ],
        4,
      ),
    );
    // Four walls, exactly.
    const last = rungs.at(-1)!;
    expect(last.shapes.length).toBe(4);
    expect(deviationOf(last)).toBeLessThan(1e-6);
  });

  it('prefers the smaller misfit: a set that stands off as far and fills less', async () => {
    const ladder = await decompose(moved(bowl(), [0, 0, 0], quatAbout([0, 0, 1], 0.3)), { maxShapes: 16 });
    const best = rungWithin(ladder, 16)!;
    for (const rung of ladder.rungs) expect(misfitOf(best)).toBeLessThanOrEqual(misfitOf(rung) * (1 + 1e-3));
    // Off by a tenth more, and half as full: better, though another lies nearer.
    const { figures, shapes } = best;
    const off = (metres: number, overfill: number) => ({
      shapes,
      figures: { ...figures, overfill, proxyOutside: { ...figures.proxyOutside, max: metres } },
    });
    const rungs = [off(1, figures.artVolume), off(1.1, figures.artVolume / 2)];
    expect(rungWithin({ ...ladder, rungs }, 64)).toBe(rungs[1]!);
    expect(rungWithin({ ...ladder, rungs: rungs.reverse() }, 64)).toBe(rungs[0]!);
  });
});
