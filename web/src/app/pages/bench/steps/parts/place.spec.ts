import { Router } from '@angular/router';
import { manifestOf, type Operation, type PieceDocument, planDelivery, type Seam } from '@yard-brace/core';
import { ArtStore } from '../../../../state/art-store';
import { type Picked, Picking } from '../../../../state/picking';
import { ShelfStore } from '../../../../state/shelf-store';
import { ViewMarks } from '../../../../state/view-marks';
import { ViewSettingsStore } from '../../../../state/view-settings';
import { type TestBench, testBench, type TestPage } from '../../../../testing/bench';
import { settle } from '../../../../testing/hand-clock';
import { postPiece, shelfPiece, threeParts } from '../../../../testing/post';
import { shown } from '../../../../testing/shown';
import { AlignPanel } from './align-panel';
import { BesidePanel } from './beside-panel';
import { MirrorPanel } from './mirror-panel';
import { ModulePanel } from './module/module-panel';
import { PartsStep } from './parts-step';
import { PlacePanel } from './place-panel';
import { PutBackPanel } from './put-back-panel';

const at = (x: number, y: number, z: number): Picked => ({
  kind: 'vertex',
  at: [x, y, z],
  normal: [0, 1, 0],
  edge: [
    [0, 0, 0],
    [1, 0, 0],
  ],
  part: 'n1',
});

