import { type ImportedArt, importedArtSchema } from '@keen-ridge/core/contract';
import { refusalFrom, ServerUnreachable } from './client.ts';

/** Sends one file and returns its layers. `onSent` tells the share that has gone, 0 to 1. Rejects when cancelled. */
export function uploadArt(
  file: File,
  onSent: (share: number) => void,
  signal: AbortSignal,
): Promise<ImportedArt> {
  return new Promise((resolve, reject) => {
    // XMLHttpRequest, since fetch cannot tell how much of a body has been sent.
    const request = new XMLHttpRequest();
    request.open('POST', `/api/art?name=${encodeURIComponent(file.name)}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.onprogress = ({ loaded, total }) => onSent(total > 0 ? loaded / total : 1);
    request.onload = () => {
      if (request.status === 200) resolve(importedArtSchema.parse(JSON.parse(request.responseText)));
      else reject(refusalFrom(request.status, request.responseText));
    };
    request.onerror = () =>
      reject(new ServerUnreachable(`“${file.name}” could not be sent: the server does not answer.`));
    request.onabort = () => reject(signal.reason);
    signal.addEventListener('abort', () => request.abort(), { once: true });
    if (signal.aborted) reject(signal.reason);
    else request.send(file);
  });
}
