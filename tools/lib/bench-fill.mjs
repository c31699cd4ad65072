/**
 * What makes yards of so many pieces, the sample yard again and again under numbered names.
 *
 * @param ask `(method, path, body) => { json }` of a server
 * @returns `(name, count, { pictures }) => { id, ids }`; without pictures a page that looks at them draws each
 */
export async function yardMaker(ask) {
  const { takenPieces } = await import('@yard-brace/demo');
  const core = await import('@yard-brace/core');
  const kinds = [];
  for await (const { document, blobs } of takenPieces()) {
    for (const [id, bytes] of blobs) await ask('PUT', `/api/blobs/${id}`, bytes);
    kinds.push(document);
  }
  return async (name, count, { pictures = false } = {}) => {
    const picture = pictures && (await putPicture(ask, core));
    const { id } = (await ask('POST', '/api/yards', { name })).json;
    const ids = [];
    let next = 0;
    await Promise.all(
      Array.from({ length: 6 }, async () => {
        for (let i = next++; i < count; i = next++) {
          const kind = kinds[i % kinds.length];
          const name = `${kind.name} ${String(i).padStart(4, '0')}`;
          const base = { ...kind, name, meshName: core.meshNameFrom(name) };
          const history = core.startHistory(base);
          ids[i] = (await ask('POST', `/api/yards/${id}/pieces`, { history })).json.id;
        }
      }),
    );
    if (picture) for (const piece of ids) await ask('PUT', `/api/pieces/${piece}/picture`, { blob: picture });
    return { id, ids };
  };
}

/** One picture for all of them, so that none is drawn meanwhile. */
async function putPicture(ask, { blobId, plainPng }) {
  const bytes = plainPng(96, (x, y) => [x + y, 120, 100]);
  await ask('PUT', `/api/blobs/${blobId(bytes)}`, bytes);
  return blobId(bytes);
}
