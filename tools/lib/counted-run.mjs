import { spawn } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { HOUSE } from './house.mjs';

const LIMIT_MIN = 15;
const END_LINES = 60;

/**
 * Run a test program, show what it says, and count. A program that fails or counts nothing without saying
 * that a test failed counts as one failure: silence is not success. One that does not end is ended.
 *
 * @param show what becomes of its output; default: the person sees it as it comes
 * @param limitMin minutes after which it is ended, with all that it started
 * @param aside it takes what others leave of the machine
 */
export function runCounted(
  command,
  args,
  {
    cwd = HOUSE,
    env = {},
    count,
    show = (chunk) => process.stderr.write(chunk),
    limitMin = LIMIT_MIN,
    aside = false,
  },
) {
  return new Promise((resolve) => {
    // A group of its own: what it started ends with it.
    const child = spawn(command, args, {
      cwd,
      env: { ...process.env, NO_COLOR: '1', FORCE_COLOR: '0', ...env },
      stdio: ['ignore', 'pipe', 'pipe'],
      detached: true,
    });
    if (aside && child.pid) giveWay(child.pid);
    let output = '';
    for (const stream of [child.stdout, child.stderr]) {
      stream.on('data', (chunk) => {
        output += chunk;
        show(chunk);
      });
    }
    const endGroup = () => {
      try {
        process.kill(-child.pid, 'SIGKILL');
      } catch {
        // Ended by itself.
      }
    };
    const interrupted = () => {
      endGroup();
      process.exit(130);
    };
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, interrupted);
    const done = (result) => {
      clearTimeout(limit);
      for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.off(signal, interrupted);
      resolve(result);
    };
    const limit = setTimeout(() => {
      endGroup();
      show(`${command} ${args.join(' ')} did not end within ${limitMin} minutes and was ended.\n`);
      done({
        passed: count(output).passed,
        failed: Math.max(1, count(output).failed),
        code: 1,
        end: endOf(output),
      });
    }, limitMin * 60_000);
    child.on('error', (error) => {
      show(`${error.message}\n`);
      done({ passed: 0, failed: 1, code: 1, end: error.message });
    });
    child.on('close', (code) => {
      const { passed, failed } = count(output);
      done({ passed, failed: code !== 0 && failed === 0 ? 1 : failed, code, end: endOf(output) });
    });
  });
}

/** Where a program tells what failed: in its last lines. */
function endOf(output) {
  return output.trimEnd().split('\n').slice(-END_LINES).join('\n');
}

/** Others go before a process that leads a session of its own. */
function giveWay(pid) {
  setPriority(pid, constants.priority.PRIORITY_LOW);
  try {
    // Linux may share the machine out among sessions first, and among the processes of each after.
    writeFileSync(`/proc/${pid}/autogroup`, String(constants.priority.PRIORITY_LOW));
  } catch {
    // It does not here.
  }
}
