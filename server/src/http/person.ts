import { AsyncLocalStorage } from 'node:async_hooks';

const asking = new AsyncLocalStorage<string | null>();

/** Longest name of a person that is kept. */
const MAX_PERSON_CHARACTERS = 120;

/** Who asks for what is being answered; null where nobody signs people in. */
export const personNow = (): string | null => asking.getStore() ?? null;

/** Does something in the name of a person. */
export const asPerson = <T>(person: string | null, work: () => Promise<T>): Promise<T> =>
  asking.run(person, work);

/** The name as a proxy sends it; null where it sends none that can be kept. */
export function personFrom(header: string | string[] | undefined): string | null {
  const text = (Array.isArray(header) ? header[0] : header)?.trim() ?? '';
  // Headers come as Latin 1; names beyond that are sent as UTF-8.
  const name = Buffer.from(text, 'latin1').toString('utf8');
  // eslint-disable-next-line no-control-regex
  return name && name.length <= MAX_PERSON_CHARACTERS && !/[\u0000-\u001f\u007f\ufffd]/.test(name)
    ? name
    : null;
}
