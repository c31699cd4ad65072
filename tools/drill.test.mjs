import assert from 'node:assert/strict';
import { test } from 'node:test';
import { DRILLS } from './lib/drill/drills.mjs';
import { drillTable, rowOf } from './lib/drill/table.mjs';

const say = () => undefined;

test('eight kills while clients save, upload, deliver and run jobs: nothing acknowledged is lost, nothing is torn', async () => {
  const { done, lost, torn, acknowledged } = await DRILLS.kills.run({ amount: 8, seed: 1, say });
  assert.deepEqual({ lost, torn }, { lost: 0, torn: 0 });
  assert.equal(done, '8 kills: server 2, database 3, job process 1, starter 2');
  for (const [what, count] of Object.entries(acknowledged))
    assert.ok(count > 0, `no ${what} were acknowledged`);
  assert.ok(acknowledged.saves > 40, `${acknowledged.saves} saves were acknowledged`);
});

test('uploads that are broken off leave nothing under their name, and the others are whole', async () => {
  const { lost, torn, acknowledged, refused } = await DRILLS.uploads.run({ seconds: 2, say });
  assert.deepEqual({ lost, torn }, { lost: 0, torn: 0 });
  assert.ok(acknowledged.uploads > 3 && refused > 3);
});

test('a drill that could not be done says so in the table', () => {
  const table = drillTable([
    rowOf({ title: 'a' }, { skipped: 'it needs root' }),
    rowOf(
      { title: 'b' },
      { done: '2 s', back: 1.26, acknowledged: { saves: 3 }, refused: 1, lost: 0, torn: 0 },
    ),
  ]);
  const [, , first, second] = table.split('\n');
  assert.equal(first, '| a | not done: it needs root |  |  |  |  |  |');
  assert.equal(second, '| b | 2 s | 3 saves | 1 | 0 | 0 | 1.3 s |');
});
