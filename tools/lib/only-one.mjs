import { createHash } from 'node:crypto';
import { realpathSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/**
 * Hold a folder for this process alone, for as long as it lives: a name that the system gives to one process at a
 * time, and takes back however that one ends. False when another process holds it.
 */
export function holdAlone(folder) {
  const name = `yard-brace-${createHash('sha256').update(realpathSync(folder)).digest('hex').slice(0, 24)}`;
  // Linux has sockets without a file, which nothing can leave behind.
  const address = process.platform === 'linux' ? `\0${name}` : join(tmpdir(), `${name}.lock`);
  return new Promise((resolve) => {
    const server = createServer((socket) => socket.end());
    server.once('error', () => resolve(false));
    server.listen(address, () => {
      server.unref();
      resolve(true);
    });
  });
}
