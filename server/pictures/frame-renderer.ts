import type { Picture } from '@keen-ridge/core/export';
import { IDENTITY, scaling } from '@keen-ridge/core/geometry';
import { type Raster, raster } from '@keen-ridge/core/image';
import { bytesPerPixel, type PixelFormat, type Rendered } from '@keen-ridge/core/kernel';
import type { StreamSource } from '@keen-ridge/core/kernel/memory';
import { srgbOfHex } from '@keen-ridge/core/paint';
import {
  artOfEdge,
  type Background,
  CLEAR,
  type RenderLayer,
  type RenderView,
  renderLayers,
} from '@keen-ridge/core/picture';
import { type RenderOptions, type RenderPool, RenderPoolClosed } from '@keen-ridge/core/pool';
import type { ArtId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { shownArts } from '@keen-ridge/core/staging/content';
import { type FramePlan, framePlan } from '@keen-ridge/core/staging/frame';
import { markLayers, wordLayers } from '../film/words-in-picture.ts';
import { ArtUnreadable } from '../storage/art-levels.ts';
import { giveMemoryBack } from '../threads/give-back.ts';
import type { Drawn } from './encode-frame.ts';
import { passPicture } from './pass-pictures.ts';

/** Where the levels of stored art come from. Its promises reject with ArtUnreadable. */
export type ArtSource = (artId: ArtId) => StreamSource;

/** Art that cannot be had, named as the artist knows it. */
export class ArtMissing extends Error {
  override readonly name = 'ArtMissing';
}

/** How long nobody may have drawn before the memory of art is given back, ms. */
const IDLE_MS = 4000;
/** Between the end of the workers and the collection of what they held, ms. */
const SETTLE_MS = 250;
/** A memory that has not grown over this is kept for the next picture. */
const SMALL_MEMORY_BYTES = 48 * 2 ** 20;

/** What pictures that are done with may take up until the next. */
const MOST_SPARE_BYTES = 96 * 2 ** 20;

/** A picture of a hand-off without what only names it. */
export type PictureAsked = Omit<Picture, 'program'>;

export const backgroundOf = (ground: string): Background => {
  if (ground === 'clear') return CLEAR;
  const [r, g, b] = srgbOfHex(ground).map((v) => Math.round(v * 255)) as [number, number, number];
  return { r, g, b, a: 255 };
};

/**
 * Renders frames of scenes, each with just the levels and chunks of art that it reads, held for as long as it is drawn.
 * A WebAssembly memory never shrinks: when nobody has drawn for a while, pool and memory are given up for new ones.
 */
export class FrameRenderer {
  readonly threads: number;
  private readonly open: () => Promise<RenderPool>;
  private readonly source: ArtSource;
  private pool: Promise<RenderPool> | null = null;
  private users = 0;
  private idle: ReturnType<typeof setTimeout> | undefined;
  private closed = false;
  private readonly spare: Uint8Array<ArrayBuffer>[] = [];

  /** `open` starts a pool of `threads` workers. */
  constructor(open: () => Promise<RenderPool>, threads: number, source: ArtSource) {
    this.open = open;
    this.threads = threads;
    this.source = source;
  }

  /** Keeps the pool while `work` runs, and names the plane whose art cannot be read: rejects with ArtMissing. */
  async withArt<T>(scene: Scene, work: () => Promise<T>): Promise<T> {
    return this.using(async () => {
      try {
        return await work();
      } catch (error) {
        if (!(error instanceof ArtUnreadable)) throw error;
        // The distances to an art's edge are made of the art itself.
        const unread = artOfEdge(error.artId)?.artId ?? error.artId;
        const plane = planesOf(scene).find(({ content }) =>
          shownArts(content).some(({ id }) => id === unread),
        );
        const name = plane?.name ?? error.artId;
        throw new ArtMissing(`The art of “${name}” cannot be read: ${error.message}`, { cause: error });
      }
    });
  }

  private async using<T>(work: (pool: RenderPool) => Promise<T>): Promise<T> {
    if (this.closed) throw new RenderPoolClosed('The renderer is closed');
    clearTimeout(this.idle);
    this.users += 1;
    try {
      return await work(await this.openPool());
    } finally {
      this.users -= 1;
      if (this.users === 0 && !this.closed) {
        this.idle = setTimeout(() => void this.giveBack(), IDLE_MS);
        this.idle.unref();
      }
    }
  }

  private openPool(): Promise<RenderPool> {
    const pool = this.pool ?? this.open();
    this.pool = pool;
    // One that could not be opened is tried again by the next who draws.
    pool.catch(() => {
      if (this.pool === pool) this.pool = null;
    });
    return pool;
  }

  private async giveBack(): Promise<void> {
    // Nothing of it may be in hand any more when garbage is collected, not even here.
    if (await this.closeIdlePool()) setTimeout(giveMemoryBack, SETTLE_MS).unref();
  }

  private async closeIdlePool(): Promise<boolean> {
    const { pool } = this;
    if (!pool || this.users > 0 || (await pool).heldBytes < SMALL_MEMORY_BYTES) return false;
    if (this.users > 0 || this.pool !== pool) return false;
    this.pool = null;
    this.spare.length = 0;
    await (await pool).close();
    return true;
  }

  /** The picture of layers with all their art, on so many threads. */
  private draw<F extends PixelFormat>(
    layers: readonly RenderLayer[],
    view: RenderView,
    format: F,
    split: number,
    options: RenderOptions,
  ): Promise<Rendered<F>> {
    return this.using(async (pool) => {
      const lease = await pool.lease(layers, view, (id) => this.source(id as ArtId), options.signal);
      try {
        return await pool.renderAs(lease.layers, view, format, split, options);
      } finally {
        lease.release();
      }
    });
  }

  /** One frame at `scale` of its output size; on one thread, or with its rows shared by all. */
  async render(
    scene: Scene,
    frame: number,
    background: Background,
    scale = 1,
    threads = 1,
  ): Promise<Raster<'premultiplied'>> {
    const view = viewOf(scene.frame, scaledSize(scene, scale), background);
    const layers = renderLayers(framePlan(scene, frame), view);
    const { widthPx, heightPx, data } = await this.draw(layers, view, 'premultiplied8', threads, {});
    return raster(widthPx, heightPx, 'premultiplied', data);
  }

  /** The picture of a plan, rounded once from the wide row, on one thread. */
  renderPicture(plan: FramePlan, picture: PictureAsked, options: RenderOptions = {}): Promise<Rendered> {
    const view = viewOf(plan, picture, backgroundOf(picture.ground));
    const layers = [
      ...renderLayers(plan, view),
      ...markLayers(picture.marks ?? [], view),
      ...wordLayers(picture.words, view),
    ];
    return this.draw(layers, view, picture.format, 1, options);
  }

  private drawRed(plan: FramePlan, size: Size, signal?: AbortSignal): Promise<Rendered<'red8'>> {
    const view = viewOf(plan, size, CLEAR);
    return this.draw(renderLayers(plan, view), view, 'red8', 1, { signal });
  }

  /**
   * The same for as long as `use` takes, or its pass: the memory of the picture is used again then, since fresh memory costs a good
   * part of what drawing costs.
   */
  async usePicture<T>(
    plan: FramePlan,
    picture: PictureAsked,
    use: (drawn: Drawn) => Promise<T>,
    signal?: AbortSignal,
  ): Promise<T> {
    const { pass } = picture;
    if (pass) {
      const { widthPx, heightPx } = picture;
      const size = { widthPx, heightPx };
      return use(await passPicture((of) => this.drawRed(of, size, signal), plan, pass, size));
    }
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

  async close(): Promise<void> {
    this.closed = true;
    clearTimeout(this.idle);
    await (await this.pool)?.close();
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
