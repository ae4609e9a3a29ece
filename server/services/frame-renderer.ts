import { type ArtId, type Scene, shownArts } from '@keen-ridge/core/document';
import type { Picture } from '@keen-ridge/core/export';
import { IDENTITY, scaling } from '@keen-ridge/core/geometry';
import { type Raster, raster } from '@keen-ridge/core/image';
import { srgbOfHex } from '@keen-ridge/core/look';
import {
  type Background,
  bytesPerPixel,
  CLEAR,
  type Rendered,
  type RenderOptions,
  type RenderPool,
  type RenderView,
  renderLayers,
} from '@keen-ridge/core/render';
import { type FramePlan, framePlan } from '@keen-ridge/core/shot';
import { wordLayers } from '../film/words-in-picture.ts';

/** Straight RGBA pixels of a stored image. Throws when it is missing or damaged. */
export type ReadPixels = (artId: ArtId) => Promise<Uint8Array>;

/** Art that cannot be had, named as the artist knows it. */
export class ArtMissing extends Error {
  override readonly name = 'ArtMissing';
}

/** Past this much loaded art what the latest scene does not show is given up once nobody uses it. */
const KEEP_LOADED_BYTES = 2 ** 30;

/** What pictures that are done with may take up until the next. */
const MOST_SPARE_BYTES = 96 * 2 ** 20;

/** A picture of a hand-off without what only names it. */
export type PictureAsked = Omit<Picture, 'program'>;

export const backgroundOf = (ground: string): Background => {
  if (ground === 'clear') return CLEAR;
  const [r, g, b] = srgbOfHex(ground).map((v) => Math.round(v * 255)) as [number, number, number];
  return { r, g, b, a: 255 };
};

/** Renders frames of scenes on one pool, loading the art that they need. */
export class FrameRenderer {
  private readonly pool: RenderPool;
  private readonly readPixels: ReadPixels;
  private users = 0;
  private readonly spare: Uint8Array<ArrayBuffer>[] = [];

  constructor(pool: RenderPool, readPixels: ReadPixels) {
    this.pool = pool;
    this.readPixels = readPixels;
  }

  get threads(): number {
    return this.pool.size;
  }

  /** Keeps the scene's visible art loaded while `work` runs. Rejects with ArtMissing where art cannot be read. */
  async withArt<T>(scene: Scene, work: () => Promise<T>): Promise<T> {
    this.users += 1;
    const shown = scene.planes
      .filter((plane) => !plane.hidden)
      .flatMap(({ name, content }) => shownArts(content).map((art) => ({ art, plane: name })));
    try {
      const loads = await Promise.allSettled(
        shown.map(({ art, plane }) =>
          this.pool.addImage(art.id, async () =>
            raster(art.widthPx, art.heightPx, 'straight', await this.pixelsOf(art.id, plane)),
          ),
        ),
      );
      const failed = loads.find((load) => load.status === 'rejected');
      if (failed) throw failed.reason;
      return await work();
    } finally {
      this.users -= 1;
      if (this.users === 0 && this.pool.usedBytes > KEEP_LOADED_BYTES)
        this.pool.keepOnly(new Set(shown.map(({ art }) => art.id)));
    }
  }

  private async pixelsOf(artId: ArtId, plane: string): Promise<Uint8Array> {
    try {
      return await this.readPixels(artId);
    } catch (error) {
      const why = error instanceof Error ? error.message : String(error);
      throw new ArtMissing(`The art of “${plane}” cannot be read: ${why}`, { cause: error });
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
    const view = viewOf(scene.frame, scaledSize(scene, scale), background);
    return this.pool.render(renderLayers(framePlan(scene, frame), view), view, threads);
  }

  /** The picture of a plan, rounded once from the wide row, on one thread. Call inside withArt. */
  renderPicture(plan: FramePlan, picture: PictureAsked, options: RenderOptions = {}): Promise<Rendered> {
    const view = viewOf(plan, picture, backgroundOf(picture.ground));
    const layers = [...renderLayers(plan, view), ...wordLayers(picture.words, view)];
    return this.pool.renderAs(layers, view, picture.format, 1, options);
  }

  /**
   * The same for as long as `use` takes: the memory of the picture is used again then, since fresh memory costs a good
   * part of what drawing costs.
   */
  async usePicture<T>(
    plan: FramePlan,
    picture: PictureAsked,
    use: (rendered: Rendered) => Promise<T>,
    signal?: AbortSignal,
  ): Promise<T> {
    const into = this.takeSpare(picture.widthPx * picture.heightPx * bytesPerPixel(picture.format));
    try {
      return await use(await this.renderPicture(plan, picture, { signal, into }));
    } finally {
      this.putSpare(into);
    }
  }

  private takeSpare(bytes: number): Uint8Array<ArrayBuffer> {
    const at = this.spare.findIndex(({ byteLength }) => byteLength === bytes);
    return this.spare.splice(at, at < 0 ? 0 : 1)[0] ?? new Uint8Array(bytes);
  }

  /** The latest come first, so that sizes which are not asked for any more are let go. */
  private putSpare(buffer: Uint8Array<ArrayBuffer>): void {
    this.spare.unshift(buffer);
    let bytes = this.spare.reduce((sum, { byteLength }) => sum + byteLength, 0);
    while (bytes > MOST_SPARE_BYTES) bytes -= this.spare.pop()?.byteLength ?? 0;
  }

  close(): void {
    this.pool.close();
  }
}

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

export const scaledSize = ({ frame }: Pick<Scene, 'frame'>, scale: number): Size => ({
  widthPx: Math.max(1, Math.round(frame.widthPx * scale)),
  heightPx: Math.max(1, Math.round(frame.heightPx * scale)),
});

const viewOf = (frame: Size, { widthPx, heightPx }: Size, background: Background): RenderView => ({
  widthPx,
  heightPx,
  frameToImage:
    widthPx === frame.widthPx && heightPx === frame.heightPx
      ? IDENTITY
      : scaling(widthPx / frame.widthPx, heightPx / frame.heightPx),
  background,
});
