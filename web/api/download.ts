import { reach, wholeOf } from './client.ts';

const NAME = /filename\*?=(?:UTF-8'')?"?([^";]+)"?/i;

/** Fetches a file that the server makes for it. Throws as `reach` does. */
export async function fetchFile(url: string, signal: AbortSignal): Promise<{ name: string; blob: Blob }> {
  const response = await reach(url, { signal });
  const said = NAME.exec(response.headers.get('Content-Disposition') ?? '')?.[1] ?? 'file';
  return { name: decodeURIComponent(said), blob: await wholeOf(response.blob()) };
}

/** Lets the browser save what an address streams, however large it is. */
export function saveFrom(url: string): void {
  const link = document.createElement('a');
  link.href = url;
  link.download = '';
  link.click();
}

/** Saves a file of the browser under a name. */
export function saveFile(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
