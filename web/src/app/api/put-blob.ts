import { problemSchema, routes } from '@yard-brace/contract';
import { Told } from './told';

/** A server that is away for a moment is asked once more, after so long. */
const ONCE_MORE_MS = 1500;

/** Store bytes under their name, telling how many have gone out; tried once more when the server was away. */
export async function putBlob(id: string, body: Blob, sent: (bytes: number) => void): Promise<void> {
  const first = await putOnce(id, body, sent);
  if (!first) return;
  if (!first.again) throw first.told;
  await new Promise((resolve) => setTimeout(resolve, ONCE_MORE_MS));
  const second = await putOnce(id, body, sent);
  if (second) throw second.told;
}

interface Refusal {
  told: Told;
  /** it may work later */
  again: boolean;
}

/** Null when the bytes are stored. `fetch` cannot tell how much has gone out, so this is the older way. */
function putOnce(id: string, body: Blob, sent: (bytes: number) => void): Promise<Refusal | null> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest();
    request.open('PUT', routes.blob(id));
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (event) => sent(event.loaded);
    request.onload = () =>
      resolve(
        request.status < 300
          ? null
          : { told: new Told(messageOf(request.responseText)), again: request.status === 503 },
      );
    request.onerror = () =>
      resolve({
        told: new Told('The server cannot be reached just now; import the file again when it is back.'),
        again: true,
      });
    request.send(body);
  });
}

function messageOf(text: string): string {
  try {
    return problemSchema.parse(JSON.parse(text)).message;
  } catch {
    return 'The server gave no reason why it refused the file; import it again in a moment.';
  }
}
