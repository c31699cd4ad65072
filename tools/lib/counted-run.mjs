import { spawn } from 'node:child_process';
import { HOUSE } from './house.mjs';

/**
 * Run a test program, show what it says, and count. A program that fails or counts nothing without saying
 * that a test failed counts as one failure: silence is not success.
 */
export function runCounted(command, args, { cwd = HOUSE, env = {}, count }) {
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      cwd,
      env: { ...process.env, NO_COLOR: '1', FORCE_COLOR: '0', ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream.on('data', (chunk) => {
        output += chunk;
        process.stderr.write(chunk);
      });
    }
    child.on('error', (error) => {
      process.stderr.write(`${error.message}\n`);
      resolve({ passed: 0, failed: 1, code: 1 });
    });
    child.on('close', (code) => {
      const { passed, failed } = count(output);
      resolve({ passed, failed: code !== 0 && failed === 0 ? 1 : failed, code });
    });
  });
}
