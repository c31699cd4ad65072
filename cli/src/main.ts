import { CommanderError } from 'commander';
import { problemOf } from './problem-of.js';
import { program } from './program.js';
import type { Result } from './result.js';
import { UsageError } from './usage-error.js';

/** What a command says: results, and messages to a person. */
export interface Output {
  result(text: string): void;
  message(text: string): void;
}

const STREAMS: Output = {
  result: (text) => process.stdout.write(text),
  message: (text) => process.stderr.write(text),
};

/** Runs one command; the exit code: 0 done, 1 findings that stop, 2 bad input or usage. */
export async function main(args: readonly string[], output = STREAMS): Promise<number> {
  let stopped = false;
  const tell = (line: object) => output.result(`${JSON.stringify(line)}\n`);
  const done = (result: Result) => {
    tell(result.json);
    ({ stopped } = result);
  };
  const root = program(done, tell, output.message);
  const named = root.commands.find((each) => each.name() === args[0]);
  if (!named && args[0] !== undefined && !['--help', '-h'].includes(args[0])) {
    output.message(`There is no command “${args[0]}”.\n\n${root.helpInformation()}`);
    return 2;
  }
  try {
    await root.parseAsync(withNumbers(args), { from: 'user' });
    return stopped ? 1 : 0;
  } catch (error) {
    // Help and what does not parse were written by the parser.
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    const says = problemOf(error);
    if (says === null) throw error;
    const usage = error instanceof UsageError ? `\n${named?.helpInformation() ?? ''}` : '';
    output.message(`${says}\n${usage}`);
    return 2;
  }
}

/** A value may begin with a number below zero: it is tied to its option, so that it is not taken for one itself. */
function withNumbers(args: readonly string[]): string[] {
  const out: string[] = [];
  for (const arg of args) {
    const option = out[out.length - 1];
    if (/^-[\d.]/.test(arg) && option?.startsWith('--') && !option.includes('='))
      out[out.length - 1] += `=${arg}`;
    else out.push(arg);
  }
  return out;
}
