import assert from 'node:assert/strict';
import { test } from 'node:test';
import { killDrill } from './lib/kill-drill.mjs';

test('eight kills of server and database while four clients save: no acknowledged save is lost, none is torn', async () => {
  const { kills, lost, torn, acknowledged } = await killDrill({ kills: 8, seed: 7 });
  assert.deepEqual({ kills, lost, torn }, { kills: 8, lost: 0, torn: 0 });
  assert.ok(acknowledged > 40, `${acknowledged} saves were acknowledged`);
});
