import assert from 'node:assert/strict';
import { test } from 'node:test';
import { MESH_EXTENSIONS } from '@yard-brace/core';
import { fuzz } from './lib/fuzz/fuzz.mjs';
import { random } from './lib/fuzz/random.mjs';
import { spoiled } from './lib/fuzz/spoil-bytes.mjs';
import { spoiledValue } from './lib/fuzz/spoil-value.mjs';

/** Other work may run beside the tests: the command holds each to two seconds. */
const HELD = { seed: 20261126, limitMs: 15_000 };

const NAMES = {
  readers: 'spoiled files: each is read or refused in a sentence, in time, and could be stored',
  stored: 'spoiled meshes, manifests and archives: each is taken whole or not at all, with a sentence',
  'read-back':
    'spoiled deliveries: each target’s read-back reads or refuses them in a sentence, and its verdict could be stored',
  schemas:
    'spoiled values: each schema refuses them in a sentence, or lets them through again after they were stored',
};
const COUNTS = { readers: 60, stored: 60, 'read-back': 25, schemas: 60 };

for (const [kind, name] of Object.entries(NAMES))
  test(`some hundreds of ${name}`, async () => {
    const { bad, counts } = await fuzz({ ...HELD, count: COUNTS[kind], kinds: [kind] });
    assert.deepEqual(
      bad.map(
        ({ subject, i, label, kind, text }) => `${subject} ${i}: ${kind}: ${text.slice(0, 200)} (${label})`,
      ),
      [],
    );
    if (kind === 'readers')
      assert.deepEqual(Object.keys(counts).sort(), [...MESH_EXTENSIONS, 'mtl', 'bin'].sort());
    const never = (what) => Object.keys(counts).filter((subject) => !counts[subject][what]);
    assert.deepEqual(never('refused'), [], 'of each, something spoiled is refused');
    assert.deepEqual(never('read'), [], 'and something is let through');
  });

test('the same seed spoils the same way', () => {
  const good = Buffer.from('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n'.repeat(20));
  assert.deepEqual(spoiled(good, random(7)), spoiled(good, random(7)));
  const value = { name: 'a', sizes: [1, 2, { deep: [true, null] }] };
  const before = structuredClone(value);
  assert.deepEqual(spoiledValue(value, random(3)), spoiledValue(value, random(3)));
  assert.deepEqual(value, before);
});
