import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endProcess, isOurs } from './processes.mjs';

const PREFIX = 'yard-brace-';
const DAY_MS = 24 * 3600 * 1000;

/** A temporary folder that bears the number of its process, so that it can be told when that is gone. */
export const temporaryFolder = (kind) => mkdtempSync(join(tmpdir(), `${PREFIX}${kind}-${process.pid}-`));

/** Folders that killed processes left behind go, with the databases that still run in them. */
export async function sweepTemporary(root = tmpdir()) {
  for (const name of readdirSync(root)) {
    if (!name.startsWith(PREFIX)) continue;
    const folder = join(root, name);
    const owner = Number(/^yard-brace-[a-z0-9]+-(\d+)-/.exec(name)?.[1] ?? 0);
    try {
      if (owner ? isAlive(owner) : Date.now() - statSync(folder).mtimeMs < DAY_MS) continue;
      for (const database of [folder, join(folder, 'database')]) await endDatabaseIn(database);
      rmSync(folder, { recursive: true, force: true });
    } catch {
      // Another one's, or gone meanwhile: the next sweep looks again.
    }
  }
}

function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}

async function endDatabaseIn(folder) {
  try {
    const pid = Number(readFileSync(join(folder, 'pid'), 'utf8'));
    if (isOurs(pid, `--datadir=${join(folder, 'data')}`)) await endProcess(pid);
  } catch {
    // No database was ever started there.
  }
}
