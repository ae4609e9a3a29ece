import { type ArtId, type Scene, shownArts } from '@keen-ridge/core/document';
import { IDENTITY, scaling } from '@keen-ridge/core/geometry';
import { type Raster, raster } from '@keen-ridge/core/image';
import { type Background, type RenderPool, renderLayers } from '@keen-ridge/core/render';
import { framePlan } from '@keen-ridge/core/shot';

/** Straight RGBA pixels of a stored image. Throws when it is missing or damaged. */
export type ReadPixels = (artId: ArtId) => Promise<Uint8Array>;

/** Past this much loaded art the pool is emptied once nobody uses it. */
const KEEP_LOADED_BYTES = 2 ** 30;

/** Renders frames of scenes on one pool, loading the art that they need. */
export class FrameRenderer {
  private readonly pool: RenderPool;
  private readonly readPixels: ReadPixels;
  private users = 0;

  constructor(pool: RenderPool, readPixels: ReadPixels) {
    this.pool = pool;
    this.readPixels = readPixels;
  }

  get threads(): number {
    return this.pool.size;
  }

  /** Keeps the scene's visible art loaded while `work` runs. */
  async withArt<T>(scene: Scene, work: () => Promise<T>): Promise<T> {
    this.users += 1;
    try {
      const shown = scene.planes
        .filter((plane) => !plane.hidden)
        .flatMap(({ content }) => shownArts(content));
      await Promise.all(
        shown.map((art) =>
          this.pool.addImage(art.id, async () =>
            raster(art.widthPx, art.heightPx, 'straight', await this.readPixels(art.id)),
          ),
        ),
      );
      return await work();
    } finally {
      this.users -= 1;
      if (this.users === 0 && this.pool.usedBytes > KEEP_LOADED_BYTES) this.pool.keepOnly(new Set());
    }
  }

  /** One frame at `scale` of its output size; on one thread, or with its rows shared by all. Call inside withArt. */
  render(
    scene: Scene,
    frame: number,
    background: Background,
    scale = 1,
    threads = 1,
  ): Promise<Raster<'premultiplied'>> {
    const view = {
      widthPx: Math.max(1, Math.round(scene.frame.widthPx * scale)),
      heightPx: Math.max(1, Math.round(scene.frame.heightPx * scale)),
      frameToImage: scale === 1 ? IDENTITY : scaling(scale),
      background,
    };
    return this.pool.render(renderLayers(framePlan(scene, frame), view), view, threads);
  }

  close(): void {
    this.pool.close();
  }
}
