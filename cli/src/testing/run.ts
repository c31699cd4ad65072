import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { main } from '../main.js';

const BIN = fileURLToPath(new URL('../../bin/yard-brace.mjs', import.meta.url));

export interface Run {
  code: number;
  json: Record<string, never> & { [key: string]: unknown };
  stdout: string;
  stderr: string;
}

/** The command line as a pipeline calls it. */
export const asProcess = (...args: readonly string[]): Promise<Run> =>
  new Promise((resolve) => {
    execFile(process.execPath, [BIN, ...args], (error, stdout, stderr) =>
      resolve(runOf(error ? Number(error.code) : 0, stdout, stderr)),
    );
  });

/** The same within this process, where nobody waits until it has started. */
export async function yardBrace(...args: readonly string[]): Promise<Run> {
  let [stdout, stderr] = ['', ''];
  const code = await main(args, {
    result: (text) => void (stdout += text),
    message: (text) => void (stderr += text),
  });
  return runOf(code, stdout, stderr);
}

const runOf = (code: number, stdout: string, stderr: string): Run => ({
  code,
  json: stdout.trim() ? JSON.parse(stdout) : {},
  stdout,
  stderr,
});
