import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { FindPiece } from './find-piece';
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
      'none',
    ]);
    expect(fixture.nativeElement.querySelector('[role=img]').getAttribute('aria-label')).toContain(
      'names stopped',
    );
  });

  it('finding narrows by letters of the name', async () => {
    const fixture = TestBed.createComponent(FindPiece);
    const piece = (id: number, name: string) => ({
      id,
      name,
      meshName: name,
      version: 1,
      size: [1, 1, 1],
      triangles: 1,
      shapes: 0,
      tally: {},
      picture: null,
      savedAt: '',
    });
    fixture.componentRef.setInput('pieces', [
      piece(1, 'Bollard'),
      piece(2, 'Boat cradle'),
      piece(3, 'Dinghy'),
    ]);
    await fixture.whenStable();
    const field = fixture.nativeElement.querySelector('input') as HTMLInputElement;
    field.dispatchEvent(new Event('focus'));
    field.value = 'bo';
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    expect(
      [...fixture.nativeElement.querySelectorAll('li')].map(
        (li: HTMLElement) => li.textContent!.trim().split(' ')[0],
      ),
    ).toEqual(['Bollard', 'Boat']);
    field.value = 'zz';
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    expect(fixture.nativeElement.querySelector('li').textContent).toContain('No piece of this yard');
  });
});
