import { spawn } from 'node:child_process';
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { random } from './fuzz.mjs';
import { inHouse } from './house.mjs';
import { freePort, pause } from './processes.mjs';
import { temporaryFolder } from './temporary.mjs';

const CLIENTS = 4;
/** The starter gives up when it has to start things again too often within a minute. */
const BETWEEN_KILLS_MS = 2300;

/**
 * Clients that save without a pause while server and database are killed in turn, at moments that a seed gives. A
 * save that was answered has to be there at the end; what was on its way may be or not.
 *
 * @returns counted: saves that were acknowledged, those that were lost, states that are neither, seconds to be back
 */
export async function killDrill({ kills, seed, say = () => undefined }) {
  const { cratePiece } = await import(inHouse('server/dist/testing/sample-piece.js'));
  const { currentDocument, pushEdit, startHistory, stepsBetween } = await import('@yard-brace/core');
  const next = random(seed);
  const data = temporaryFolder('drill');
  const port = await freePort();
  const address = `http://127.0.0.1:${port}`;
  const starter = spawn(
    process.execPath,
    [inHouse('tools/start.mjs'), '--empty', '--data', data, '--port', String(port)],
    {
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
  let output = '';
  await new Promise((resolve, reject) => {
    const hear = (chunk) => (output += chunk).includes('is ready:') && resolve();
    starter.stdout.on('data', hear);
    starter.stderr.on('data', hear);
    starter.once('exit', () => reject(new Error(`the start ended:\n${output}`)));
  });
  const ask = async (method, path, body) => {
    const response = await fetch(address + path, {
      method,
      body: body instanceof Uint8Array || body === undefined ? body : JSON.stringify(body),
      signal: AbortSignal.timeout(20_000),
    });
    const text = await response.text();
    return { status: response.status, json: text.startsWith('{') ? JSON.parse(text) : null };
  };
  const result = { acknowledged: 0, lost: 0, torn: 0, kills: 0, slowestBackMs: 0 };
  try {
    const yard = (await ask('POST', '/api/yards', { name: 'Drill' })).json.id;
    const pieces = [];
    for (let i = 0; i < CLIENTS; i++) {
      const { history, blobs } = cratePiece(`Crate ${i}`);
      for (const [id, bytes] of blobs) await ask('PUT', `/api/blobs/${id}`, bytes);
      const { json } = await ask('POST', `/api/yards/${yard}/pieces`, { history });
      pieces.push({ id: json.id, version: 1, history: startHistory(history.base), sent: [], count: 0 });
    }
    let killing = true;
    const clients = pieces.map(async (piece) => {
      while (killing) {
        const wanted = pushEdit(piece.history, { kind: 'rename-mesh', name: `Name_${++piece.count}` });
        piece.sent.push(wanted);
        const steps = stepsBetween(piece.history, wanted);
        const answer = await ask('PUT', `/api/pieces/${piece.id}`, { version: piece.version, steps }).catch(
          () => null,
        );
        if (answer?.status === 200) {
          result.acknowledged++;
          Object.assign(piece, { version: answer.json.version, history: wanted, sent: [] });
        } else {
          await pause(50);
          await catchUp(piece);
        }
      }
    });
    /** After a failed save: either it was stored, or what was acknowledged before is what is there. */
    const catchUp = async (piece) => {
      const answer = await ask('GET', `/api/pieces/${piece.id}`).catch(() => null);
      if (answer?.status !== 200) return;
      const { version, history } = answer.json;
      const found = currentDocument(history).meshName;
      // Any of those that were sent since the last answer may have been stored.
      const meant = [piece.history, ...piece.sent].map((each) => currentDocument(each).meshName);
      if (version < piece.version) result.lost++;
      else if (!meant.includes(found)) result.torn++;
      Object.assign(piece, { version, history, sent: [] });
    };
    for (let i = 0; i < kills; i++) {
      await pause(BETWEEN_KILLS_MS * (0.6 + next() * 0.4));
      const part = next() < 0.5 ? 'server' : 'database';
      const before = JSON.parse(readFileSync(join(data, 'run.json'), 'utf8'))[part];
      process.kill(before, 'SIGKILL');
      const start = performance.now();
      while ((await ask('GET', '/api/health').catch(() => null))?.status !== 200) {
        if (performance.now() - start > 60_000)
          throw new Error(`not back a minute after the ${part} was killed:\n${output}`);
        await pause(30);
      }
      const back = performance.now() - start;
      result.kills++;
      result.slowestBackMs = Math.max(result.slowestBackMs, back);
      say(
        `${result.kills}: ${part} killed, back after ${(back / 1000).toFixed(1)} s, ${result.acknowledged} saves`,
      );
    }
    killing = false;
    await Promise.all(clients);
    for (const piece of pieces) await catchUp(piece);
  } finally {
    const gone = new Promise((resolve) => starter.once('exit', resolve));
    starter.kill('SIGINT');
    await gone;
    rmSync(data, { recursive: true, force: true });
  }
  return result;
}
