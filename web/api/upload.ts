import type { ImportedArt } from '@keen-ridge/core/art/landing';
import { type ImportLine, importLineSchema } from '@keen-ridge/core/contract';
import { refusalFrom, ServerRefusal, ServerUnreachable } from './client.ts';

export type UploadProgress =
  | { readonly kind: 'sending'; readonly share: number }
  | { readonly kind: 'reading'; readonly done: number; readonly total: number; readonly what: string };

export interface UploadOptions {
  readonly svgScale?: number;
  readonly onProgress: (progress: UploadProgress) => void;
  readonly signal: AbortSignal;
}

/** Sends one file and returns what was read in it. Rejects when cancelled; the server stops reading too. */
export function uploadArt(
  file: File,
  { svgScale = 1, onProgress, signal }: UploadOptions,
): Promise<ImportedArt> {
  return new Promise((resolve, reject) => {
    // XMLHttpRequest, since fetch cannot tell how much of a body has been sent.
    const request = new XMLHttpRequest();
    const path =
      'webkitRelativePath' in file && file.webkitRelativePath ? file.webkitRelativePath : file.name;
    request.open('POST', `/api/art?name=${encodeURIComponent(path)}&svgScale=${svgScale}`);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.setRequestHeader('Accept', 'application/x-ndjson');
    request.upload.onprogress = ({ loaded, total }) =>
      onProgress({ kind: 'sending', share: total > 0 ? loaded / total : 1 });
    let seen = 0;
    const readLines = (): ImportLine | null => {
      const lines = request.responseText.split('\n');
      let last: ImportLine | null = null;
      for (; seen < lines.length - 1; seen++) {
        const line = importLineSchema.parse(JSON.parse(lines[seen] ?? ''));
        if (line.kind === 'progress') onProgress({ ...line, kind: 'reading' });
        else last = line;
      }
      return last;
    };
    request.onprogress = () => {
      if (request.status === 200 && request.readyState === XMLHttpRequest.LOADING) readLinesQuietly();
    };
    let end: ImportLine | null = null;
    /** An answer that cannot be read is an answer too: the dialog that waits for it must hear of it. */
    const readLinesQuietly = () => {
      try {
        end = readLines() ?? end;
      } catch (error) {
        reject(new Error(`The server’s answer about “${file.name}” cannot be read.`, { cause: error }));
        request.abort();
      }
    };
    request.onload = () => {
      if (request.status !== 200) return reject(refusalFrom(request.status, request.responseText));
      readLinesQuietly();
      if (end?.kind === 'done') resolve(end.art);
      else if (end?.kind === 'problem') reject(new ServerRefusal(end.problem));
      else reject(new ServerUnreachable(`“${file.name}” was not read to its end: the server stopped.`));
    };
    request.onerror = () =>
      reject(new ServerUnreachable(`“${file.name}” could not be sent: the server does not answer.`));
    request.onabort = () => reject(signal.reason);
    signal.addEventListener('abort', () => request.abort(), { once: true });
    if (signal.aborted) reject(signal.reason);
    else request.send(file);
  });
}
