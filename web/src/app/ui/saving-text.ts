import type { Saving } from '../state/saver';
import { momentText } from './moment';

/** How the last change stands with the server, in a word. */
export function savingText(saving: Saving): string {
  if (saving.state === 'saved') return `Saved ${momentText(saving.at)}`;
  return saving.state === 'saving' ? 'Saving …' : 'Not saved';
}

/** Why it is not saved, and what becomes of it; empty when there is nothing to say. */
export function savingWhy(saving: Saving): string {
  if (saving.state === 'refused') return `The last change could not be saved: ${saving.why}`;
  if (saving.state !== 'waiting') return '';
  return saving.kept
    ? `${saving.why} Your work is kept in this browser and is saved as soon as it is back.`
    : `${saving.why} Your work is too large for the browser’s own store and is only in this window: leave it open until it is saved.`;
}
