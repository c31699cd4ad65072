import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const START = fileURLToPath(new URL('../../tools/start.mjs', import.meta.url));

export interface ApplicationOptions {
  /** without the sample yard. Default true */
  empty?: boolean;
  /** a folder that deliveries are put into as well */
  deliveries?: string;
}

/** The real application on a database of its own, started as a person starts it. */
export class Application {
  readonly data = mkdtempSync(join(tmpdir(), `yard-brace-e2e-${process.pid}-`));
  port = 0;
  output = '';
  private child: ChildProcess | undefined;

  constructor(private readonly options: ApplicationOptions = {}) {}

  get address(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  get starter(): number {
    return this.child!.pid!;
  }

  get pids(): { server: number; database: number } {
    return JSON.parse(readFileSync(join(this.data, 'run.json'), 'utf8'));
  }

  async start(): Promise<void> {
    this.port ||= await freePort();
    const args = [START, '--port', String(this.port), '--data', this.data];
    if (this.options.empty ?? true) args.push('--empty');
    if (this.options.deliveries) args.push('--deliveries', this.options.deliveries);
    const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    this.child = child;
    await new Promise<void>((resolve, reject) => {
      const listen = (chunk: Buffer) => {
        this.output += chunk.toString();
        if (this.output.includes('Yard Brace is ready')) resolve();
      };
      child.stdout!.on('data', listen);
      child.stderr!.on('data', listen);
      child.once('exit', (code) => reject(new Error(`start ended with ${code}:\n${this.output}`)));
    });
  }

  /** Ctrl-C, and wait until everything is gone. */
  async stop(): Promise<number | null> {
    const child = this.child;
    if (!child || child.exitCode !== null) return child?.exitCode ?? null;
    const gone = new Promise<number | null>((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    this.output = '';
    return gone;
  }

  async throwAway(): Promise<void> {
    await this.stop();
    rmSync(this.data, { recursive: true, force: true });
  }
}

export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}
