import { provideZonelessChangeDetection } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { Comparer, type Ladder, plainMesh, type Shape, type Vec3 } from '@yard-brace/core';
import { providePrimeNG } from 'primeng/config';
import { Api } from '../api/api';
import { Compute, Stopped } from '../compute/compute';
import { postDocument, postPiece, savedPost } from '../testing/post';
import { shown } from '../testing/shown';
import { deviationColors, LEGEND } from '../view/deviation-paint';
import { ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { DeviationStore } from './deviation-store';
import { LadderPanel } from './ladder-panel';
import { LadderStore } from './ladder-store';
import { Operations } from './operations';

const box = (x: number, half: number): Shape => ({
  kind: 'box',
  center: [x, 0.5, 0.5],
  halfExtents: [half, 0.5, 0.5],
  rotation: [0, 0, 0, 1],
});
const art = plainMesh([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1], [0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]);
const comparer = new Comparer(art);
const rung = (shapes: Shape[]) => ({ shapes, figures: comparer.compare(shapes) });
const ladder: Ladder = {
  rungs: [rung([box(0.5, 0.5)]), rung([box(0.25, 0.25), box(0.75, 0.25)])],
  goodEnough: 1,
  specks: 2,
};

describe('the ladder', () => {
  let store: BenchStore;
  let fixture: ComponentFixture<LadderPanel>;
  let page: HTMLElement;
  const worker = jasmine.createSpyObj('worker', ['ladder', 'measure']);
  const run = jasmine.createSpy('run');
  const press = async (name: string) => {
    [...page.querySelectorAll('button')].find((b) => b.textContent!.trim().startsWith(name))!.click();
    await fixture.whenStable();
  };
  const shapesShown = () => shown(store.proposal$)?.proxies.map(({ shape }) => shape);

  beforeEach(async () => {
    localStorage.clear();
    worker.ladder.calls.reset();
    worker.measure.calls.reset();
    worker.ladder.and.resolveTo({ ladder, now: null });
    run.and.callFake((work: (remote: unknown, progress: unknown) => unknown) =>
      work(worker, () => undefined),
    );
    const piece = postPiece(postDocument());
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        providePrimeNG({}),
        provideRouter([]),
        BenchStore,
        ViewState,
        LadderStore,
        Operations,
        DeviationStore,
        {
          provide: Api,
          useValue: {
            piece: async () => piece,
            savePiece: async () => savedPost(2),
          },
        },
        { provide: Compute, useValue: { run } },
      ],
    });
    store = TestBed.inject(BenchStore);
    await store.open(1);
    fixture = TestBed.createComponent(LadderPanel);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  });

  it('is run for the chosen agent with the openings of the piece, and shows the rung that is good enough', async () => {
    const clearance = {
      id: 'c',
      name: 'hatch',
      center: [9, 9, 9] as Vec3,
      halfExtents: [1, 1, 1] as Vec3,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      through: 'z' as const,
    };
    store.apply({ kind: 'set-clearances', clearances: [clearance] });
    await press('Break into shapes');
    const [, request] = worker.ladder.calls.mostRecent().args;
    expect(request).toEqual(
      jasmine.objectContaining({ agentDetail: 0.04, mostShapes: 32, mayCross: true, primitives: true }),
    );
    expect(request.clearances).toEqual([
      { kind: 'box', center: [9, 9, 9], halfExtents: [1, 1, 1], rotation: [0, 0, 0, 1] },
    ]);
    expect(shapesShown()!.length).toBe(2);
    expect(page.querySelector('[aria-checked=true]')!.textContent!.trim()).toBe('2');
    expect(page.querySelector('.enough')!.textContent!.trim()).toBe('2');
    expect(page.querySelector('[data-row="Openings kept free"]')!.textContent).toContain('1 of 1');
    expect(page.textContent).toContain('2 loose crumbs');
  });

  it('is walked by click and by arrow, the view following; kept as one edit, or left with nothing changed', async () => {
    await press('Break into shapes');
    page.querySelector<HTMLButtonElement>('[data-rung="1"]')!.click();
    await fixture.whenStable();
    expect(shapesShown()).toEqual(ladder.rungs[0]!.shapes);
    expect(page.querySelector('[data-row=Shapes]')!.textContent).toContain('1');
    page.querySelector('.rungs')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight' }));
    await fixture.whenStable();
    expect(shapesShown()!.length).toBe(2);
    await press('Leave');
    expect(store.document.proxies).toEqual([]);
    expect(page.querySelector('[data-testid=ladder]')).toBeNull();
    await press('Break into shapes');
    await press('Keep 2 shapes');
    expect(store.document.proxies.length).toBe(2);
    store.undo();
    expect(store.document.proxies).toEqual([]);
  });

  it('breaks up chosen faces only, and adds their shapes to those that are there', async () => {
    const view = TestBed.inject(ViewState);
    store.apply({ kind: 'set-proxies', proxies: [{ id: 'old', shape: box(4, 1) }] });
    view.chosen$.next({
      faces: Uint8Array.from([0, 1, 0, 1]),
      count: 2,
      area: 1,
      min: [0, 0, 0],
      max: [1, 1, 1],
    });
    await fixture.whenStable();
    await press('Break 2 faces into shapes');
    expect([...worker.ladder.calls.mostRecent().args[1].faces]).toEqual([1, 3]);
    expect(shapesShown()!.length).toBe(3);
    const ids = shown(store.proposal$)!.proxies.map(({ id }) => id);
    expect(new Set(ids).size).toBe(3);
  });

  it('changes nothing when it is stopped', async () => {
    worker.ladder.and.rejectWith(new Stopped('Stopped.'));
    await press('Break into shapes');
    expect(shown(store.proposal$)).toBeNull();
    expect(page.querySelector('[data-testid=ladder]')).toBeNull();
  });

  it('measures what is shown while the deviation is looked at, and not otherwise', async () => {
    const deviation = TestBed.inject(DeviationStore);
    const { vertices, uncovered: _uncovered, ...figures } = comparer.inDetail([box(0.5, 0.5)]);
    worker.measure.and.resolveTo({ figures, vertices });
    store.apply({ kind: 'set-proxies', proxies: [{ id: 'a', shape: box(0.5, 0.5) }] });
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(worker.measure).not.toHaveBeenCalled();
    TestBed.inject(ViewState).toggle('deviation');
    await new Promise((resolve) => setTimeout(resolve, 250));
    expect(worker.measure).toHaveBeenCalledTimes(1);
    expect(deviation.deviation$.value!.vertices.length).toBe(4);
    TestBed.inject(ViewState).toggle('deviation');
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(deviation.deviation$.value).toBeNull();
  });

  it('paints what stands out on either side in steps, pale where nothing does', () => {
    const paint = (value: number) => [
      ...deviationColors({ vertices: Float32Array.of(value), scale: 0.04, proxyOutside: 0, artOutside: 0 }),
    ];
    expect(LEGEND.length).toBe(9);
    expect(paint(0)).toEqual(paint(0.009));
    expect(paint(0.011)).not.toEqual(paint(-0.011));
    expect(paint(0.05)).toEqual(paint(1));
  });
});
