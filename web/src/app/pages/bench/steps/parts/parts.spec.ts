import {
  applyEdit,
  type Edit,
  type Outcome,
  plainMaterial,
  type UvReport,
  type UvSetReport,
} from '@yard-brace/core';
import { ArtLooks } from '../../../../state/art-looks';
import { ArtStore } from '../../../../state/art-store';
import { Operations } from '../../../../state/operations';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { settle } from '../../../../testing/hand-clock';
import { postPiece, threeParts } from '../../../../testing/post';
import { shown } from '../../../../testing/shown';
import { stripArt } from '../../../../testing/strip';
import { Stopped } from '../../../../workers/compute';
import { Told } from '../../../../api/told';
import { EdgesPanel } from './edges-panel';
import { FacesPanel } from './faces-panel';
import { MaterialsPanel } from './materials-panel';
import { MendPanel } from './mend-panel';
import { PartsTree } from './parts-tree';
import { ReducePanel } from './reduce-panel';
import { screenColour } from './screen-colour';
import { SplitPanel } from './split-panel';
import { rowsOf, treeRows } from './tree-rows';
import { TreePanel } from './tree-panel';
import { uvRows } from './uv-facts';
import { UvLayPanel } from './uv-lay-panel';
import { UvPanel } from './uv-panel';
import { weldCountText } from './weld-count';

const WELD: Outcome = { op: 'weld', metres: 0.0002, before: 12, after: 4, bordersClosed: 0 };

