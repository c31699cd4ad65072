import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { request } from 'node:http';
import { join } from 'node:path';
import { inHouse } from '../house.mjs';
import { pause } from '../processes.mjs';

const { cratePiece } = await import(inHouse('server/dist/testing/sample-piece.js'));
const { currentDocument, pushEdit, startHistory, stepsBetween } = await import('@yard-brace/core');

/** After a refusal or no answer a client waits so long. */
const WAIT_MS = 50;
const JOB_PIECES = 8;
/** A lease has to run out, and some have to be done again. */
const JOBS_WITHIN_MS = 180_000;

/** Uploads of all clients so far. */
let uploads = 0;

const sha = (bytes) => createHash('sha256').update(bytes).digest('hex');
const named = (history, name) => pushEdit(history, { kind: 'rename-mesh', name });
const meshNameOf = (history) => currentDocument(history).meshName;

/** A crate on the shelf: what its clients know of it. */
export async function addCrate(app, yard, name) {
  const { history, blobs } = cratePiece(name);
  for (const [id, bytes] of blobs) await app.insist('PUT', `/api/blobs/${id}`, bytes);
  const { json } = await app.insist('POST', `/api/yards/${yard}/pieces`, { history });
  return { id: json.id, version: 1, history: startHistory(history.base) };
}

export async function newYard(app, name) {
  return (await app.insist('POST', '/api/yards', { name })).json.id;
}

/**
 * What clients do without a pause until `stop.aborted`. Each counts what was acknowledged, and finds in the end what of that
 * is lost, and what is there that nobody sent whole.
 */
const client = () => ({ acknowledged: 0, refused: 0, lost: 0, torn: 0 });

/** Saves a piece again and again: what was answered has to be there, what was on its way may be or not. */
export function saver(app, piece) {
  const counts = client();
  let count = 0;
  // What nobody answered may be stored later, when the database comes to it: all that was ever sent is meant.
  const sent = new Set([meshNameOf(piece.history)]);
  const catchUp = async (ask) => {
    const answer = await ask('GET', `/api/pieces/${piece.id}`);
    if (!answer?.ok) return;
    const { version, history } = answer.json;
    const name = meshNameOf(history);
    if (version < piece.version) counts.lost++;
    else if (!sent.has(name) || (version === piece.version && name !== meshNameOf(piece.history)))
      counts.torn++;
    Object.assign(piece, { version, history });
  };
  return {
    what: 'saves',
    counts,
    async run(stop) {
      while (!stop.aborted) {
        const wanted = named(piece.history, `Name_${++count}`);
        sent.add(meshNameOf(wanted));
        const steps = stepsBetween(piece.history, wanted);
        const answer = await app.ask('PUT', `/api/pieces/${piece.id}`, { version: piece.version, steps });
        if (answer?.ok) {
          counts.acknowledged++;
          Object.assign(piece, { version: answer.json.version, history: wanted });
        } else {
          if (answer) counts.refused++;
          await pause(WAIT_MS);
          await catchUp((...what) => app.ask(...what));
        }
      }
    },
    check: () => catchUp((...what) => app.insist(...what)),
  };
}

/** Sends bytes, and breaks every other upload off in its middle: those that were taken come back as they were. */
export function uploader(app, { breakOff = false } = {}) {
  const counts = client();
  const stored = [];
  const broken = [];
  return {
    what: 'uploads',
    counts,
    async run(stop) {
      for (let i = 0; !stop.aborted; i++) {
        // No two are alike: bytes that are stored already would not be stored.
        const bytes = Buffer.alloc(200_000 + 61 * (i % 50_000), `upload ${++uploads} `);
        if (breakOff && i % 2) {
          broken.push(sha(bytes));
          await brokenUpload(app.port, sha(bytes), bytes);
          counts.refused++;
          continue;
        }
        const answer = await app.ask('PUT', `/api/blobs/${sha(bytes)}`, bytes);
        if (answer?.ok) {
          counts.acknowledged++;
          stored.push(sha(bytes));
        } else {
          if (answer) counts.refused++;
          await pause(WAIT_MS);
        }
        // So many that the disk is not what ends it.
        await pause(100);
      }
    },
    async check() {
      for (const id of stored) {
        const answer = await app.ask('GET', `/api/blobs/${id}`);
        if (!answer?.ok) counts.lost++;
        else if (sha(answer.bytes) !== id) counts.torn++;
      }
      for (const id of broken) if ((await app.ask('GET', `/api/blobs/${id}`))?.ok) counts.torn++;
    },
  };
}

function brokenUpload(port, id, bytes) {
  return new Promise((resolve) => {
    const upload = request({
      port,
      host: '127.0.0.1',
      method: 'PUT',
      path: `/api/blobs/${id}`,
      headers: { 'Content-Length': bytes.length },
    });
    upload.on('error', resolve);
    upload.on('close', resolve);
    upload.write(bytes.subarray(0, bytes.length >> 1), () => setTimeout(() => upload.destroy(), 20));
  });
}

