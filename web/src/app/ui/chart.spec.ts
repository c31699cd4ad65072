import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { Chart } from './chart';

describe('a chart', () => {
  const LINE = { chart: { type: 'line' as const, height: 80 }, series: [{ name: 'off', data: [3, 2, 1] }] };

  function chart(): ComponentFixture<Chart> {
    const fixture = TestBed.createComponent(Chart);
    fixture.componentRef.setInput('options', LINE);
    fixture.componentRef.setInput('label', 'Three, two, one');
    fixture.detectChanges();
    return fixture;
  }

  it('is drawn, and says what it shows', async () => {
    const fixture = chart();
    await fixture.componentInstance.drawn;
    const host = fixture.nativeElement as HTMLElement;
    expect(host.querySelector('[role=img]')!.getAttribute('aria-label')).toBe('Three, two, one');
    expect(host.querySelectorAll('svg path').length).toBeGreaterThan(0);
  });

  it('is quiet when the page that it stood on has gone meanwhile', async () => {
    const fixture = chart();
    (fixture.nativeElement as HTMLElement).remove();
    await expectAsync(fixture.componentInstance.drawn).toBeResolved();
    fixture.destroy();
    expect((fixture.nativeElement as HTMLElement).querySelector('svg')).toBeNull();
  });
});
