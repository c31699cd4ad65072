import { NO_ROTATION } from '../../math/index.js';
import { isRecord, withProxyIds } from '../upgrade-document.js';

/**
 * A stored edit of an older form in that of today. What it does not know is passed on as it is, for the schema
 * to judge. Kinds that went: `set-proxies` and `remove-proxy` (now `put-proxies`), `set-pivot` (now `set-pivots`).
 */
export function upgradeEdit(value: unknown): unknown {
  if (!isRecord(value)) return value;
  const { kind } = value;
  if (kind === 'recipe' && Array.isArray(value['edits']))
    return { ...value, edits: value['edits'].map(upgradeEdit) };
  if (kind === 'set-proxies')
    return { kind: 'put-proxies', changed: withProxyIds(value['proxies']), removed: 'others' };
  if (kind === 'remove-proxy') return { kind: 'put-proxies', changed: [], removed: [value['id']] };
  if (kind === 'set-pivot') {
    const { anchor, position } = value;
    const pivot = { anchor, position, rotation: [...NO_ROTATION], locked: false };
    return { kind: 'set-pivots', pivots: [{ part: null, pivot }] };
  }
  if (typeof value['what'] !== 'string') return value;
  // Once edits carried a sentence; it is made from their values now.
  const { what: _what, ...edit } = value;
  return edit;
}