/** Delivers a piece: every delivery that is kept can be fetched whole, and no half file lies in the folder. */
export function deliverer(app, piece) {
  const counts = client();
  const kept = [];
  return {
    what: 'deliveries',
    counts,
    async run(stop) {
      while (!stop.aborted) {
        const answer = await app.ask('POST', `/api/pieces/${piece.id}/deliveries`, {
          version: piece.version,
          target: 'prefix-tags',
          answered: true,
        });
        if (answer?.ok) {
          counts.acknowledged++;
          kept.push(answer.json.id);
        } else if (answer) counts.refused++;
        await pause(WAIT_MS);
      }
    },
    async check() {
      const { deliveries } = (await app.insist('GET', `/api/pieces/${piece.id}/deliveries`)).json;
      for (const id of new Set([...kept, ...deliveries.map((each) => each.id)])) {
        const answer = await app.ask('GET', `/api/deliveries/${id}`);
        if (!answer?.ok) {
          counts.lost++;
          continue;
        }
        for (const [at, { bytes }] of answer.json.files.entries()) {
          const file = await app.ask('GET', `/api/deliveries/${id}/files/${at}`);
          if (file?.bytes.length !== bytes) counts.torn++;
        }
      }
      for (const name of readdirSync(app.deliveries, { recursive: true }))
        if (name.endsWith('.glb') && !isWholeGlb(readFileSync(join(app.deliveries, name)))) counts.torn++;
    },
  };
}

/** Its header says how long it is. */
const isWholeGlb = (bytes) => bytes.length >= 12 && bytes.readUInt32LE(8) === bytes.length;

/** Runs a recipe over pieces, one job after another: each piece is done once by each, and none is passed over. */
export function jobRunner(app, yard, pieces) {
  const counts = client();
  const ids = pieces.map(({ id }) => id);
  let count = 0;
  const begin = async () => {
    const kind = ++count % 2 ? 'hull' : 'box';
    const recipe = {
      format: 1,
      name: `Drill ${count}`,
      steps: [{ op: 'clear-shapes' }, { op: 'wrap', parameters: { kind, per: 'piece' } }],
    };
    const answer = await app.ask('POST', `/api/yards/${yard}/jobs`, { recipe, pieces: ids });
    if (answer && !answer.ok) counts.refused++;
  };
  // The list shows the newest only.
  const known = new Set();
  const jobs = async (ask) => {
    const list = (await ask('GET', `/api/yards/${yard}/jobs`))?.json ?? null;
    if (Array.isArray(list)) for (const { id } of list) known.add(id);
    return list;
  };
  const allEnded = (list) => Array.isArray(list) && list.every(({ state }) => state === 'ended');
  return {
    what: 'pieces of jobs',
    counts,
    async run(stop) {
      while (!stop.aborted) {
        if (allEnded(await jobs((...what) => app.ask(...what)))) await begin();
        await pause(4 * WAIT_MS);
      }
    },
    async check() {
      const insist = (...what) => app.insist(...what);
      const until = performance.now() + JOBS_WITHIN_MS;
      while (!allEnded(await jobs(insist)) && performance.now() < until) await pause(500);
      const saved = new Map(ids.map((id) => [id, 0]));
      for (const id of known)
        for (const { piece, state, foundVersion, savedVersion, says } of (
          await insist('GET', `/api/jobs/${id}`)
        ).json.items)
          if (state === 'done') {
            counts.acknowledged++;
            if (savedVersion !== foundVersion + 1) counts.torn++;
            saved.set(piece.id, saved.get(piece.id) + 1);
          }
          // Two jobs at once come where a begin that nobody answered was done all the same.
          else if (/changed while the recipe ran/.test(says)) counts.refused++;
          else counts.lost++;
      for (const [id, times] of saved)
        if ((await insist('GET', `/api/pieces/${id}`)).json.version !== 1 + times) counts.torn++;
    },
  };
}

/** Two people on one piece: a version is acknowledged to one of them, and holds what that one sent. */
export function editors(app, piece) {
  const counts = client();
  const acknowledged = new Map();
  const editor = async (who, stop) => {
    for (let count = 1; !stop.aborted; count++) {
      const found = await app.ask('GET', `/api/pieces/${piece.id}`);
      if (!found?.ok) {
        await pause(WAIT_MS);
        continue;
      }
      const { version, history } = found.json;
      const name = `${who}_${count}`;
      const steps = stepsBetween(history, named(history, name));
      const answer = await app.ask('PUT', `/api/pieces/${piece.id}`, { version, steps });
      if (answer?.ok) {
        counts.acknowledged++;
        if (acknowledged.has(answer.json.version)) counts.lost++;
        acknowledged.set(answer.json.version, name);
      } else if (answer) counts.refused++;
    }
  };
  return {
    what: 'saves by two editors of one piece',
    counts,
    run: (stop) => Promise.all([editor('Ann', stop), editor('Ben', stop)]),
    async check() {
      const newest = Math.max(...acknowledged.keys());
      const { version, history } = (await app.insist('GET', `/api/pieces/${piece.id}`)).json;
      if (version < newest) counts.lost++;
      else if (version === newest && meshNameOf(history) !== acknowledged.get(newest)) counts.torn++;
      for (const [at, name] of acknowledged) {
        const answer = await app.ask('GET', `/api/pieces/${piece.id}/versions/${at}`);
        // Older versions are thinned out; one that is there is the one that was sent.
        if (answer?.ok && meshNameOf(answer.json.history) !== name) counts.torn++;
      }
    },
  };
}

/** One of each kind, with pieces of their own. */
export async function everyKind(app, { savers = 4 } = {}) {
  const yard = await newYard(app, 'Drill');
  const crates = (count, name) =>
    Promise.all(Array.from({ length: count }, (_, i) => addCrate(app, yard, `${name} ${i}`)));
  const unit = { kind: 'set-unit', unit: 'm' };
  const [delivered] = await crates(1, 'Delivered');
  const steps = stepsBetween(delivered.history, pushEdit(delivered.history, unit));
  const { json } = await app.insist('PUT', `/api/pieces/${delivered.id}`, { version: 1, steps });
  delivered.version = json.version;
  return [
    ...(await crates(savers, 'Saved')).map((piece) => saver(app, piece)),
    uploader(app),
    deliverer(app, delivered),
    jobRunner(app, yard, await crates(JOB_PIECES, 'Run')),
  ];
}
