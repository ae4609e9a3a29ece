import { problemSchema } from '@keen-ridge/core/contract';
import { createdSchema } from '@keen-ridge/core/contract/wall';
import { corpus, type Sample, type SentAs } from './corpus.ts';
import { Random } from './random.ts';

/** What became of one file that is nearly right. */
export interface Outcome {
  readonly seed: number;
  readonly name: string;
  readonly status: number;
  /** What was wrong with the answer itself; null where it was taken, or refused in a sentence. */
  readonly fault: string | null;
  readonly ms: number;
}

/** Longer than any reader may take: each has its own limit, and says so. */
const PATIENCE_MS = 90_000;

/** A shot of one painted plane, as a package and as a production. */
async function packagesOf(url: string) {
  const json = { 'Content-Type': 'application/json' };
  const post = async (path: string, body: unknown) =>
    createdSchema.parse(
      await (await fetch(url + path, { method: 'POST', headers: json, body: JSON.stringify(body) })).json(),
    ).id;
  const production = await post('/api/productions', { name: 'Mutations' });
  const shot = { name: 'S', widthPx: 64, heightPx: 36, rate: { num: 24, den: 1 }, lengthFrames: 4 };
  const shotId = await post(`/api/productions/${production}/shots`, shot);
  const bytesOf = async (path: string) => new Uint8Array(await (await fetch(url + path)).arrayBuffer());
  return {
    production,
    package: await bytesOf(`/api/shots/${shotId}/package`),
    archive: await bytesOf(`/api/productions/${production}/archive`),
  };
}

const addressOf = (as: SentAs, name: string, production: string): string =>
  ({
    art: `/api/art?name=${name}`,
    sound: `/api/sounds?name=${name}`,
    package: `/api/productions/${production}/packages?name=${name}`,
    archive: `/api/archives?name=${name}`,
  })[as];

async function outcomeOf(url: string, sample: Sample, seed: number, production: string): Promise<Outcome> {
  const random = new Random(seed);
  const bytes = random.pick(sample.mutates)(sample.bytes, random);
  const began = performance.now();
  const at = { seed, name: sample.name };
  try {
    const response = await fetch(url + addressOf(sample.as, sample.name, production), {
      method: 'POST',
      body: Buffer.from(bytes),
      headers: { 'Content-Type': 'application/octet-stream' },
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
    const { status } = response;
    const text = await response.text();
    const ms = performance.now() - began;
    return { ...at, status, fault: response.ok ? null : faultIn(status, text), ms };
  } catch (error) {
    return { ...at, status: 0, fault: String(error), ms: performance.now() - began };
  }
}

/** Why a refusal is none: it must be told in a sentence, not be the server's own fault, and name nothing within. */
function faultIn(status: number, text: string): string | null {
  if (status < 400 || status >= 500) return `status ${status}: ${text.slice(0, 300)}`;
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return `no JSON: ${text.slice(0, 100)}`;
  }
  const read = problemSchema.safeParse(json);
  if (!read.success) return `no problem details: ${text.slice(0, 100)}`;
  const { detail } = read.data;
  if (!/[.!?”]$/.test(detail) || detail.length > 700) return `no sentence: ${detail.slice(0, 300)}`;
  // A path of this machine or a place in the code; what the file itself calls its parts may be told.
  if (
    /\/(tmp|home|work|usr|node_modules|server|core)\/|\bat \w+ \(|\.ts:\d+/.test(
      detail.replaceAll(/\S*keen-climbed/g, ''),
    )
  )
    return `tells of within: ${detail}`;
  return null;
}

/** Sends `count` mutated files, so many at a time, and says what became of each; the same `seed` gives the same files. */
export async function mutateFiles(
  url: string,
  { count, seed, abreast, only }: { count: number; seed: number; abreast: number; only?: string | undefined },
  onOutcome: (outcome: Outcome) => void,
): Promise<void> {
  const packages = await packagesOf(url);
  const all = await corpus(packages);
  const samples = only === undefined ? all : all.filter(({ name }) => name === only);
  let next = 0;
  const some = async () => {
    for (let i = next++; i < count; i = next++) {
      const own = seed + i;
      onOutcome(await outcomeOf(url, samples[own % samples.length]!, own, packages.production));
    }
  };
  await Promise.all(Array.from({ length: abreast }, some));
}
