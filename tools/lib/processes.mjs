import { existsSync, readFileSync } from 'node:fs';
import { createServer } from 'node:net';

/**
 * True while the process lives and every mark is one of its arguments, or the end of one: numbers are given out
 * again, and the data folder of one may begin like another's.
 */
export function isOurs(pid, ...marks) {
  if (!pid) return false;
  try {
    process.kill(pid, 0);
    const file = `/proc/${pid}/cmdline`;
    if (!existsSync(file)) return true;
    const words = readFileSync(file, 'utf8').split('\0');
    return words.length > 1 && marks.every((mark) => words.some((word) => word.endsWith(mark)));
  } catch {
    return false;
  }
}

/** Whether a process runs; one that ended and was not yet taken note of does not. */
export function lives(pid) {
  try {
    process.kill(pid, 0);
    const status = `/proc/${pid}/status`;
    return !existsSync(status) || !/^State:\s+Z/m.test(readFileSync(status, 'utf8'));
  } catch {
    return false;
  }
}

/** Ask a process to go, and after a while make it. */
export async function endProcess(pid, { patience = 15000, signal = 'SIGTERM' } = {}) {
  if (!lives(pid)) return;
  process.kill(pid, signal);
  const until = Date.now() + patience;
  while (lives(pid) && Date.now() < until) await pause(50);
  if (lives(pid)) process.kill(pid, 'SIGKILL');
  while (lives(pid)) await pause(20);
}

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** Whether a loopback port can be listened on right now. */
export function portIsFree(port) {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
  });
}

/** A loopback port that nobody uses. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}
