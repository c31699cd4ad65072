import { TestBed } from '@angular/core/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { RulePicture } from './rule-picture';
import { RULE_PICTURES } from './rule-pictures';

describe('pictures of rules', () => {
  beforeEach(() => TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] }));

  it('are drawn within their field, and say in words what they show', async () => {
    for (const [id, picture] of Object.entries(RULE_PICTURES)) {
      const shown = TestBed.createComponent(RulePicture);
      shown.componentRef.setInput('rule', id);
      await shown.whenStable();
      const svg = (shown.nativeElement as HTMLElement).querySelector('svg')!;
      document.body.append(shown.nativeElement as HTMLElement);
      expect(svg.getAttribute('aria-label')).toBe(picture!.says);
      const paths = [...svg.querySelectorAll('path')];
      expect(paths.length).toBe(picture!.art.length + picture!.shapes.length + picture!.wrong.length);
      for (const path of paths) {
        const { x, y, width, height } = path.getBBox();
        expect([x >= 0, y >= 0, x + width <= 120, y + height <= 60])
          .withContext(id)
          .toEqual([true, true, true, true]);
      }
      (shown.nativeElement as HTMLElement).remove();
    }
  });

  it('are none where there is nothing to draw', async () => {
    const shown = TestBed.createComponent(RulePicture);
    shown.componentRef.setInput('rule', 'name-illegal');
    await shown.whenStable();
    expect((shown.nativeElement as HTMLElement).querySelector('svg')).toBeNull();
  });
});
