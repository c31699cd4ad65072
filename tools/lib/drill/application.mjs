import { spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { inHouse } from '../house.mjs';
import { freePort, lives, pause } from '../processes.mjs';
import { temporaryFolder } from '../temporary.mjs';

/** Nothing takes longer to come back. */
const BACK_WITHIN_MS = 90_000;
const ANSWERED_WITHIN_MS = 20_000;

export const PARTS = ['server', 'database', 'job process', 'starter'];

/** The whole application on a data folder of its own, started as a person starts it, so that parts of it can be killed. */
export class DrillApplication {
  data = temporaryFolder('drill');
  deliveries = temporaryFolder('drilled');
  port = 0;
  #starter;
  #output = '';
  #env;

  /** @param env variables that every part is started with */
  constructor(env = {}) {
    this.#env = env;
  }

  get address() {
    return `http://127.0.0.1:${this.port}`;
  }

  get starter() {
    return this.#starter.pid;
  }

  get pids() {
    return JSON.parse(readFileSync(join(this.data, 'run.json'), 'utf8'));
  }

  async start() {
    this.port ||= await freePort();
    this.#output = '';
    const starter = spawn(
      process.execPath,
      [
        inHouse('tools/start.mjs'),
        '--empty',
        '--workers=2',
        `--data=${this.data}`,
        `--port=${this.port}`,
        `--deliveries=${this.deliveries}`,
      ],
      { stdio: ['ignore', 'pipe', 'pipe'], env: { ...process.env, ...this.#env } },
    );
    this.#starter = starter;
    await new Promise((resolve, reject) => {
      const hear = (chunk) => (this.#output += chunk).includes('is ready:') && resolve();
      starter.stdout.on('data', hear);
      starter.stderr.on('data', hear);
      starter.once('exit', () => reject(new Error(`the start ended:\n${this.#output}`)));
    });
  }

  /**
   * Asks the server. Null stands for no answer: it is away, or did not get to it.
   *
   * @param body bytes are sent as they are, anything else as JSON
   */
  async ask(method, path, body) {
    try {
      const response = await fetch(this.address + path, {
        method,
        body: body instanceof Uint8Array || body === undefined ? body : JSON.stringify(body),
        signal: AbortSignal.timeout(ANSWERED_WITHIN_MS),
      });
      const bytes = Buffer.from(await response.arrayBuffer());
      const json = /json/.test(response.headers.get('content-type')) ? JSON.parse(bytes.toString()) : null;
      return { status: response.status, ok: response.ok, bytes, json };
    } catch {
      return null;
    }
  }

  /** Asks until the answer is a good one. */
  async insist(method, path, body) {
    const until = performance.now() + BACK_WITHIN_MS;
    for (;;) {
      const answer = await this.ask(method, path, body);
      if (answer?.ok) return answer;
      if (performance.now() > until)
        throw new Error(`${method} ${path} is not answered: ${answer?.bytes ?? 'nothing'}`);
      await pause(200);
    }
  }

  /** Kills a part, and starts the starter again where that was it. Answers with the seconds until all is back. */
  async kill(part) {
    const before = this.pids;
    const pid = { server: before.server, database: before.database, starter: before.starter }[part];
    const killed = pid ?? before.workers[0];
    const start = performance.now();
    const gone = part === 'starter' && new Promise((resolve) => this.#starter.once('exit', resolve));
    process.kill(killed, 'SIGKILL');
    if (gone) {
      await gone;
      await this.start();
    }
    await this.untilBack(killed);
    return (performance.now() - start) / 1000;
  }

  /** Until every part runs and answers, none of them as the process that was killed. */
  async untilBack(killed) {
    const until = performance.now() + BACK_WITHIN_MS;
    for (;;) {
      const { server, database, workers } = this.#pidsOrNone();
      const all = [server, database, ...workers];
      if (
        all.every((pid) => pid && pid !== killed && lives(pid)) &&
        (await this.ask('GET', '/api/health'))?.ok
      )
        return;
      if (performance.now() > until) throw new Error(`not back in time:\n${this.#output}`);
      await pause(30);
    }
  }

  #pidsOrNone() {
    try {
      return this.pids;
    } catch {
      // Just being written anew.
      return { workers: [] };
    }
  }

  async stop() {
    if (this.#starter && lives(this.#starter.pid)) {
      const gone = new Promise((resolve) => this.#starter.once('exit', resolve));
      this.#starter.kill('SIGCONT');
      this.#starter.kill('SIGINT');
      await gone;
    }
  }

  remove() {
    for (const folder of [this.data, this.deliveries]) rmSync(folder, { recursive: true, force: true });
  }
}
