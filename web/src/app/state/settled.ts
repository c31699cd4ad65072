import { type MonoTypeOperatorFunction, Observable } from 'rxjs';
import type { Clock } from './clock';

/** Only values that nothing follows for so long: a drag or a walk along the ladder counts when it has come to rest. */
export const settledFor =
  <T>(clock: Clock, milliseconds: number): MonoTypeOperatorFunction<T> =>
  (source) =>
    new Observable((subscriber) => {
      let timer: ReturnType<typeof setTimeout> | undefined;
      const subscription = source.subscribe((value) => {
        clock.clear(timer);
        timer = clock.after(milliseconds, () => subscriber.next(value));
      });
      return () => {
        clock.clear(timer);
        subscription.unsubscribe();
      };
    });
