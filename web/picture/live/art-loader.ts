import { imageManifestSchema } from '@keen-ridge/core/contract';
import { type Raster, raster, TILE_PX } from '@keen-ridge/core/image';
import type { StreamSource } from '@keen-ridge/core/kernel/memory';
import type { ArtId, ArtRef } from '@keen-ridge/core/scene';
import { ask, readBytes } from '../../api/client.ts';
import { inflate } from './inflate.ts';

const bytesFrom = async (path: string): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await readBytes(path));

/** Straight RGBA of a stored image, as the server decodes it for the hand-off too. */
export async function fetchPixels(art: ArtRef): Promise<Raster<'straight'>> {
  return raster(art.widthPx, art.heightPx, 'straight', await bytesFrom(`/api/art/${art.id}/pixels`));
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
        tiles: await tilesOf(tiles, widthPx, heightPx),
      })),
    );
  },
  chunks: (level, { c0, r0, c1, r1 }) =>
    bytesFrom(`/api/art/${artId}/levels/${level}?c0=${c0}&r0=${r0}&c1=${c1}&r1=${r1}`),
});

/** Not by way of a blob, whose bytes the browser's processes hand to each other: each image has some ten of these. */
const tilesOf = async (base64: string, widthPx: number, heightPx: number): Promise<Uint8Array> =>
  inflate(
    Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)),
    Math.ceil(widthPx / TILE_PX) * Math.ceil(heightPx / TILE_PX),
  );
