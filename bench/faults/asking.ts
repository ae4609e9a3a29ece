/** The server said no, and meant it. */
export class Refused extends Error {
  override readonly name = 'Refused';
  readonly status: number;

  constructor(status: number, detail: string) {
    super(`${status}: ${detail}`);
    this.status = status;
  }
}

const PATIENCE_MS = 30_000;

/** One request; rejects with Refused for a 4xx, with anything else where nobody answered or the server met a fault. */
export async function ask(
  url: string,
  path: string,
  { method = 'GET', json, bytes }: { method?: string; json?: unknown; bytes?: Uint8Array } = {},
): Promise<unknown> {
  const response = await fetch(`${url}/api${path}`, {
    method,
    signal: AbortSignal.timeout(PATIENCE_MS),
    ...(json === undefined
      ? {}
      : { body: JSON.stringify(json), headers: { 'Content-Type': 'application/json' } }),
    ...(bytes === undefined
      ? {}
      : { body: Buffer.from(bytes), headers: { 'Content-Type': 'application/octet-stream' } }),
  });
  const text = await response.text();
  if (response.status >= 400 && response.status < 500) throw new Refused(response.status, text.slice(0, 300));
  if (!response.ok) throw new Error(`${response.status}: ${text.slice(0, 300)}`);
  return text === '' ? null : JSON.parse(text);
}

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** As a window does: asks until there is an answer. What is refused is refused. */
export async function untilAnswered<T>(work: () => Promise<T>, goesOn: () => boolean): Promise<T | null> {
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (error instanceof Refused) throw error;
      if (!goesOn()) return null;
      await pause(150);
    }
  }
}
