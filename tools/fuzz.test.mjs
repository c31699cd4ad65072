import assert from 'node:assert/strict';
import { test } from 'node:test';
import { fuzz, random, spoiled } from './lib/fuzz.mjs';

test('some hundreds of spoiled files: each is read or refused in a sentence, in time, and could be stored', async () => {
  // Other work may run beside the tests: the command holds readers to two seconds.
  const { bad, counts } = await fuzz({ files: 60, seed: 20261126, limitMs: 15_000 });
  assert.deepEqual(
    bad.map(({ extension, i, kind, text }) => `${extension} ${i}: ${kind}: ${text.slice(0, 200)}`),
    [],
  );
  for (const [extension, { read, refused }] of Object.entries(counts))
    assert.ok(read > 0 && refused > 0, `${extension}: ${read} read, ${refused} refused`);
});

test('the same seed spoils the same way', () => {
  const good = Buffer.from('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'.repeat(20));
  assert.deepEqual(spoiled(good, random(7)), spoiled(good, random(7)));
});