describe('placing parts', () => {
  let bench: TestBench;
  beforeEach(async () => {
    bench = await testBench(postPiece(threeParts()));
    bench.api.shelf = [shelfPiece(7, 'Tall post')];
    await bench.get(ShelfStore).load(1);
  });
  const last = () => bench.jobs['operate']!.calls.mostRecent().args[1];
  const choose = async (page: TestPage<unknown>, ...ids: string[]) => {
    bench.selection.chooseParts(new Set(ids));
    await page.rest();
  };
  const pick = async (page: TestPage<unknown>, ...points: Picked[]) => {
    for (const point of points) {
      bench.get(Picking).pick(point);
      await page.rest();
    }
  };

  it('one part has its place typed: position, rotation, scale, each about its pivot', async () => {
    const page = await bench.show(PlacePanel);
    expect(page.text).toContain('Choose one part to type its rotation');
    await page.type('Position x of the piece', '7');
    expect(last()).toEqual(
      jasmine.objectContaining({
        op: 'move',
        parts: [],
        by: [7 - bench.store.document.pivot.position[0], 0, 0],
      }),
    );
    await choose(page, 'n2');
    expect(page.text).toContain('“leaf”');
    await page.type('Position y of the part', '0.5');
    expect(last()).toEqual(
      jasmine.objectContaining({ op: 'move', parts: ['n2'], by: [0, 0.5, 0], alone: false }),
    );
    await page.type('Rotation y of the part', '90');
    expect(last()['turn'].map((v: number) => Math.round(v * 1e6) / 1e6)).toEqual([0, 0.707107, 0, 0.707107]);
    await page.type('Scale x of the part', '2');
    expect(last()['scale']).toEqual([2, 1, 1]);
    await page.tick('with what hangs below');
    await page.type('Scale by', '3');
    expect(last()).toEqual(jasmine.objectContaining({ scale: [3, 3, 3], alone: true }));
  });

  it('moves from a picked point to another, turns by an angle, and takes another part’s place', async () => {
    const page = await bench.show(PlacePanel);
    await choose(page, 'n2');
    page.one('[data-testid=move-from-to]').click();
    await page.rest();
    await pick(page, at(1, 0, 0), { ...at(4, 0, 2), kind: 'ground', part: '' });
    expect(last()['by']).toEqual([3, 0, 2]);
    page.one<HTMLButtonElement>('[aria-label="Turn about y"]').click();
    await page.rest();
    expect(last()['turn'][1]).toBeCloseTo(Math.SQRT1_2, 9);
    await page.choose('Part whose place is copied', 'sill');
    await page.press('Copy its place');
    expect(last()).toEqual(jasmine.objectContaining({ op: 'move', parts: ['n2'] }));
  });

  it('are aligned by a side to the ground, the grid, the piece, a part, or a piece beside', async () => {
    const page = await bench.show(AlignPanel);
    await choose(page, 'n2');
    await page.choose('Side that is aligned', 'top');
    await page.press('Align');
    expect(last()['by'].slice(1)).toEqual([-2, 0]);
    await page.choose('What it is aligned to', 'the nearest line of the grid');
    await page.press('Align');
    expect(Math.abs(last()['by'][1])).toBe(2);
    await page.choose('What it is aligned to', 'sill');
    await page.choose('Side that it meets', 'middle, upright');
    await page.press('Align');
    expect(last()['by']).toEqual([0, -1, 0]);
  });

  it('may be typed faster than they are worked out: each value is of the place that the one before left', async () => {
    const page = await bench.show(PlacePanel);
    await choose(page, 'n2');
    const waiting: (() => void)[] = [];
    bench.jobs['operate']!.and.callFake(
      (document: PieceDocument, operation: Operation) =>
        new Promise((resolve) => {
          const nodes = document.nodes.map((node) => ({ ...node, name: `${node.name}+` }));
          const { meshes, whole, materials, unit, placing } = document;
          const edit = { kind: 'reshape', op: 'move', nodes, meshes, whole, materials, unit, placing };
          waiting.push(() =>
            resolve({
              edit,
              outcome: { op: 'move', parts: [], metres: 1, degrees: 0, scale: [1, 1, 1], operation },
            }),
          );
        }),
    );
    await page.type('Position x of the part', '5');
    await page.type('Position y of the part', '6');
    expect(waiting.length).toBe(1);
    waiting[0]!();
    await page.rest();
    // The second one is worked out on what the first one made.
    expect(waiting.length).toBe(2);
    expect(bench.jobs['operate']!.calls.mostRecent().args[0]).toBe(bench.store.document);
    expect(last()['by'][0]).toBe(0);
    waiting[1]!();
    await page.rest();
    expect(bench.store.document.nodes[0]!.name.endsWith('++')).toBeTrue();
  });

  it('are put back as they were delivered, by a delivery of the piece or by a manifest file', async () => {
    const plan = planDelivery(bench.store.document, bench.store.profile, {});
    const text = JSON.stringify(manifestOf(plan, []));
    bench.api.texts = text;
    const files = [{ name: 'Post.manifest.json', type: 'application/json', bytes: 1 }];
    spyOn(bench.api, 'deliveries').and.resolveTo({
      deliveries: [
        { id: 9, at: '2026-01-02T03:04:05Z', target: 'prefix-tags', profile: null, files } as never,
      ],
      more: 0,
    });
    const page = await bench.show(PutBackPanel);
    await page.press('Put back');
    expect(last()).toEqual(jasmine.objectContaining({ op: 'put-back' }));
    expect(last().places.map(({ part }: { part: string }) => part)).toEqual(
      bench.store.document.nodes.map(({ id }) => id),
    );
    const choose = async (content: string) => {
      const input = page.one<HTMLInputElement>('[data-testid=manifest-file]');
      const transfer = new DataTransfer();
      transfer.items.add(new File([content], 'm.manifest.json'));
      input.files = transfer.files;
      input.dispatchEvent(new Event('change'));
      await new Promise((resolve) => setTimeout(resolve, 20));
      await page.rest();
    };
    await choose('{}');
    expect(bench.said()).toContain('m.manifest.json is no manifest');
    const manifest = JSON.parse(text) as { hierarchy: { name: string }[] };
    manifest.hierarchy.forEach((node) => (node.name += ' of another'));
    await choose(JSON.stringify(manifest));
    expect(bench.said()).toContain('No part has a name of that manifest');
  });

  it('are mirrored in place or as a copy, and the piece as a piece of its own', async () => {
    const page = await bench.show(MirrorPanel);
    await choose(page, 'n2');
    await page.press('Mirrored copy');
    expect(last()).toEqual({
      op: 'mirror',
      parts: ['n2'],
      plane: { point: bench.store.document.pivot.position, normal: [1, 0, 0] },
      copy: true,
    });
    await page.choose('Mirror through', 'a point that is picked');
    await page.choose('Mirror across', 'Z, back and front');
    page.button('Mirror in place').click();
    await settle();
    await pick(page, at(1, 2, 3));
    expect(last()['plane']).toEqual({ point: [1, 2, 3], normal: [0, 0, 1] });
    await choose(page);
    await page.choose('Mirror through', 'the middle of the piece');
    const { nodes, meshes, whole, materials, unit, placing } = bench.store.document;
    bench.jobs['operate']!.and.resolveTo({
      edit: { kind: 'reshape', op: 'mirror', nodes, meshes, whole, materials, unit, placing },
      outcome: { op: 'mirror', parts: [], copies: [] },
    });
    const added = spyOn(bench.api, 'addPiece').and.callThrough();
    const opened = spyOn(bench.get(Router), 'navigate').and.resolveTo(true);
    const undoable = shown(bench.store.undoable$);
    page.one('[data-testid=mirror-as-piece]').click();
    await page.rest();
    expect(added.calls.mostRecent().args[1].base.name).toBe('Post (mirrored)');
    expect(shown(bench.store.undoable$)).toBe(undoable);
    expect(opened).toHaveBeenCalled();
  });

  it('pieces stand beside, and seams with them are told vertex by vertex', async () => {
    const seam: Seam = {
      pairs: [
        { a: [1, 0, 0], b: [1, 0, 0.0004], apart: 0.0004, gap: -0.0004 },
        { a: [2, 0, 0], b: [2, 0, 0], apart: 0, gap: 0 },
      ],
      unmatched: 1,
    };
    bench.jobs['draw']!.and.resolveTo({});
    bench.jobs['seam']!.and.resolveTo(seam);
    const page = await bench.show(BesidePanel);
    await page.choose('Piece to show beside', 'Tall post');
    await page.rest();
    await page.rest();
    expect(shown(bench.store.beside$)).toEqual([7]);
    expect(shown(bench.get(ArtStore).beside$).length).toBe(1);
    expect(page.one('[data-testid=beside]').textContent).toContain(
      '1 of 2 vertices meet, at most 0.40 mm off; 1 vertex near it meets none',
    );
    await page.press('overlaps 0.40 mm');
    expect(shown(bench.get(ViewMarks).place$)).toEqual([1, 0, 0]);
    page.one<HTMLButtonElement>('[aria-label="Take Tall post away"]').click();
    await page.rest();
    expect(shown(bench.store.beside$)).toEqual([]);
  });
});

