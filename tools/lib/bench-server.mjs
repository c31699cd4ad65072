import { benchApp, median, timed } from './bench-app.mjs';
import { inHouse } from './house.mjs';

/** What the server's answers cost, on a database of its own: the shelf, saves, many clients, a tree of thousands. */
export async function benchServer(say) {
  const { cratePiece, hullProxy } = await import(inHouse('server/dist/testing/sample-piece.js'));
  const core = await import('@yard-brace/core');
  const { address, ask, close } = await benchApp();
  const newYard = async () => (await ask('POST', '/api/yards', { name: 'Bench' })).json.id;
  const put = async (blobs) => {
    for (const [id, bytes] of blobs) await ask('PUT', `/api/blobs/${id}`, bytes);
  };
  try {
    const yard = await newYard();
    let added = 0;
    for (const size of [16, 100, 400, 1000]) {
      while (added < size) {
        const { history, blobs } = cratePiece(`Crate ${added++}`);
        history.base.family = 'crates';
        await put(blobs);
        await ask('POST', `/api/yards/${yard}/pieces`, { history });
      }
      const times = [];
      let bytes = 0;
      for (let i = 0; i < 7; i++)
        times.push(await timed(async () => (bytes = (await ask('GET', `/api/yards/${yard}`)).bytes)));
      const { shelf } = (await ask('GET', `/api/yards/${yard}`)).json;
      const opening = [];
      for (const { id } of shelf.slice(0, 7))
        opening.push(await timed(() => ask('GET', `/api/pieces/${id}`)));
      say(
        `${String(size).padStart(5)} pieces: shelf ${median(times).toFixed(0)} ms, ${(bytes / 1000).toFixed(0)} kB; opening one of a family ${median(opening).toFixed(0)} ms`,
      );
    }

    const crowd = await newYard();
    const many = Array.from({ length: 500 }, (_, i) => cratePiece(`Crate ${i}`));
    for (const { blobs } of many) await put(blobs);
    const statuses = {};
    const all = await timed(() =>
      Promise.all(
        Array.from({ length: 16 }, async (_, worker) => {
          for (let i = worker; i < many.length; i += 16) {
            const response = await fetch(`${address}/api/yards/${crowd}/pieces`, {
              method: 'POST',
              body: JSON.stringify({ history: many[i].history }),
            });
            await response.text();
            statuses[response.status] = (statuses[response.status] ?? 0) + 1;
          }
        }),
      ),
    );
    say(`16 clients add 500 pieces: ${JSON.stringify(statuses)} in ${(all / 1000).toFixed(1)} s`);

    {
      const { history, blobs } = cratePiece('Many hulls');
      await put(blobs);
      let now = history;
      for (let step = 1; step <= 100; step++) {
        const hulls = Array.from({ length: 64 }, (_, i) => hullProxy(`h${i}`, i + step / 1000));
        now = core.pushEdit(now, core.replaceProxies(hulls));
      }
      const { id } = (await ask('POST', `/api/yards/${crowd}/pieces`, { history: now })).json;
      const saves = [];
      let bytes = 0;
      for (let version = 1; version <= 9; version++) {
        const moved = { kind: 'put-proxies', changed: [hullProxy('h7', version)], removed: [] };
        const next = core.pushEdit(now, moved);
        const body = { version, steps: core.stepsBetween(now, next) };
        bytes = Math.max(bytes, JSON.stringify(body).length);
        saves.push(await timed(() => ask('PUT', `/api/pieces/${id}`, body)));
        now = next;
      }
      say(
        `100 edits of 64 hulls of 32 corners behind it (${(JSON.stringify(now).length / 1e6).toFixed(1)} MB): moving one sends ${(bytes / 1000).toFixed(1)} kB (aim 64), is answered in ${median(saves).toFixed(0)} ms, at most ${Math.max(...saves).toFixed(0)} (aim 100)`,
      );
    }

    for (const nodes of [5000, 20_000]) {
      const text = manyBoxes(nodes);
      const file = core.memoryFile('many.obj', Buffer.from(text));
      let taken;
      const import_ = await timed(async () => {
        const scene = await core.readFile(file);
        taken = core.takeIn(core.setApart(scene).scene, {
          files: [{ name: 'many.obj', blob: core.blobId(await file.bytes()), bytes: file.size }],
          meshName: core.meshNameFrom,
          target: 'prefix-tags',
        });
      });
      const { document, blobs } = taken;
      blobs.set(document.source.files[0].blob, await file.bytes());
      const history = core.startHistory(document);
      const json = JSON.stringify({ history });
      const tree = await newYard();
      const uploads = await timed(() => put(blobs));
      let id;
      const adding = await timed(
        async () => (id = (await ask('POST', `/api/yards/${tree}/pieces`, { history })).json.id),
      );
      const saves = [];
      let now = history;
      for (let version = 1; version <= 9; version++) {
        const next = core.pushEdit(now, { kind: 'rename-mesh', name: `Many_${version}` });
        const steps = core.stepsBetween(now, next);
        saves.push(await timed(() => ask('PUT', `/api/pieces/${id}`, { version, steps })));
        now = next;
      }
      const opening = await timed(() => ask('GET', `/api/pieces/${id}`));
      const shelf = await timed(() => ask('GET', `/api/yards/${tree}`));
      say(
        `${nodes} nodes: document ${(json.length / 1e6).toFixed(1)} MB, ${blobs.size} uploads; read and surveyed ${(import_ / 1000).toFixed(1)} s, uploaded ${(uploads / 1000).toFixed(1)} s, added ${(adding / 1000).toFixed(2)} s; save of a rename ${median(saves).toFixed(0)} ms; opened ${opening.toFixed(0)} ms; shelf ${shelf.toFixed(0)} ms`,
      );
    }
  } finally {
    await close();
  }
}

/** As many boxes as objects of one file, in a square. */
function manyBoxes(count) {
  const lines = [];
  const side = Math.ceil(Math.sqrt(count));
  for (let i = 0; i < count; i++) {
    const [x, z] = [(i % side) * 1.5, Math.floor(i / side) * 1.5];
    lines.push(`o box ${i}`);
    for (let k = 0; k < 8; k++) lines.push(`v ${x + (k & 1)} ${(k >> 1) & 1} ${z + (k >> 2)}`);
    const v = (k) => i * 8 + k + 1;
    for (const face of [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5],
    ])
      lines.push(`f ${face.map(v).join(' ')}`);
  }
  return `${lines.join('\n')}\n`;
}