describe('Parts', () => {
  let bench: TestBench;
  beforeEach(async () => (bench = await testBench(postPiece(threeParts()))));

  const reshaped = (change: object = {}): Edit => {
    const { nodes, meshes, whole, materials, unit, placing } = { ...bench.store.document, ...change };
    return { kind: 'reshape', op: 'weld', nodes, meshes, whole, materials, unit, placing };
  };
  const lastOperation = () => bench.jobs['operate']!.calls.mostRecent().args[1];

  describe('an operation', () => {
    it('is proposed with its sentence and the figures that change, kept as one edit, and undone', async () => {
      const page = await bench.show(MendPanel);
      const placing = { ...bench.store.document.placing, factor: 2 };
      bench.jobs['operate']!.and.resolveTo({ edit: reshaped({ placing }), outcome: WELD });
      await page.press('Weld');
      expect(lastOperation()).toEqual({ op: 'weld', parts: [], metres: 0.0002 });
      const proposal = bench.proposals.proposal!;
      expect(proposal.title).toBe('Welding 0.20 mm: 12 vertices become 4.');
      expect(proposal.figures.map(({ name }) => name)).toEqual(['Size']);
      expect(bench.store.document.placing.factor).toBe(1);
      bench.proposals.keep();
      expect(bench.store.document.placing.factor).toBe(2);
      bench.store.undo();
      expect(bench.store.document.placing.factor).toBe(1);
    });

    it('that was worked out on the piece as it was is not laid over what was changed meanwhile', async () => {
      const page = await bench.show(MendPanel);
      let finish!: (value: unknown) => void;
      bench.jobs['operate']!.and.callFake(() => new Promise((resolve) => (finish = resolve)));
      await page.press('Weld');
      bench.store.apply({ kind: 'rename-parts', names: [{ part: 'n1', name: 'Renamed meanwhile' }] });
      finish({ edit: reshaped(), outcome: WELD });
      await settle();
      // A rename leaves the art as it is: the same operation is worked out again on the piece as it is now.
      expect(bench.proposals.proposal).toBeNull();
      expect(bench.jobs['operate']!.calls.mostRecent().args[0]).toBe(bench.store.document);
      bench.store.apply({ kind: 'resize', factor: 2, about: [0, 0, 0] });
      finish({ edit: reshaped(), outcome: WELD });
      await settle();
      expect(bench.proposals.proposal).toBeNull();
      expect(bench.store.document.nodes[0]!.name).toBe('Renamed meanwhile');
      expect(bench.said()).toContain('do it again');
    });

    it('is not done to faces that were chosen on a proposed change', async () => {
      const operations = bench.get(Operations);
      const edit: Edit = { kind: 'resize', factor: 2, about: [0, 0, 0] };
      const document = applyEdit(bench.store.document, edit);
      const art = spyOnProperty(bench.get(ArtStore), 'art');
      art.and.returnValue({ ...stripArt(), document, piece: 1 });
      const faces = [{ part: 'n1', faces: Uint32Array.of(0) }];
      await operations.propose({ op: 'delete-faces', faces });
      expect(bench.jobs['operate']).not.toHaveBeenCalled();
      expect(bench.said()).toContain('proposed change');
      art.and.returnValue({ ...stripArt(), document: bench.store.document, piece: 1 });
      bench.jobs['operate']!.and.rejectWith(new Stopped('Stopped.'));
      await operations.propose({ op: 'delete-faces', faces });
      expect(bench.jobs['operate']).toHaveBeenCalled();
      expect(bench.proposals.proposal).toBeNull();
    });

    it('that cannot be done says why, and that was stopped says nothing', async () => {
      const operations = bench.get(Operations);
      bench.jobs['operate']!.and.rejectWith(new Told('There is no border that closes.'));
      expect(await operations.make({ op: 'fill-holes', parts: [] })).toBeFalse();
      expect(bench.said()).toBe('There is no border that closes.');
      bench.jobs['tryOperation']!.and.rejectWith(new Told('It is flat.'));
      expect(await operations.try({ op: 'weld', parts: [], metres: 1 })).toEqual({ refused: 'It is flat.' });
      bench.jobs['tryOperation']!.and.rejectWith(new Stopped('Stopped.'));
      expect(await operations.try({ op: 'weld', parts: [], metres: 1 })).toBeNull();
    });
  });

  describe('the tree', () => {
    it('shows parents over children, open but for those that were closed', () => {
      const rows = treeRows(bench.store.document, new Set(['n1']));
      expect(rows.map(({ label }) => label)).toEqual(['frame', 'sill']);
      expect(rows[0]!.children!.map(({ label }) => label)).toEqual(['leaf']);
      expect([rows[0]!.expanded, rows[1]!.expanded]).toEqual([false, true]);
      expect(rows[1]!.data!.triangles).toBe('4');
      expect(
        rowsOf(rows, new Set(['n2', 'n3', 'gone']))
          .map(({ key }) => key!)
          .sort(),
      ).toEqual(['n2', 'n3']);
    });

    it('renames in place; what a part was called is remembered', async () => {
      const page = await bench.show(PartsTree);
      page.one('[data-part=frame]').dispatchEvent(new MouseEvent('dblclick', { bubbles: true }));
      await page.rest();
      const field = page.one<HTMLInputElement>('input.name');
      field.value = ' Mooring post ';
      field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
      await page.rest();
      expect(bench.store.document.nodes[0]).toEqual(
        jasmine.objectContaining({ name: 'Mooring post', cameAs: 'frame' }),
      );
      expect(page.has('input.name')).toBeFalse();
    });

    it('keeps the name on Escape and on an empty one', async () => {
      const page = await bench.show(PartsTree);
      for (const [value, key] of [
        ['Other', 'Escape'],
        ['  ', 'Enter'],
      ] as const) {
        bench.selection.chooseParts(new Set(['n3']));
        page.one('p-tree').dispatchEvent(new KeyboardEvent('keydown', { key: 'F2', bubbles: true }));
        await page.rest();
        const field = page.one<HTMLInputElement>('input.name');
        field.value = value;
        field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
        await page.rest();
      }
      expect(bench.store.document.nodes[2]!.name).toBe('sill');
    });

    it('hides a part with all below it, and shows one alone', async () => {
      const page = await bench.show(PartsTree);
      const { settings } = bench.get(ViewSettingsStore);
      expect(settings.hidden.size).toBe(0);
      page.one<HTMLButtonElement>('[aria-label="Hide frame"]').click();
      await page.rest();
      expect([...bench.get(ViewSettingsStore).settings.hidden]).toEqual(['n1', 'n2']);
      page.one<HTMLButtonElement>('[aria-label="Show sill alone"]').click();
      expect([...bench.get(ViewSettingsStore).settings.alone!]).toEqual(['n3']);
    });

    it('chooses by click, for all panels', async () => {
      const page = await bench.show(PartsTree);
      page.one('[data-part=leaf]').click();
      await page.rest();
      expect([...bench.selection.selected.parts]).toEqual(['n2']);
    });

    it('gives the chosen part another parent without a mouse, and never one below itself', async () => {
      const page = await bench.show(TreePanel);
      bench.jobs['operate']!.and.resolveTo({
        edit: reshaped(),
        outcome: { op: 'reparent', part: 'frame', parent: 'sill', shearBaked: false },
      });
      expect(page.has('[data-testid=parent]')).toBeFalse();
      bench.selection.chooseParts(new Set(['n1']));
      await page.rest();
      page.one<HTMLElement>('[role=combobox][aria-label=Parent]').click();
      await page.rest();
      const options = [...document.querySelectorAll('[role=option]')].map((each) => each.textContent!.trim());
      expect(options).toEqual(['the root', 'sill']);
      document.querySelectorAll<HTMLElement>('[role=option]')[1]!.click();
      await page.rest();
      expect(lastOperation()).toEqual({ op: 'reparent', part: 'n1', parent: 'n3' });
      expect(bench.said()).toContain('becomes a child of “sill”');
    });

    it('does to the chosen parts what the buttons say', async () => {
      const page = await bench.show(TreePanel);
      expect(page.button('Delete').disabled).toBeTrue();
      bench.selection.chooseParts(new Set(['n2', 'n3']));
      await page.rest();
      const parts = ['n2', 'n3'];
      for (const [words, operation] of [
        ['Group', { op: 'group', parts, name: 'Post' }],
        ['Combine', { op: 'combine', parts }],
        ['Duplicate', { op: 'duplicate', parts }],
        ['Set aside', { op: 'set-aside', parts, aside: true }],
        ['Delete', { op: 'delete', parts }],
      ] as const) {
        await page.press(words);
        expect(lastOperation()).toEqual(operation);
      }
    });

    it('hides and shows alone by keys, what is chosen with all below it', async () => {
      await bench.show(TreePanel);
      const press = (key: string) =>
        document.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
      press('h');
      expect(bench.get(ViewSettingsStore).settings.hidden.size).toBe(0);
      bench.selection.chooseParts(new Set(['n1']));
      press('h');
      press('a');
      const { hidden, alone } = bench.get(ViewSettingsStore).settings;
      expect([[...hidden], [...alone!]]).toEqual([
        ['n1', 'n2'],
        ['n1', 'n2'],
      ]);
    });
  });

  describe('faces', () => {
    let page: TestPage<FacesPanel>;
    beforeEach(async () => {
      page = await bench.show(FacesPanel);
      bench.selection.setArt({ ...stripArt(), document: bench.store.document });
    });

    it('are chosen by the way that is taken, which a second click ends', async () => {
      const settings = () => bench.get(ViewSettingsStore).settings;
      await page.press('Lasso');
      expect([settings().choosing, settings().chooseBy]).toEqual([true, 'lasso']);
      expect(page.text).toContain('through');
      await page.tick('through');
      expect(settings().through).toBeTrue();
      await page.press('Lasso');
      expect(settings().choosing).toBeFalse();
    });

    it('become a part, are deleted or flipped as the buttons say', async () => {
      bench.selection.chooseFaces(Uint8Array.of(1, 1, 0, 0, 0, 0, 0, 0), 'only');
      await page.rest();
      const faces = [{ part: 'n1', faces: Uint32Array.of(0, 1) }];
      await page.press('Split off 2 faces');
      expect(lastOperation()).toEqual({ op: 'split-faces', faces });
      await page.press('Delete');
      expect(lastOperation()).toEqual({ op: 'delete-faces', faces });
      await page.press('Flip');
      expect(lastOperation()).toEqual({ op: 'flip', faces });
      await page.press('Clear');
      expect(page.text).toContain('Choose a way');
    });
  });

  it('a split is looked at before it is made: pieces and specks in a list, each chosen by a click', async () => {
    bench = await testBench(undefined, (jobs) =>
      jobs['draw']!.and.callFake(async () => ({ ...stripArt().art })),
    );
    await settle();
    const piece = (faces: number, metres: number, speck = false) => ({ part: 'n1', faces, metres, speck });
    const apart = {
      pieces: [piece(5, 2), piece(2, 0.4), piece(1, 0.004, true)],
      ofFace: Int32Array.of(0, 0, 0, 0, 0, 1, 1, 2),
    };
    bench.jobs['comingApart']!.and.resolveTo(apart);
    const page = await bench.show(SplitPanel);
    const view = bench.get(ViewSettingsStore);
    expect(bench.jobs['comingApart']).not.toHaveBeenCalled();
    await page.press('shells');
    expect(view.settings.apart).toEqual({ op: 'split-shells', parts: [], smallest: 0.01 });
    expect(shown(bench.get(ArtLooks).apart$)).toBe(apart);
    expect(page.text).toContain('3 of');
    expect(page.one('[data-row="2"]').textContent).toContain('4.0 mm');
    expect(page.one('[data-row="2"]').textContent).toContain('speck');
    await page.type('Smallest shell', '2');
    expect(bench.jobs['comingApart']!.calls.mostRecent().args[1].smallest).toBe(0.002);
    page.one('[data-row="1"] button').click();
    await page.rest();
    expect([...bench.selection.selected.faces!.faces]).toEqual([0, 0, 0, 0, 0, 1, 1, 0]);
    await page.press('nothing');
    expect([view.settings.apart, shown(bench.get(ArtLooks).apart$)]).toEqual([null, null]);
  });

  it('splits every chosen part, or all, by shell, by material or along the cut', async () => {
    const page = await bench.show(SplitPanel);
    await page.press('By shell');
    expect(lastOperation()).toEqual({ op: 'split-shells', parts: [], smallest: 0.01 });
    bench.selection.chooseParts(new Set(['n2', 'n3']));
    await page.rest();
    await page.press('By material');
    expect(lastOperation()).toEqual({ op: 'split-materials', parts: ['n2', 'n3'] });
    expect(page.button('Along the cut').disabled).toBeTrue();
    bench.get(ViewSettingsStore).toggleCut();
    bench.get(ViewSettingsStore).setCut({ axis: 0, at: 0.25 });
    await page.rest();
    await page.press('Along the cut');
    expect(lastOperation()).toEqual({
      op: 'split-plane',
      parts: ['n2', 'n3'],
      point: [0.5, 1, 1],
      normal: [1, 0, 0],
      close: true,
    });
  });

  it('counts what a weld would come to while its distance is tried, and forgets it with the piece', async () => {
    const page = await bench.show(MendPanel);
    bench.jobs['tryOperation']!.and.resolveTo(WELD);
    await page.type('Weld distance', '1.5');
    expect(bench.jobs['tryOperation']!.calls.mostRecent().args[1]).toEqual({
      op: 'weld',
      parts: [],
      metres: 0.0015,
    });
    expect(page.text).toContain('12 vertices become 4');
    bench.store.apply({ kind: 'rename-mesh', name: 'Other' });
    await page.rest();
    expect(page.text).not.toContain('12 vertices');
    expect([weldCountText(null), weldCountText({ refused: 'It is flat.' })]).toEqual(['', 'It is flat.']);
    expect(weldCountText({ outcome: { op: 'flip', faces: 1 } })).toBe('');
  });

  it('repairs, recomputes and reduces what is chosen', async () => {
    bench.selection.chooseParts(new Set(['n2']));
    const parts = ['n2'];
    const mend = await bench.show(MendPanel);
    expect(mend.text).toContain('Repair 1 part');
    for (const [words, operation] of [
      ['Fill holes', { op: 'fill-holes', parts, bores: true }],
      ['Join borders', { op: 'join-borders', parts }],
      ['Orient outward', { op: 'face-outward', parts }],
      ['Flip all', { op: 'flip', parts }],
      ['Clean', { op: 'remove-faces', parts, which: ['doubled', 'hidden', 'zero-area', 'specks', 'unused'] }],
    ] as const) {
      await mend.press(words);
      expect(lastOperation()).toEqual(operation);
    }
    const vertices = await bench.show(EdgesPanel);
    await vertices.type('Hard edges above', '45');
    await vertices.press('Recompute all normals');
    expect(lastOperation()).toEqual({ op: 'normals', parts, degrees: 45 });
    await vertices.press('Merge vertices');
    expect(lastOperation()).toEqual({ op: 'vertices', parts, to: 'share' });
    await vertices.press('Split vertices');
    expect(lastOperation()).toEqual({ op: 'vertices', parts, to: 'separate' });
    const reduce = await bench.show(ReducePanel);
    await reduce.press('Reduce to');
    expect(lastOperation()).toEqual({ op: 'reduce', parts, share: 0.5 });
    await reduce.press('Reduce within');
    expect(lastOperation()).toEqual({ op: 'reduce', parts, metres: 0.005 });
  });

  it('names, orders, merges, adds, removes and assigns materials, and says who has them', async () => {
    const material = (name: string) => ({
      name,
      baseColor: [1, 0, 0, 1] as [number, number, number, number],
      metalness: 0,
      roughness: 0.5,
      emissive: [0, 0, 0] as [number, number, number],
      doubleSided: false,
      alpha: 'opaque' as const,
      alphaCutoff: 0.5,
      normalScale: 1,
      occlusionStrength: 1,
      pictures: {},
    });
    bench = await testBench(postPiece({ ...threeParts(), materials: [material('oak'), material('iron')] }));
    bench.jobs['materialUses']!.and.resolveTo({
      uses: [
        { faces: 8, parts: ['n1', 'n2'] },
        { faces: 0, parts: [] },
      ],
      none: 4,
    });
    const page = await bench.show(MaterialsPanel);
    expect(page.text).toContain('#FF0000 · 8 faces, 2 parts');
    expect(page.text).toContain('4 faces without a material');
    await page.press('Remove 1 unused');
    expect(lastOperation()).toEqual({ op: 'remove-materials', materials: [1] });
    await page.press('Add a slot');
    expect(lastOperation()).toEqual({ op: 'add-material' });
    const field = page.one<HTMLInputElement>('[aria-label="Name of material 2"]');
    field.value = ' steel ';
    field.dispatchEvent(new Event('change'));
    await page.rest();
    expect(bench.store.document.materials.map(({ name }) => name)).toEqual(['oak', 'steel']);
    page.one<HTMLButtonElement>('[aria-label="Move steel up"]').click();
    await page.rest();
    expect(lastOperation()).toEqual({ op: 'order-materials', order: [1, 0] });
    await page.choose('Material that goes', 'steel');
    await page.choose('Material that stays', 'oak');
    await page.press('Merge');
    expect(lastOperation()).toEqual({ op: 'merge-materials', from: [1], to: 0 });
    expect(page.one<HTMLButtonElement>('[aria-label="Assign oak"]').disabled).toBeTrue();
    bench.selection.chooseParts(new Set(['n2']));
    await page.rest();
    page.one<HTMLButtonElement>('[aria-label="Assign oak"]').click();
    await page.rest();
    expect(lastOperation()).toEqual({ op: 'assign-material', material: 0, parts: ['n2'] });
    expect(screenColour([1, 0, 0.2])).toBe('rgb(255, 0, 123)');
    await page.press('Rename by a pattern');
    expect(page.has('[aria-label="What is renamed"]')).toBeFalse();
    await page.press('Rename 2 materials');
    expect(bench.store.document.materials.map(({ name }) => name)).toEqual([
      jasmine.stringMatching(/^M_\w+_01$/),
      jasmine.stringMatching(/^M_\w+_02$/),
    ]);
  });

  it('a slot gets its name in the target from the bench, for every piece of the yard', async () => {
    const oak = { ...plainMaterial('oak'), name: 'oak' };
    bench = await testBench(postPiece({ ...threeParts(), materials: [oak] }));
    bench.jobs['materialUses']!.and.resolveTo({
      uses: [{ faces: 8, parts: ['n1', 'n2', 'n3', 'n1'] }],
      none: 0,
    });
    const page = await bench.show(MaterialsPanel);
    const target = bench.store.profile;
    const field = page.one<HTMLInputElement>(`[aria-label="Name of oak in ${target.name}"]`);
    expect(page.one('yb-material-names-panel').textContent).toContain('frame, leaf, sill');
    const type = async (text: string) => {
      field.value = text;
      field.dispatchEvent(new Event('change'));
      await page.rest();
    };
    await type(' MI_Oak ');
    const kept = () => bench.store.rules.materialNames;
    expect(kept()).toEqual([{ slot: 'oak', target: target.id, own: 'MI_Oak' }]);
    expect(bench.api.ruled.rules.materialNames).toEqual(kept());
    await type('oak');
    expect(kept()).toEqual([]);
    await type('x'.repeat(300));
    expect([kept(), bench.notices.notices.length]).toEqual([[], 1]);
    // On one part it may be another material.
    const name = bench.store.document.nodes.find(({ id }) => id === 'n2')!.name;
    bench.selection.chooseParts(new Set(['n2']));
    await page.rest();
    const onPart = page.one<HTMLInputElement>(`[aria-label="Name of oak of ${name} in ${target.name}"]`);
    onPart.value = 'MI_Oak_Wet';
    onPart.dispatchEvent(new Event('change'));
    await page.rest();
    expect(kept()).toEqual([{ slot: 'oak', target: target.id, own: 'MI_Oak_Wet', part: name }]);
    bench.selection.chooseParts(new Set());
    await page.rest();
    expect(page.text).toContain(`on ${name} only`);
    const slot = { name: 'physics_proxy', undrawn: '_nodraw' };
    spyOnProperty(bench.store, 'profile').and.returnValue({
      ...target,
      collision: { by: 'child-node', token: '$p', singleToken: null, slot } as never,
    });
    expect((await bench.show(MaterialsPanel)).text).toContain('“physics_proxy”, a slot of the shapes’ own');
  });

  describe('UVs', () => {
    const set = (over: Partial<UvSetReport> = {}): UvSetReport => ({
      density: 0.5,
      stretched: 0,
      uneven: 0,
      islands: 4,
      fill: 0.6,
      overlap: 0,
      outside: 0,
      empty: 0,
      border: 8,
      ...over,
    });
    const report = (part: string, over: Partial<UvReport> = {}): UvReport => ({
      part,
      sets: [set()],
      pictureTexels: 512,
      vertexColours: null,
      ...over,
    });

    it('are told set by set and part by part, with what is wrong with each', () => {
      const rows = uvRows(
        [
          report('n1', { sets: [set(), set({ density: 0.4, overlap: 0.2, border: 1, outside: 0.5 })] }),
          report('n2', { pictureTexels: null, vertexColours: { least: 0, mean: 0.5, greatest: 1 } }),
          report('n3', { sets: [] }),
        ],
        bench.store.document,
        { texture: 512, baked: 64 },
      );
      expect(rows.map(({ id, cells }) => [id, cells['set'], cells['density'], cells['fault']])).toEqual([
        ['n1 0', '1', '256 px/m', '60 % of the square used'],
        ['n1 1', '2', '256 px', 'overlaps by 20 %, 50 % outside, islands 1.0 px apart'],
        ['n2 0', '1', '2.00 m', 'vertex colours 0 % to 100 %, 50 % on average'],
        ['n3 0', '', 'no UVs', ''],
      ]);
      expect(rows.map(({ bad }) => bad)).toEqual([false, true, false, true]);
    });

    it('are listed without end, a click chooses part and set, and they are painted with a legend', async () => {
      bench.jobs['uvs']!.and.resolveTo(Array.from({ length: 3 }, (_, i) => report(`n${i + 1}`)));
      const page = await bench.show(UvPanel);
      expect(page.all('[data-row]').length).toBe(3);
      page.one<HTMLButtonElement>('[data-row="n2 0"] button').click();
      await page.rest();
      expect([...bench.selection.selected.parts]).toEqual(['n2']);
      await page.choose('What is painted on the piece', 'stretch');
      const view = bench.get(ViewSettingsStore);
      expect(view.settings.uvPaint).toEqual({ set: 0, what: 'stretch' });
      await page.choose('What is painted on the piece', 'a checker');
      expect([view.settings.uvPaint, view.settings.checker]).toEqual([null, true]);
    });

    it('are projected, brought to a density, unwrapped for baked light, and removed', async () => {
      const page = await bench.show(UvLayPanel);
      await page.press('Project UVs');
      expect(lastOperation()).toEqual({
        op: 'project-uvs',
        parts: [],
        metresPerPicture: 1,
        by: 'box',
        axis: 1,
      });
      const { rules } = bench.store.piece.yard;
      await page.press('Set the density');
      expect(lastOperation()).toEqual({
        op: 'uv-density',
        parts: [],
        set: 0,
        perMetre: rules.pixelsPerMetre / 1024,
      });
      await page.press('Second set for baked light');
      expect(lastOperation()).toEqual({
        op: 'unwrap',
        parts: [],
        texelsPerMetre: rules.bakedPixelsPerMetre,
        paddingTexels: 4,
      });
      await page.press('Remove set 1');
      expect(lastOperation()).toEqual({ op: 'remove-uvs', parts: [], set: 0 });
    });
  });

  describe('edges', () => {
    const run = (sides: number[], how: 'only' | 'add' | 'take') =>
      bench.selection.chooseRun(
        Uint8Array.of(how === 'take' ? 0 : 1, 0, 0, 0, 0, 0, 0, 0),
        [{ part: 'n1', sides: Uint32Array.from(sides) }],
        how,
      );
    beforeEach(() => {
      bench.selection.setArt({ ...stripArt(), document: bench.store.document });
      const drawn = { ...stripArt(), document: bench.store.document, piece: 1 };
      spyOnProperty(bench.get(ArtStore), 'art').and.returnValue(drawn);
    });

    it('that were followed build up: a second run is marked with the first, or taken away', async () => {
      const page = await bench.show(EdgesPanel);
      expect(page.button('Hard').disabled).toBeTrue();
      run([2], 'only');
      run([5], 'add');
      await page.rest();
      expect(page.text).toContain('2 edges followed');
      await page.press('Hard');
      expect(lastOperation()).toEqual({
        op: 'mark-edges',
        as: 'hard',
        edges: [{ part: 'n1', sides: Uint32Array.of(2, 5) }],
      });
      run([2], 'take');
      await page.rest();
      expect(page.text).toContain('1 edge followed');
      bench.selection.clearFaces();
      await page.rest();
      expect(page.button('Hard').disabled).toBeTrue();
    });

    it('are marked by angle, by material, by UVs, or round the chosen faces', async () => {
      const page = await bench.show(EdgesPanel);
      for (const [words, where] of [
        ['all edges above an angle', 'angle'],
        ['where materials meet', 'materials'],
        ['where UVs part', 'uvs'],
      ] as const) {
        await page.choose('Which edges', words);
        await page.press('Smooth');
        expect(lastOperation()).toEqual({ op: 'mark-edges', as: 'smooth', where, parts: [], degrees: 30 });
      }
      await page.choose('Which edges', 'the outline of the chosen faces');
      expect(page.button('Smooth').disabled).toBeTrue();
      await page.tick('light hard edges');
      expect(bench.get(ViewSettingsStore).settings.hardEdges).toBeTrue();
    });
  });
});
