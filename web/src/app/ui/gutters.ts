import { afterNextRender, Directive, ElementRef, inject, input } from '@angular/core';
import { Splitter } from 'primeng/splitter';

/**
 * Names the gutters of a splitter and says where they stand, in per cent of the width of the panel before each: the
 * handle that takes the focus is the separator, the strip round it is not.
 */
@Directive({ selector: 'p-splitter[ybGutters]', host: { '(keyup)': 'say()', '(mouseup)': 'say()' } })
export class Gutters {
  /** what each gutter sets, from the left */
  readonly names = input.required<readonly string[]>({ alias: 'ybGutters' });
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    inject(Splitter).onResizeEnd.subscribe(() => this.say());
    afterNextRender(() => this.say());
  }

  protected say(): void {
    const { children, clientWidth } = this.host.nativeElement;
    const gutters = [...children].filter((child) => child.classList.contains('p-splitter-gutter'));
    gutters.forEach((gutter, i) => {
      gutter.setAttribute('role', 'presentation');
      const handle = gutter.firstElementChild!;
      const share = (gutter.previousElementSibling!.clientWidth / Math.max(1, clientWidth)) * 100;
      const told = {
        role: 'separator',
        'aria-label': this.names()[i] ?? '',
        'aria-orientation': 'vertical',
        'aria-valuemin': '0',
        'aria-valuemax': '100',
        'aria-valuenow': share.toFixed(0),
      };
      for (const [name, value] of Object.entries(told)) handle.setAttribute(name, value);
    });
  }
}
