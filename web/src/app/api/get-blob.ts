import { routes } from '@yard-brace/contract';
import { Told } from './told';

/** Stored bytes by their name. @throws Told when they cannot be had */
export async function getBlob(id: string): Promise<Uint8Array> {
  const response = await fetch(routes.blob(id)).catch(() => null);
  if (!response?.ok)
    throw new Told(
      response?.status === 404
        ? 'The server no longer has the bytes of a mesh of this piece; import its file again.'
        : 'The mesh cannot be fetched from the server just now; try again in a moment.',
    );
  return new Uint8Array(await response.arrayBuffer());
}
