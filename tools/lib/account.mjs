import { spawnSync } from 'node:child_process';
import { chmodSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import { say } from './say.mjs';
import { shell } from './shell.mjs';

/**
 * The account that the database runs under: whoever starts it, or Debian's own `mysql` when that is root.
 * Null means whoever starts.
 */
export function databaseAccount(folder) {
  if (process.getuid?.() !== 0) return null;
  const found = spawnSync('id', ['-u', 'mysql'], { encoding: 'utf8' });
  if (found.status !== 0) return null;
  const blocked = closedAbove(folder, Number(found.stdout));
  if (!blocked) return 'mysql';
  say(
    `The account mysql cannot reach ${blocked}, so the database runs as root there; start with --data in a folder that all can enter, and it does not.`,
  );
  return null;
}

/** Give a folder and all in it to an account, closed to everyone else. */
export async function giveTo(account, folder) {
  if (account)
    await shell('chown', ['-R', `${account}:`, folder], { what: `giving ${folder} to ${account}` });
  chmodSync(folder, 0o700);
}

/** The first folder above that an account may not enter; undefined when it may enter all. */
function closedAbove(folder, uid) {
  for (let at = dirname(folder); ; at = dirname(at)) {
    const { mode, uid: owner } = statSync(at);
    if (!(mode & 0o001) && owner !== uid) return at;
    if (at === dirname(at)) return undefined;
  }
}
