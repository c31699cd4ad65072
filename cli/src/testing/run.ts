import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const BIN = fileURLToPath(new URL('../../bin/yard-brace.mjs', import.meta.url));

export interface Run {
  code: number;
  json: Record<string, never> & { [key: string]: unknown };
  stdout: string;
  stderr: string;
}

/** The command line as a pipeline calls it. */
export const yardBrace = (...args: readonly string[]): Promise<Run> =>
  new Promise((resolve) => {
    execFile(process.execPath, [BIN, ...args], (error, stdout, stderr) => {
      const json = stdout.trim() ? JSON.parse(stdout) : {};
      resolve({ code: error ? Number(error.code) : 0, json, stdout, stderr });
    });
  });
