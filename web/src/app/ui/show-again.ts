import type { NgModel } from '@angular/forms';

/**
 * What a control shows becomes what is, once whoever was told of a choice has answered it: where it was refused, the
 * control goes back. Without the view's own value it would take what comes later for what it shows already.
 */
export function showAgain(model: NgModel, value: () => unknown): void {
  setTimeout(() => {
    model.viewModel = value();
    model.control.setValue(value(), { emitViewToModelChange: false });
  });
}
