import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import { providePrimeNG } from 'primeng/config';
import { Api } from '../api/api';
import { Compute, Stopped } from '../compute/compute';
import { Notices } from '../shell/notices';
import { Told } from '../shell/told';
import { postDocument, postPiece, savedPost } from '../testing/post';
import { shown } from '../testing/shown';
import { ViewState } from '../view/view-state';
import { BenchStore } from './bench-store';
import { JobCard } from './job-card';
import { LadderStore } from './ladder-store';
import { Operations } from './operations';

const post = postDocument(200, false);
const piece = postPiece(post);

describe('JobCard', () => {
  let fixture: ComponentFixture<JobCard>;
  let store: BenchStore;
  let page: HTMLElement;
  const wrapped = jasmine.createSpy('run');

  const press = async (key: string) => {
    document.dispatchEvent(new KeyboardEvent('keydown', { key }));
    await fixture.whenStable();
  };
  const button = (name: string) =>
    [...page.querySelectorAll('button')].find((b) => b.textContent!.trim().startsWith(name))!;
  const click = async (name: string) => {
    button(name).click();
    await fixture.whenStable();
  };
  const openStep = () => page.querySelector('[aria-expanded=true]')?.getAttribute('data-step');

  beforeEach(async () => {
    localStorage.clear();
    wrapped.calls.reset();
    const api = {
      piece: async () => piece,
      savePiece: async () => savedPost(2),
      deliveries: async () => [],
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        providePrimeNG({}),
        BenchStore,
        ViewState,
        Operations,
        LadderStore,
        provideRouter([]),
        { provide: Api, useValue: api },
        { provide: Compute, useValue: { run: wrapped } },
      ],
    });
    store = TestBed.inject(BenchStore);
    await store.open(1);
    fixture = TestBed.createComponent(JobCard);
    page = fixture.nativeElement as HTMLElement;
    await fixture.whenStable();
  });

  it('shows its steps with their numbers and opens one at a time, by click or by key', async () => {
    expect(
      [...page.querySelectorAll('.number')]
        .slice(0, 5)
        .map((n) => n.textContent)
        .filter((n) => /^\d$/.test(n!)),
    ).toContain('1');
    expect(openStep()).toBe('intake');
    for (const [key, step] of [
      ['2', 'parts'],
      ['3', 'size'],
      ['4', 'pivot'],
      ['5', 'proxies'],
      ['6', 'names'],
      ['8', 'delivery'],
      ['1', 'intake'],
    ] as const) {
      await press(key);
      expect(openStep()).toBe(step);
      expect(page.querySelectorAll('[aria-expanded=true]').length).toBe(1);
    }
    await press('7');
    expect(openStep()).toBe('intake');
  });

  it('confirms the unit from its finding', async () => {
    expect(page.textContent).toContain('read in cm its longest side is 2.00 m');
    await click('Confirm cm');
    expect(store.document.unit).toEqual({ name: 'cm', stated: false, confirmed: true });
    expect(page.textContent).not.toContain('to confirm');
  });

  it('moves the pivot and leaves the geometry', async () => {
    await press('4');
    await click('Base centre');
    expect(store.document.pivot).toEqual(
      jasmine.objectContaining({ anchor: 'base-centre', position: [1, 0, 1] }),
    );
    expect(store.document.whole).toEqual(post.whole);
  });

  it('proposes what the worker made; a stop changes nothing, a failure is said', async () => {
    await press('5');
    wrapped.and.rejectWith(new Stopped('Stopped.'));
    await click('Wrap the piece in a box');
    expect(shown(store.proposal$)).toBeNull();
    wrapped.and.rejectWith(new Told('The mesh cannot be fetched.'));
    await click('Wrap the piece in a box');
    expect(TestBed.inject(Notices).notices$.value.at(-1)!.text).toBe('The mesh cannot be fetched.');
    wrapped.and.resolveTo({ shapes: [{ kind: 'sphere', center: [1, 1, 1], radius: 1 }], cutBack: 0 });
    await click('Wrap the piece in a box');
    await fixture.whenStable();
    expect(page.querySelector('[data-testid=proposal]')!.textContent).toContain('Shapes01');
    await press('Escape');
    expect(shown(store.proposal$)).toBeNull();
    expect(store.document.proxies).toEqual([]);
  });

  it('says a name that stops, and mends it', async () => {
    store.apply({ kind: 'rename-mesh', name: 'a b' });
    await press('6');
    expect(page.textContent).toContain('The name holds a space');
    expect(page.textContent).toContain('1 step stopped');
    await click('Name it a_b');
    expect(store.document.meshName).toBe('a_b');
  });
});
