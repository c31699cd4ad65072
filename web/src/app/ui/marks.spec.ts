import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import type { PieceSummary } from '@yard-brace/contract';
import { providePrimeNG } from 'primeng/config';
import { FindPiece, piecesNamed } from './find-piece';
import { StampMark } from './stamp';
import { TallyMark } from './tally';

describe('marks', () => {
  beforeEach(() => TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] }));

  it('a stamp tells its state by shape and by word', async () => {
    const fixture = TestBed.createComponent(StampMark);
    const shapes = new Set<string>();
    for (const [stamp, word] of [
      ['clear', 'clear'],
      ['look', 'look here'],
      ['stopped', 'stopped'],
      ['none', 'nothing yet'],
    ] as const) {
      fixture.componentRef.setInput('stamp', stamp);
      await fixture.whenStable();
      const svg = fixture.nativeElement.querySelector('svg') as SVGElement;
      expect(svg.getAttribute('aria-label')).toBe(word);
      shapes.add(
        [...svg.querySelectorAll('path, circle')]
          .map((child) => child.outerHTML.replace(/fill="[^"]*"/, ''))
          .join(),
      );
    }
    expect(shapes.size).toBe(4);
  });

  it('a tally has a notch for each working step', async () => {
    const fixture = TestBed.createComponent(TallyMark);
    fixture.componentRef.setInput('tally', {
      intake: 'clear',
      parts: 'clear',
      size: 'look',
      pivot: 'look',
      proxies: 'none',
      names: 'stopped',
      trial: 'clear',
      delivery: 'none',
    });
    await fixture.whenStable();
    const notches = [...fixture.nativeElement.querySelectorAll('i')] as HTMLElement[];
    expect(notches.map((notch) => notch.className)).toEqual([
      'clear',
      'clear',
      'look',
      'look',
      'none',
      'stopped',
      'clear',
      'none',
    ]);
    expect(fixture.nativeElement.querySelector('[role=img]').getAttribute('aria-label')).toContain(
      'names stopped',
    );
  });

  it('finding narrows by letters of the name, or of the mesh', () => {
    const piece = (id: number, name: string, meshName = name) => ({ id, name, meshName }) as PieceSummary;
    const pieces = [piece(1, 'Bollard'), piece(2, 'Boat cradle'), piece(3, 'Dinghy', 'SM_Boat')];
    const found = (text: string) => piecesNamed(pieces, text).map(({ id }) => id);
    expect([found('bo'), found(' DING '), found('sm_'), found('zz')]).toEqual([[1, 2, 3], [3], [3], []]);
  });

  it('the field is empty again when a piece was found, and the page turns to it', async () => {
    TestBed.configureTestingModule({ providers: [providePrimeNG({}), provideRouter([])] });
    const fixture = TestBed.createComponent(FindPiece);
    const navigate = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    const page = fixture.nativeElement as HTMLElement;
    fixture.componentRef.setInput('pieces', [{ id: 7, name: 'Bollard', meshName: 'Bollard' }]);
    document.body.append(page);
    await fixture.whenStable();
    document.dispatchEvent(new KeyboardEvent('keydown', { key: 'k', ctrlKey: true, cancelable: true }));
    const field = page.querySelector('input')!;
    expect(document.activeElement).toBe(field);
    field.value = 'bo';
    field.dispatchEvent(new Event('input'));
    await new Promise((resolve) => setTimeout(resolve, 50));
    await fixture.whenStable();
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', code: 'Enter', bubbles: true }));
    await fixture.whenStable();
    expect(navigate).toHaveBeenCalledWith(['/pieces', 7]);
    await new Promise((resolve) => setTimeout(resolve));
    await fixture.whenStable();
    expect(field.value).toBe('');
    page.remove();
  });
});
