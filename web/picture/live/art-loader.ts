import { imageManifestSchema } from '@keen-ridge/core/contract';
import { type Raster, raster } from '@keen-ridge/core/image';
import type { StreamSource } from '@keen-ridge/core/kernel/memory';
import type { ArtId, ArtRef } from '@keen-ridge/core/scene';
import { ask, ServerUnreachable } from '../../api/client.ts';

async function fetchBytes(path: string): Promise<Uint8Array<ArrayBuffer>> {
  let response: Response;
  try {
    response = await fetch(path);
    if (response.ok) return new Uint8Array(await response.arrayBuffer());
  } catch (error) {
    throw new ServerUnreachable('The art could not be loaded: the server does not answer. Trying again …', {
      cause: error,
    });
  }
  throw new ServerUnreachable(`The art could not be loaded (${response.status}). Trying again …`);
}

/** Straight RGBA of a stored image, as the server decodes it for the hand-off too. */
export async function fetchPixels(art: ArtRef): Promise<Raster<'straight'>> {
  return raster(art.widthPx, art.heightPx, 'straight', await fetchBytes(`/api/art/${art.id}/pixels`));
}

/** The levels of a stored image, made on the server when the art came in. */
export const streamSource = (artId: ArtId): StreamSource => ({
  async levels() {
    const { texelBytes, levels } = await ask(imageManifestSchema, `/api/art/${artId}/levels`);
    return Promise.all(
      levels.map(async ({ widthPx, heightPx, tiles }) => ({
        widthPx,
        heightPx,
        texelBytes,
        tiles: await inflated(tiles),
      })),
    );
  },
  chunks: (level, { c0, r0, c1, r1 }) =>
    fetchBytes(`/api/art/${artId}/levels/${level}?c0=${c0}&r0=${r0}&c1=${c1}&r1=${r1}`),
});

async function inflated(base64: string): Promise<Uint8Array> {
  const packed = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
  const stream = new Blob([packed]).stream().pipeThrough(new DecompressionStream('deflate'));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}
