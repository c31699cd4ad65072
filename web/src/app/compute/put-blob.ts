import { problemSchema, routes } from '@yard-brace/contract';

/** Store bytes under their name, telling how many have gone out. `fetch` cannot tell, so this is the older way. */
export function putBlob(id: string, body: Blob, sent: (bytes: number) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('PUT', routes.blob(id));
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (event) => sent(event.loaded);
    request.onload = () =>
      request.status < 300 ? resolve() : reject(new Error(messageOf(request.responseText)));
    request.onerror = () =>
      reject(new Error('The server cannot be reached just now; bring the file in again when it is back.'));
    request.send(body);
  });
}

function messageOf(text: string): string {
  try {
    return problemSchema.parse(JSON.parse(text)).message;
  } catch {
    return 'The server refused the bytes without a reason.';
  }
}
