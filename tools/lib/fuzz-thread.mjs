import { parentPort } from 'node:worker_threads';
import {
  FormatError,
  memoryFile,
  meshNameFrom,
  openable,
  readFile,
  setApart,
  startHistory,
  takeIn,
} from '@yard-brace/core';

// One file at a time: read it as the application does, up to the document that would be stored.
parentPort.on('message', async ({ name, bytes, beside }) => {
  const clock = { start: performance.now(), ms: 0 };
  const outcome = await outcomeOf(name, bytes, beside, clock);
  parentPort.postMessage({ ...outcome, ms: clock.ms || performance.now() - clock.start });
});

async function outcomeOf(name, bytes, beside, clock) {
  try {
    const scene = await readFile(
      memoryFile(name, bytes),
      beside.map((file) => memoryFile(file.name, file.bytes)),
    );
    // What follows is the survey, which has no reader to blame.
    clock.ms = performance.now() - clock.start;
    const apart = setApart(scene);
    const files = [{ name, blob: 'a'.repeat(64), bytes: bytes.length }];
    const { document } = takeIn(apart.scene, {
      files,
      meshName: meshNameFrom,
      target: 'prefix-tags',
      proxies: apart.proxies,
      aside: apart.aside,
    });
    const stored = openable(startHistory(document));
    return 'refused' in stored ? { kind: 'not storable', text: stored.refused } : { kind: 'read' };
  } catch (error) {
    if (!(error instanceof FormatError)) return { kind: 'thrown', text: String(error.stack ?? error) };
    const plain = !/undefined|is not a function|Invalid input|Cannot read|NaN/.test(
      error.message.replaceAll(/“[^”]*”/g, ''),
    );
    return { kind: plain ? 'refused' : 'not a sentence', text: error.message };
  }
}
