import type { ArtId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { shownArts } from '@keen-ridge/core/staging/content';
import { type AlphaMap, alphaMapOf, finestAlphaOf } from '@keen-ridge/core/survey';
import { LRUCache } from 'lru-cache';
import { decodeStored } from '../art/decode.ts';

/** Art whose paint cannot be looked at. */
export class ArtNotSurveyed extends Error {
  override readonly name = 'ArtNotSurveyed';
}

/** How many maps are kept, each of up to a megabyte and a third. */
const KEPT = 200;

/** How much paint stored images have, each worked out once. `read` gives the stored PNG, null where there is none. */
export class AlphaMaps {
  private readonly read: (artId: ArtId) => Promise<Uint8Array | null>;
  private readonly kept = new LRUCache<string, Promise<AlphaMap>>({ max: KEPT });

  constructor(read: (artId: ArtId) => Promise<Uint8Array | null>) {
    this.read = read;
  }

  /** Rejects with ArtNotSurveyed. */
  of(artId: ArtId): Promise<AlphaMap> {
    const there = this.kept.get(artId);
    if (there) return there;
    const made = this.make(artId);
    this.kept.set(artId, made);
    made.catch(() => this.kept.delete(artId));
    return made;
  }

  /** Of all images that a scene shows, one after another: decoded they are large. */
  async ofScene(scene: Scene): Promise<Map<string, AlphaMap>> {
    const ids = planesOf(scene)
      .filter(({ hidden }) => !hidden)
      .flatMap(({ content }) => shownArts(content).map(({ id }) => id));
    const maps = new Map<string, AlphaMap>();
    for (const id of new Set(ids)) maps.set(id, await this.of(id));
    return maps;
  }

  private async make(artId: ArtId): Promise<AlphaMap> {
    const png = await this.read(artId);
    if (!png) throw new ArtNotSurveyed(`The art ${artId} is not there.`);
    const pixels = await decodeStored(png);
    if (!pixels.ok) throw new ArtNotSurveyed(`The art ${artId} cannot be read: ${pixels.error.detail}`);
    const { widthPx, heightPx, data } = pixels.value;
    return alphaMapOf(widthPx, heightPx, finestAlphaOf(data, widthPx, heightPx));
  }
}
