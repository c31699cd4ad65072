import { provideZonelessChangeDetection, type Type } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { applyEdit } from '@yard-brace/core';
import { providePrimeNG } from 'primeng/config';
import { Api } from '../api/api';
import { Compute } from '../compute/compute';
import { postDocument, postPiece, savedPost } from '../testing/post';
import { shown } from '../testing/shown';
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
            piece: async () => piece,
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
