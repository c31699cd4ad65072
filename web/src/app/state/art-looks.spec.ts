import { type TestBench, testBench } from '../testing/bench';
import { settle } from '../testing/hand-clock';
import { shown } from '../testing/shown';
import { stripArt } from '../testing/strip';
import { apartColors } from '../viewport/apart-colors';
import { UV_LEGEND, uvColors } from '../viewport/uv-colors';
import { ArtLooks, paintedUvs } from './art-looks';
import { ViewSettingsStore } from './view-settings';

describe('looks of the art', () => {
  let bench: TestBench;
  let looks: ArtLooks;
  beforeEach(async () => {
    bench = await testBench(undefined, (jobs) =>
      jobs['draw']!.and.callFake(async () => ({ ...stripArt().art })),
    );
    looks = bench.get(ArtLooks);
    await settle();
  });

  it('hard edges are asked for while they are lit, and go with it', async () => {
    const edges = Float32Array.of(0, 0, 0, 1, 0, 0);
    bench.jobs['hardEdges']!.and.resolveTo({ faces: new Uint32Array(), edges });
    expect(bench.jobs['hardEdges']).not.toHaveBeenCalled();
    bench.get(ViewSettingsStore).set({ hardEdges: true });
    await settle();
    expect(shown(looks.hardEdges$)).toBe(edges);
    bench.get(ViewSettingsStore).set({ hardEdges: false });
    expect(shown(looks.hardEdges$)).toBeNull();
  });

  it('UVs are painted by the set and measure that are asked for; an answer that comes late is passed over', async () => {
    const values = { density: Float32Array.of(1, 2, 4, 0), stretch: Float32Array.of(1, 1, 8, 0) };
    const answers: ((found: typeof values) => void)[] = [];
    bench.jobs['uvPaint']!.and.callFake(() => new Promise((resolve) => answers.push(resolve)));
    const view = bench.get(ViewSettingsStore);
    view.set({ uvPaint: { set: 0, what: 'density' } });
    view.set({ uvPaint: { set: 1, what: 'stretch' } });
    answers[0]!(values);
    await settle();
    expect(shown(looks.uvs$)).toBeNull();
    answers[1]!(values);
    await settle();
    expect(shown(looks.uvs$)).toEqual({ what: 'stretch', values: values.stretch, middle: 1 });
    expect(bench.jobs['uvPaint']!.calls.mostRecent().args[1]).toBe(1);
    // The middle of the scale of densities is the median of what has any.
    expect(paintedUvs(values, 'density').middle).toBe(2);
  });

  it('pieces that come apart have a tint each, specks stand out, and what stays one is pale', () => {
    const piece = (speck: boolean) => ({ part: 'n1', faces: 1, metres: 1, speck });
    const ofFace = Int32Array.of(0, 1, 2, -1, 0);
    const colors = apartColors({ pieces: [piece(false), piece(false), piece(true)], ofFace });
    const face = (f: number) => colors.subarray(f * 9, f * 9 + 9).join();
    expect(new Set([0, 1, 2, 3].map(face)).size).toBe(4);
    expect(face(4)).toBe(face(0));
  });

  it('each face has one colour of the legend: twice the middle is one step on, nothing is grey', () => {
    const colors = uvColors({ values: Float32Array.of(1, 2, 1 / 64, 0), middle: 1 });
    const face = (f: number) => [...colors.subarray(f * 9, f * 9 + 3)];
    expect(face(0)).toEqual([...colors.subarray(3, 6)]);
    expect(new Set([0, 1, 2, 3].map((f) => face(f).join())).size).toBe(4);
    expect(UV_LEGEND.length).toBe(7);
  });
});
