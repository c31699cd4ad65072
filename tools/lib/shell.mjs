import { spawn, spawnSync } from 'node:child_process';
import { HOUSE } from './house.mjs';
import { Stop } from './say.mjs';

/** Run a program in the house; its output is shown only when it fails, unless `show` is set. */
export function shell(command, args, { cwd = HOUSE, env = {}, show = false, what = command } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream.on('data', (chunk) => {
        output += chunk;
        if (show) process.stderr.write(chunk);
      });
    }
    child.on('error', (error) => reject(new Stop(`${what} could not be started: ${error.message}`)));
    child.on('close', (code) => {
      if (code === 0) resolve(output);
      else reject(new Stop(`${what} failed (exit ${code}).${show ? '' : `\n${output.trim()}`}`));
    });
  });
}

/** Where a program is, by name; undefined when it is not installed. */
export function which(...names) {
  const path = `${process.env.PATH}:/usr/sbin:/usr/local/sbin`;
  for (const name of names) {
    const found = spawnSync('sh', ['-c', `command -v ${name}`], {
      env: { ...process.env, PATH: path },
      encoding: 'utf8',
    });
    if (found.status === 0) return found.stdout.trim();
  }
  return undefined;
}
