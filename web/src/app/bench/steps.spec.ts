import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { applyEdit } from '@yard-brace/core';
import { providePrimeNG } from 'primeng/config';
import { Api } from '../api/api';
import { Compute, Stopped } from '../compute/compute';
import { postDocument, postPiece, savedPost } from '../testing/post';
import { shown } from '../testing/shown';
import { Notices } from '../shell/notices';
import { ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { ChangeBar } from './change-bar';
import { Operations } from './operations';
import { PartsStep } from './parts-step';
import { PivotStep } from './pivot-step';
import { SizeStep } from './size-step';

describe('the steps of the card', () => {
  let store: BenchStore;
  let page: HTMLElement;
  let fixture: ComponentFixture<unknown>;
  const run = jasmine.createSpy('run');
  const piece = postPiece(postDocument(2));

  async function show<T>(step: Type<T>): Promise<void> {
    fixture = TestBed.createComponent(step);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  }
  const press = async (name: string) => {
    [...page.querySelectorAll('button')].find((b) => b.textContent!.trim().startsWith(name))!.click();
    await fixture.whenStable();
  };

  beforeEach(async () => {
    localStorage.clear();
    run.calls.reset();
    run.and.resolveTo([]);
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        providePrimeNG({}),
        provideRouter([]),
        BenchStore,
        ViewState,
        Operations,
        {
          provide: Api,
          useValue: {
            piece: async (id: number) => ({ ...piece, id }),
            savePiece: async () => savedPost(2),
          },
        },
        { provide: Compute, useValue: { run } },
      ],
    });
    store = TestBed.inject(BenchStore);
    await store.open(1);
  });

  it('Parts: a part is renamed in place, and what it was called is remembered', async () => {
    await show(PartsStep);
    page
      .querySelector<HTMLElement>('[data-part=Post]')!
      .dispatchEvent(new MouseEvent('dblclick', { bubbles: true }));
    await fixture.whenStable();
    const field = page.querySelector<HTMLInputElement>('input[aria-label="Name of the part"]')!;
    field.value = 'Mooring post';
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await fixture.whenStable();
    expect(store.document.nodes[0]).toEqual(
      jasmine.objectContaining({ name: 'Mooring post', cameAs: 'Post' }),
    );
    expect(page.querySelector('[role=treeitem]')!.textContent).toContain('Mooring post');
  });

  it('Parts: an operation is proposed, kept as one edit, and undone', async () => {
    await show(PartsStep);
    const { kind: _kind, ...reshaped } = {
      kind: 'x',
      nodes: store.document.nodes,
      meshes: store.document.meshes,
      whole: store.document.whole,
      materials: [],
      unit: store.document.unit,
      placing: { ...store.document.placing, factor: 2 },
    };
    run.and.resolveTo({
      edit: { kind: 'reshape', what: 'weld', ...reshaped },
      says: 'Welding 0.2 mm: 12 vertices become 4.',
    });
    await press('Weld');
    expect(shown(store.change$)!.says).toContain('12 vertices become 4');
    expect(store.document.placing.factor).toBe(1);
    const bar = TestBed.createComponent(ChangeBar);
    await bar.whenStable();
    expect((bar.nativeElement as HTMLElement).textContent).toContain('size');
    store.keepProposal();
    expect(store.document.placing.factor).toBe(2);
    store.undo();
    expect(store.document.placing.factor).toBe(1);
  });

  it('Parts: what is chosen stays through a save, and is not carried to the next piece', async () => {
    await show(PartsStep);
    page.querySelector<HTMLElement>('[data-part=Post]')!.click();
    await fixture.whenStable();
    expect(page.textContent).toContain('1 part chosen.');
    store.apply({ kind: 'rename-mesh', name: 'Saved' });
    await store.settled();
    await fixture.whenStable();
    expect(page.textContent).toContain('1 part chosen.');
    await store.open(2);
    await fixture.whenStable();
    expect(page.textContent).not.toContain('1 part chosen.');
  });

  it('Parts: what was worked out on the piece as it was is not laid over what was changed meanwhile', async () => {
    await show(PartsStep);
    let finish!: (value: unknown) => void;
    run.and.callFake(() => new Promise((resolve) => (finish = resolve)));
    await press('Weld');
    store.apply({ kind: 'rename-parts', names: [{ part: 'n1', name: 'Renamed meanwhile' }] });
    const { nodes, meshes, whole, materials, unit, placing } = postDocument(2);
    finish({
      edit: { kind: 'reshape', what: 'weld', nodes, meshes, whole, materials, unit, placing },
      says: 'Welded.',
    });
    await fixture.whenStable();
    expect(shown(store.change$)).toBeNull();
    expect(store.document.nodes[0]!.name).toBe('Renamed meanwhile');
    expect(TestBed.inject(Notices).notices$.value.at(-1)!.text).toContain('do it again');
  });

  it('Parts: faces chosen on a change that is only proposed are not taken for the piece’s own', async () => {
    await show(PartsStep);
    const operations = TestBed.inject(Operations);
    const proposed = applyEdit(store.document, { kind: 'resize', factor: 2, about: [0, 0, 0], what: 'x' });
    const view = TestBed.inject(ViewState);
    view.art = { art: {} as never, document: proposed };
    run.calls.reset();
    await operations.propose({ op: 'delete-faces', faces: [{ part: 'n1', faces: Uint32Array.of(0) }] });
    expect(run).not.toHaveBeenCalled();
    expect(TestBed.inject(Notices).notices$.value.at(-1)!.text).toContain('only proposed');
    view.art = { art: {} as never, document: store.document };
    run.and.rejectWith(new Stopped('Stopped.'));
    await operations.propose({ op: 'delete-faces', faces: [{ part: 'n1', faces: Uint32Array.of(0) }] });
    expect(run).toHaveBeenCalled();
  });

  it('Pivot: a swing that was tried on one part is not left on another, and ends when another is turned to', async () => {
    store.apply({
      kind: 'set-pivots',
      what: 'hinge',
      pivots: [
        {
          part: null,
          pivot: {
            anchor: 'hinge',
            position: [0, 0, 0],
            rotation: [0, 0, 0, 1],
            locked: false,
            hinge: { axis: [0, 1, 0], opens: [0, 90] },
          },
        },
      ],
    });
    await show(PivotStep);
    const view = TestBed.inject(ViewState);
    view.swing$.next({ part: '', degrees: 30 });
    await fixture.whenStable();
    const whose = page.querySelector<HTMLSelectElement>('[data-testid=whose]')!;
    whose.value = 'n1';
    whose.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(view.swing$.value).toBeNull();
    await store.open(2);
    await fixture.whenStable();
    expect(page.querySelector<HTMLSelectElement>('[data-testid=whose]')!.value).toBe('');
  });

  it('Size: growing is proposed from the base, which stays', async () => {
    await show(SizeStep);
    await press('upside down');
    expect(shown(store.change$)!.edit.kind).toBe('turn');
    store.leaveProposal();
    store.proposeChange('x', { kind: 'resize', factor: 3, about: [0, 0, 0], what: 'x' });
    store.keepProposal();
    await fixture.whenStable();
    expect(page.textContent).toContain('Every node says 0, 0, 1.');
    expect(store.document.placing.factor).toBe(3);
  });

  it('Pivot: the cube sets a point of the bounds; a locked pivot stays', async () => {
    await show(PivotStep);
    const spot = (name: string) => page.querySelector<SVGElement>(`circle[aria-label="${name}"]`)!;
    expect(page.querySelectorAll('circle').length).toBe(27);
    spot('right top front').dispatchEvent(new MouseEvent('click'));
    await fixture.whenStable();
    expect([store.document.pivot.anchor, store.document.pivot.position]).toEqual(['bounds', [2, 2, 2]]);
    expect(spot('right top front').getAttribute('aria-checked')).toBe('true');
    const [locked] = page.querySelectorAll<HTMLInputElement>('input[type=checkbox]');
    locked!.click();
    await fixture.whenStable();
    spot('middle').dispatchEvent(new MouseEvent('click'));
    await fixture.whenStable();
    expect(store.document.pivot.position).toEqual([2, 2, 2]);
    store.apply({ kind: 'set-pivot', anchor: 'origin', position: [0, 0, 0] });
    expect(store.document.pivot.position).toEqual([2, 2, 2]);
  });

  it('Pivot: a part keeps in step with another until it is let go', () => {
    const document = applyEdit(store.document, {
      kind: 'set-pivots',
      what: 'x',
      pivots: [
        {
          part: 'n1',
          pivot: {
            anchor: 'numeric',
            position: [1, 0, 0],
            rotation: [0, 0, 0, 1],
            locked: false,
            follows: 'n1',
          },
        },
      ],
    });
    expect(document.nodes[0]!.pivot!.position).toEqual([1, 0, 0]);
  });
});
