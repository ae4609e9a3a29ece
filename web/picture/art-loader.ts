import type { ArtRef } from '@keen-ridge/core/document';
import { type Raster, raster } from '@keen-ridge/core/image';
import { ServerUnreachable } from '../api/client.ts';

/** Straight RGBA of a stored image, as the server decodes it for the hand-off too. */
export async function fetchPixels(art: ArtRef): Promise<Raster<'straight'>> {
  const response = await fetch(`/api/art/${art.id}/pixels`);
  if (!response.ok) throw new ServerUnreachable(`The art could not be loaded (${response.status}).`);
  return raster(art.widthPx, art.heightPx, 'straight', new Uint8Array(await response.arrayBuffer()));
}
