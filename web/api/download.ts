import { problemSchema } from '@keen-ridge/core/contract';

const NAME = /filename\*?=(?:UTF-8'')?"?([^";]+)"?/i;

/** Fetches a file that the server makes for it. Rejects with what the server says, or with an AbortError. */
export async function fetchFile(url: string, signal: AbortSignal): Promise<{ name: string; blob: Blob }> {
  const response = await fetch(url, { signal });
  if (!response.ok) {
    const problem = problemSchema.safeParse(await response.json().catch(() => null));
    throw new Error(problem.success ? problem.data.detail : `The server answered with ${response.status}.`);
  }
  const said = NAME.exec(response.headers.get('Content-Disposition') ?? '')?.[1] ?? 'file';
  return { name: decodeURIComponent(said), blob: await response.blob() };
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
