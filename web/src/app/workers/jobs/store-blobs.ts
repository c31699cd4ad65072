import { putBlob } from '../../api/put-blob';

/** Store bytes under their names, one after the other. */
export async function storeBlobs(
  bodies: readonly (readonly [id: string, body: Blob])[],
  progress: (share: number) => void,
): Promise<void> {
  const total = bodies.reduce((sum, [, body]) => sum + body.size, 0) || 1;
  let sent = 0;
  for (const [id, body] of bodies) {
    await putBlob(id, body, (bytes) => progress((sent + bytes) / total));
    sent += body.size;
  }
}

export const asBodies = (blobs: ReadonlyMap<string, Uint8Array>): [string, Blob][] =>
  [...blobs].map(([id, bytes]) => [id, new Blob([bytes as Uint8Array<ArrayBuffer>])]);
