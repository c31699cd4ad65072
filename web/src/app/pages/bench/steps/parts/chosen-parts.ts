import { computed, inject, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { counted } from '@yard-brace/core';
import { Selection } from '../../../../state/selection';

export interface ChosenParts {
  /** ids of the chosen parts; none stands for all, in operations */
  ids: Signal<string[]>;
  none: Signal<boolean>;
  /** "everything", "2 parts": what an operation is done to */
  words: Signal<string>;
  choose: (ids: readonly string[]) => void;
}

/** The parts that are chosen, as panels need them. Called where a component is made. */
export function chosenParts(): ChosenParts {
  const selection = inject(Selection);
  const parts = toSignal(selection.parts$, { requireSync: true });
  const ids = computed(() => [...parts()]);
  return {
    ids,
    none: computed(() => parts().size === 0),
    choose: (ids) => selection.chooseParts(new Set(ids)),
    words: computed(() => (parts().size === 0 ? 'everything' : counted(parts().size, 'part'))),
  };
}
