import type { Remote } from 'comlink';

/** Documents that a worker keeps: the piece on the bench, what it was before the last edits, a piece beside it. */
const KEPT = 4;

/** How a document travels: by its number alone once the worker has it. */
interface Sent {
  heldDocument: number;
  /** only the first time */
  document?: object;
  /** a number that is not used again */
  forget?: number;
}

type Call = (...args: unknown[]) => unknown;

/**
 * The jobs of one worker, to which a document goes once: copying five thousand nodes for every question holds the page's
 * thread for 40 ms. Documents are values that nothing changes, so that the same one is known by being the same object.
 */
export function sendingOnce<T>(remote: Remote<T>): Remote<T> {
  const numbers = new Map<object, number>();
  let count = 0;
  const sent = (document: object): Sent => {
    const known = numbers.get(document);
    if (known !== undefined) {
      // The one that was not asked about for longest is the first of the map.
      numbers.delete(document);
      numbers.set(document, known);
      return { heldDocument: known };
    }
    numbers.set(document, ++count);
    if (numbers.size <= KEPT) return { heldDocument: count, document };
    const [oldest, forget] = numbers.entries().next().value!;
    numbers.delete(oldest);
    return { heldDocument: count, document, forget };
  };
  return new Proxy(remote, {
    get: (_, job) => {
      const call = (remote as Record<string | symbol, Call>)[job]!;
      return (...args: unknown[]) => call(...args.map((arg) => (isDocument(arg) ? sent(arg) : arg)));
    },
  });
}

/** The worker's side of it: jobs that are handed the documents that were sent. */
export function keepingDocuments<J extends object>(jobs: J): J {
  const held = new Map<number, object>();
  const received = ({ heldDocument, document, forget }: Sent): object | undefined => {
    if (document) held.set(heldDocument, document);
    if (forget !== undefined) held.delete(forget);
    return held.get(heldDocument);
  };
  const calls = Object.entries(jobs).map(([job, call]) => [
    job,
    (...args: unknown[]) => (call as Call)(...args.map((arg) => (isSent(arg) ? received(arg) : arg))),
  ]);
  return Object.fromEntries(calls) as J;
}

const isDocument = (value: unknown): value is object =>
  typeof value === 'object' && value !== null && 'nodes' in value && 'clearances' in value;

const isSent = (value: unknown): value is Sent =>
  typeof value === 'object' && value !== null && 'heldDocument' in value;
