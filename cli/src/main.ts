import { parseArgs } from 'node:util';
import { DecomposeError, FormatError, ReshapeError, WrapError } from '@yard-brace/core';
import { deliver, inspect, type Options, readback, type Result } from './commands.js';
import { compare, decompose, hull, judge } from './convex-commands.js';
import { bake, mend, pivot, split } from './reshape-commands.js';
import { USAGE, UsageError } from './usage.js';

const COMMANDS: Record<
  string,
  {
    run: (paths: string[], options: Options) => Promise<Result>;
    options: (keyof Options)[];
    switches?: (keyof Options)[];
    /** options that may be given more than once */
    lists?: (keyof Options)[];
  }
> = {
  inspect: { run: inspect, options: ['unit'] },
  deliver: { run: deliver, options: ['target', 'proxies', 'pivot', 'name', 'unit', 'out'] },
  readback: { run: readback, options: ['target'] },
  mend: {
    run: mend,
    options: ['weld', 'remove', 'longest', 'normals', 'share', 'error', 'part', 'unit', 'out'],
    switches: ['fill-holes', 'outward'],
  },
  bake: { run: bake, options: ['part', 'keep', 'unit', 'out'] },
  pivot: { run: pivot, options: ['at', 'unit', 'out'] },
  split: { run: split, options: ['by', 'part', 'smallest', 'unit', 'out'] },
  hull: { run: hull, options: ['max-verts', 'side', 'out'] },
  decompose: {
    run: decompose,
    options: ['max-shapes', 'max-verts', 'agent-detail', 'rung', 'out'],
    switches: ['no-primitives', 'no-crossing'],
    lists: ['clearance'],
  },
  compare: { run: compare, options: [] },
  judge: { run: judge, options: [] },
};

/** Errors that carry a sentence for the person. */
const KNOWN = [FormatError, WrapError, ReshapeError, DecomposeError];

/** Runs one command; the exit code: 0 done, 1 findings that stop, 2 bad input or usage. */
export async function main(args: readonly string[]): Promise<number> {
  const [name = '', ...rest] = args;
  const command = COMMANDS[name];
  if (!command) {
    const asked = name === '' || name === '--help' || name === 'help';
    process.stderr.write(`${asked ? '' : `There is no command “${name}”.\n\n`}${USAGE['']}\n`);
    return asked && name !== '' ? 0 : 2;
  }
  try {
    const { values, positionals } = parse(rest, command.options, command.switches, command.lists);
    if (values.help) {
      process.stderr.write(`${USAGE[name]}\n`);
      return 0;
    }
    const { json, stopped } = await command.run(positionals, textOf(values));
    process.stdout.write(`${JSON.stringify(json)}\n`);
    return stopped ? 1 : 0;
  } catch (error) {
    if (error instanceof UsageError) process.stderr.write(`${error.message}\n\n${USAGE[name]}\n`);
    else if (KNOWN.some((kind) => error instanceof kind))
      process.stderr.write(`${(error as Error).message}\n`);
    else if (isFileProblem(error)) process.stderr.write(`${error.message}\n`);
    else throw error;
    return 2;
  }
}

function parse(
  args: string[],
  names: readonly string[],
  switches: readonly string[] = [],
  lists: readonly string[] = [],
) {
  try {
    return parseArgs({
      args: withNumbers(args),
      allowPositionals: true,
      options: {
        help: { type: 'boolean' },
        ...Object.fromEntries(names.map((name) => [name, { type: 'string' as const }])),
        ...Object.fromEntries(
          lists.map((name) => [name, { type: 'string' as const, multiple: true as const }]),
        ),
        ...Object.fromEntries(switches.map((name) => [name, { type: 'boolean' as const }])),
      },
    });
  } catch (error) {
    throw new UsageError((error as Error).message);
  }
}

/** A value may be a number below zero: it is tied to its option, so that it is not taken for one itself. */
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

/** Switches that are set count as given. */
const textOf = (values: Record<string, string | boolean | (string | boolean)[] | undefined>): Options =>
  Object.fromEntries(
    Object.entries(values).map(([name, value]) => [name, Array.isArray(value) ? value : String(value)]),
  );

const isFileProblem = (error: unknown): error is NodeJS.ErrnoException =>
  error instanceof Error && 'syscall' in error;