describe('a module', () => {
  let bench: TestBench;
  let page: TestPage<ModulePanel>;
  beforeEach(async () => {
    bench = await testBench(postPiece(threeParts()));
    page = await bench.show(ModulePanel);
  });
  const last = () => bench.jobs['operate']!.calls.mostRecent().args[1];
  const origin = () => bench.store.document.pivot.position;

  it('is cut off at a place that is typed or picked, on either side', async () => {
    await page.type('Cut at', '0.5');
    page.one('[data-testid=cut-beyond]').click();
    await page.rest();
    const point = [origin()[0] + 0.5, origin()[1], origin()[2]];
    expect(last()).toEqual({ op: 'trim', parts: [], point, normal: [1, 0, 0], close: true });
    await page.press('Pick where');
    bench.get(Picking).pick(at(origin()[0] + 0.75, 0, 0));
    await page.rest();
    await page.press('Cut off before');
    expect(last()).toEqual(jasmine.objectContaining({ normal: [-1, 0, 0] }));
    expect(last().point[0]).toBeCloseTo(origin()[0] + 0.75, 9);
    await page.press('Divide there');
    expect(last().op).toBe('split-plane');
  });

  it('is repeated by a count or to a length, bent, and stretched to a whole length', async () => {
    await page.press('Repeat');
    await page.type('Length of the row', '10');
    page.one('[data-testid=repeat]').click();
    await page.rest();
    expect(last()).toEqual({ op: 'repeat', parts: [], count: 5, step: [2, 0, 0], asOne: false });
    await page.press('Bend');
    await page.type('Bend by', '-45');
    await page.choose('Held at', 'the other end');
    page.one('[data-testid=bend]').click();
    await page.rest();
    const from = -origin()[0] + 0;
    expect(last()).toEqual({
      op: 'bend',
      parts: [],
      module: { origin: origin(), along: [1, 0, 0], from, to: from + 2 },
      degrees: -45,
      divisions: 8,
      held: 'to',
    });
    await page.press('Stretch');
    await page.type('Whole length', '5');
    expect(last()).toEqual(
      jasmine.objectContaining({
        op: 'stretch',
        metres: 4,
        module: jasmine.objectContaining({ from: from + 0.5 }),
      }),
    );
  });

  it('is laid along points that are picked one after the other', async () => {
    await page.press('Along a line');
    expect(page.button('Lay along it').disabled).toBeTrue();
    page.button('Pick points').click();
    for (const x of [0, 2]) {
      await settle();
      bench.get(Picking).pick(at(x, 0, 0));
    }
    await settle();
    bench.get(Picking).cancel();
    await page.rest();
    await page.press('Lay along it');
    expect(last().line).toEqual([
      [0, 0, 0],
      [2, 0, 0],
    ]);
  });
});

describe('the parts step', () => {
  it('shows one thing at a time, and what is only for a look ends with it', async () => {
    const bench = await testBench(postPiece(threeParts()));
    const page = await bench.show(PartsStep);
    const view = bench.get(ViewSettingsStore);
    expect([page.has('yb-tree-panel'), page.has('yb-mend-panel')]).toEqual([true, false]);
    view.set({ hardEdges: true, turning: true, draggingParts: true });
    await page.press('Surface');
    expect([page.has('yb-tree-panel'), page.has('yb-mend-panel')]).toEqual([false, true]);
    expect([view.settings.hardEdges, view.settings.turning, view.settings.draggingParts]).toEqual([
      false,
      false,
      false,
    ]);
    view.set({ turning: true });
    page.fixture.destroy();
    expect(view.settings.turning).toBeFalse();
  });
});
