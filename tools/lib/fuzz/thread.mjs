import { isDeepStrictEqual } from 'node:util';
import { parentPort } from 'node:worker_threads';
import * as contract from '@yard-brace/contract';
import * as core from '@yard-brace/core';

const SCHEMAS = { core, contract };

/** One thing at a time, as the application takes it in. */
const TASKS = {
  file: readAFile,
  mesh: decodeMeshes,
  manifest: readAManifest,
  archive: takeAnArchive,
  'read-back': readADelivery,
  value: parseAValue,
};

parentPort.on('message', async (task) => {
  const clock = { start: performance.now(), ms: 0 };
  const outcome = await TASKS[task.kind](task, clock).catch((error) => refusalBy(error));
  parentPort.postMessage({ ...outcome, ms: clock.ms || performance.now() - clock.start });
});

/** Up to the document that would be stored. */
async function readAFile({ name, bytes, beside }, clock) {
  const scene = await core.readFile(
    core.memoryFile(name, bytes),
    beside.map((file) => core.memoryFile(file.name, file.bytes)),
  );
  // What follows is the survey, which has no reader to blame.
  clock.ms = performance.now() - clock.start;
  const apart = core.setApart(scene);
  const files = [{ name, blob: 'a'.repeat(64), bytes: bytes.length }];
  const { document } = core.takeIn(apart.scene, {
    files,
    meshName: core.meshNameFrom,
    target: 'prefix-tags',
    proxies: apart.proxies,
    aside: apart.aside,
  });
  const stored = core.openable(core.startHistory(document));
  return 'refused' in stored ? { kind: 'not storable', text: stored.refused } : { kind: 'read' };
}

/** As the server looks at a mesh, or a pack of meshes, that is sent to it. */
async function decodeMeshes({ bytes }) {
  for (const part of core.unpackMeshes(bytes)?.values() ?? [bytes]) core.decodeMesh(part);
  return { kind: 'read' };
}

async function readAManifest({ bytes }) {
  core.readManifest('piece.manifest.json', new TextDecoder().decode(bytes));
  return { kind: 'read' };
}

/** By the server, which has it whole afterwards or nothing of it. */
async function takeAnArchive({ bytes, address }) {
  const yards = async () => (await (await fetch(`${address}/api/yards`)).json()).length;
  const before = await yards();
  const answer = await fetch(`${address}/api/archives`, { method: 'POST', body: bytes });
  if (answer.ok) return { kind: 'read' };
  const { message } = await answer.json();
  if (answer.status >= 500) return { kind: 'thrown', text: message };
  return (await yards()) === before ? refusalOf(message) : { kind: 'thrown', text: 'half of it is there' };
}

/** Up to the comparison with what should have come, which has to be one that can be kept. */
async function readADelivery({ files, expected, target }) {
  const profile = core.PROFILES.find(({ id }) => id === target);
  const report = await core.readBack(files, profile);
  const comparison = core.compareReadBack(expected, report);
  const kept = [core.readBackSchema.safeParse(report), core.comparisonSchema.safeParse(comparison)];
  const wrong = kept.find(({ success }) => !success);
  return wrong ? { kind: 'not storable', text: core.issueSentence(wrong.error.issues[0]) } : { kind: 'read' };
}

/** What a schema lets through has to be let through again after it was stored as JSON, as the same. */
async function parseAValue({ where, name, value }) {
  const schema = SCHEMAS[where][name];
  const read = schema.safeParse(value);
  if ({}.polluted) return { kind: 'thrown', text: 'every object has a new field' };
  if (!read.success) return refusalOf(core.issueSentence(read.error.issues[0]));
  const again = schema.safeParse(stored(read.data));
  if (!again.success) return { kind: 'not storable', text: core.issueSentence(again.error.issues[0]) };
  return isDeepStrictEqual(stored(again.data), stored(read.data))
    ? { kind: 'read' }
    : { kind: 'not storable', text: 'it is another one when it is read again' };
}

const stored = (value) => JSON.parse(JSON.stringify(value));

function refusalBy(error) {
  // What is stored is told by whoever opens it: its own words are no whole sentences.
  if (error instanceof core.MeshCodecError) return { kind: 'refused', text: error.message };
  return error instanceof core.FormatError || error instanceof core.ManifestError
    ? refusalOf(error.message)
    : { kind: 'thrown', text: String(error.stack ?? error) };
}

/** A sentence for a person, without a word of the language itself. */
function refusalOf(message) {
  const plain =
    /[.!?]$/.test(message) &&
    !/undefined|is not a function|Invalid input|Cannot read|NaN|\[object/.test(
      message.replaceAll(/“[^”]*”/g, ''),
    );
  return { kind: plain ? 'refused' : 'not a sentence', text: message };
}

parentPort.postMessage('ready');
