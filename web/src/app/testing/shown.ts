import type { Observable } from 'rxjs';

/** What a stream that always has a value shows right now. */
export function shown<T>(stream: Observable<T>): T {
  let now!: T;
  stream.subscribe((value) => (now = value)).unsubscribe();
  return now;
}
