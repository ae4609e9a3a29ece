import type { Affine } from '@keen-ridge/core/geometry';
import { artsDrawn, renderLayers } from '@keen-ridge/core/picture';
import { type RenderPool, RenderPoolClosed, RenderWorkerLost } from '@keen-ridge/core/pool';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { CameraPose } from '@keen-ridge/core/stage';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { reasonOf } from '@keen-ridge/core/units';
import { mayPass } from '../../api/client.ts';
import { pictureWords as say } from '../../words/picture.ts';
import { streamSource } from './art-loader.ts';
import { sharedPool } from './browser-pool.ts';
import { FrameCache } from './frame-cache.ts';

export interface PictureRequest {
  readonly scene: Scene;
  readonly frame: number;
  /** Where it is seen from, if not through the shot's own camera. */
  readonly pose?: CameraPose | undefined;
  /** More of the same will follow at once, however long this one takes: no picture of it is the one that rests. */
  readonly moving?: boolean;
  readonly widthPx: number;
  readonly heightPx: number;
  /** Frame px to picture px at full resolution. */
  readonly frameToImage: Affine;
  /** Grey laid under the stage, 8-bit. */
  readonly grey: number;
  /** Never at less than full quality, however long it takes. */
  readonly exact?: boolean;
}

export interface RendererEvents {
  readonly onState: (state: PictureState) => void;
  /** A picture at full quality was put on the canvas; `whole`: with all of its art. */
  readonly onDrawn?: (frame: number, whole: boolean) => void;
  /** Which frames are rendered ahead. */
  readonly onCached?: (frames: ReadonlySet<number>) => void;
}

/** What frames rendered ahead may take up in this browser. */
const CACHE_BYTES = 600 * 2 ** 20;

export type PictureState =
  | { readonly kind: 'loading'; readonly done: number; readonly total: number }
  | { readonly kind: 'ready' }
  | { readonly kind: 'failed'; readonly reason: string };

/** Longest that a picture may take while things move, ms; past it the resolution drops until they rest. */
const MOVING_BUDGET_MS = 34;
const SETTLE_MS = 140;
/** What could not be fetched is asked for again after so long. */
const RETRY_MS = 2000;
const SCALES = [1, 0.75, 0.5, 0.35, 0.25] as const;
/** A finer picture is tried again when it should take less than this share of the longest time. */
const EASY = 0.6;

/**
 * The live picture: renders the newest request on a worker pool, never queues older ones, draws at lower resolution
 * while the picture moves faster than it can be rendered, and settles to full quality when it rests.
 */
export class PictureRenderer {
  private pool: RenderPool | null = null;
  private opening: Promise<RenderPool>;
  private readonly canvas: HTMLCanvasElement;
  private readonly events: RendererEvents;
  /** Null where nobody plays from it. */
  private readonly cache: FrameCache | null;
  private ahead: readonly number[] = [];
  private wanted: PictureRequest | null = null;
  private rendering = false;
  private drawn: PictureRequest | null = null;
  private drawnScaleIndex = 0;
  private closed = false;
  /** Everything that the scene shows has been opened. */
  private loaded = false;
  private scaleIndex = 0;
  /** Something could not be had, and no whole picture has been drawn since. */
  private faulty = false;
  /** What was loaded last. */
  private shown: Scene | null = null;
  private retry: ReturnType<typeof setTimeout> | undefined;
  private lastRequestAt = 0;
  private settle: ReturnType<typeof setTimeout> | undefined;
  /** The pixels of a picture that nobody keeps, for the next one of its size. */
  private spare: ImageData | null = null;

  constructor(canvas: HTMLCanvasElement, events: RendererEvents) {
    this.canvas = canvas;
    this.events = events;
    this.cache = events.onCached ? new FrameCache(CACHE_BYTES, events.onCached) : null;
    this.opening = this.opened(sharedPool.take());
  }

  private opened(opening: Promise<RenderPool>): Promise<RenderPool> {
    opening.then(
      (pool) => {
        this.pool = pool;
      },
      (error: unknown) => this.failed(error),
    );
    return opening;
  }

  /** Loads what the scene shows and is not there yet; the picture fills in as images come. */
  load(scene: Scene): Promise<void> {
    this.shown = scene;
    this.faulty = false;
    clearTimeout(this.retry);
    return this.openImages(scene);
  }

  private async openImages(scene: Scene): Promise<void> {
    // A fault stands until there is a picture again.
    const tell = (state: PictureState) => {
      if (!this.faulty) this.events.onState(state);
    };
    try {
      const pool = await this.opening;
      const shown = planesOf(scene).filter((plane) => !plane.hidden);
      const missing = artsDrawn(shown).filter((id) => !pool.has(id));
      let done = 0;
      this.loaded = false;
      if (missing.length > 0) {
        this.canvas.dataset.art = 'loading';
        tell({ kind: 'loading', done, total: missing.length });
      }
      await Promise.all(
        missing.map(async (id) => {
          await pool.openStream(id, streamSource(id));
          done += 1;
          tell({ kind: 'loading', done, total: missing.length });
          this.again();
        }),
      );
      if (this.shown !== scene) return;
      this.loaded = true;
      // Each image has asked for a picture with it: what may begin now is to render ahead.
      void this.run();
      tell({ kind: 'ready' });
    } catch (error) {
      if (this.shown === scene) this.failed(error);
    }
  }

  request(request: PictureRequest): void {
    const now = performance.now();
    if (this.cache && this.showCached(this.cache, request)) return;
    const moving = !request.exact && (request.moving || now - this.lastRequestAt < SETTLE_MS);
    this.lastRequestAt = now;
    if (!moving) this.scaleIndex = 0;
    this.wanted = request;
    this.canvas.dataset.resting = 'false';
    clearTimeout(this.settle);
    if (request.moving) {
      void this.run();
      return;
    }
    this.settle = setTimeout(() => {
      this.scaleIndex = 0;
      void this.run();
    }, SETTLE_MS);
    void this.run();
  }

  /** Puts a frame on the canvas that was rendered before; false where it was not. */
  private showCached(cache: FrameCache, request: PictureRequest): boolean {
    if (request.moving || request.pose) return false;
    cache.use(cacheKey(request));
    const image = cache.get(request.frame);
    if (!image) return false;
    clearTimeout(this.settle);
    this.wanted = request;
    this.drawn = request;
    this.drawnScaleIndex = 0;
    this.scaleIndex = 0;
    this.put(image, request.frame);
    // Only pictures that lack nothing are kept.
    this.canvas.dataset.art = 'ready';
    this.events.onDrawn?.(request.frame, true);
    this.canvas.dataset.resting = String(!this.rendering);
    return true;
  }

  private put(image: ImageData, frame: number): void {
    if (this.canvas.width !== image.width || this.canvas.height !== image.height) {
      this.canvas.width = image.width;
      this.canvas.height = image.height;
    }
    // Nothing is drawn on it but whole pictures: it need not live on the graphics side.
    this.canvas.getContext('2d', { alpha: false, willReadFrequently: true })?.putImageData(image, 0, 0);
    this.canvas.dataset.frame = String(frame);
  }

  /** Renders these frames ahead while nothing else is wanted; none ends it. */
  renderAhead(frames: readonly number[]): void {
    this.ahead = frames;
    void this.run();
  }

  /** The next frame to render ahead: not there yet, and with room for it. */
  private nextAhead(): PictureRequest | null {
    const { cache, wanted } = this;
    if (!cache || !wanted || wanted.pose || wanted.moving || !this.loaded) return null;
    const frame = this.ahead.find((f) => !cache.has(f));
    if (frame === undefined || !cache.hasRoomFor(wanted.widthPx, wanted.heightPx)) return null;
    return { ...wanted, frame };
  }

  private readonly onArrival = (): void => {
    if (!this.closed) this.again();
  };

  /** Draws the same once more, since more of its art has come. */
  private again(): void {
    if (this.wanted) this.wanted = { ...this.wanted };
    void this.run();
  }

  /** Alpha of an art pixel, for choosing planes in the picture. */
  alphaAt(artId: string, x: number, y: number): number {
    return this.pool?.alphaAt(artId, x, y) ?? 0;
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.settle);
    clearTimeout(this.retry);
    sharedPool.giveBack();
  }

  private async run(): Promise<void> {
    if (this.rendering) return;
    this.rendering = true;
    try {
      const pool = await this.opening;
      while (!this.closed && (await this.step(pool)));
    } catch (error) {
      this.failed(error);
    } finally {
      this.rendering = false;
      this.canvas.dataset.resting = String(!this.isBehind && this.drawnScaleIndex === 0);
    }
  }

  /** Draws what is wanted, or a frame ahead; false when there is nothing left to do. */
  private async step(pool: RenderPool): Promise<boolean> {
    if (this.wanted && this.isBehind) {
      this.drawn = this.wanted;
      this.drawnScaleIndex = this.scaleIndex;
      await this.draw(pool, this.wanted, SCALES[this.scaleIndex] ?? 1);
      return true;
    }
    const next = this.nextAhead();
    if (!next) return false;
    const { image, complete } = await this.render(pool, next, 1);
    if (complete) this.keep(next, image);
    // What was missing is on its way, and asks for more when it has come.
    return complete;
  }

  /** Something newer is wanted, or the same at full quality. A lower quality is only for what comes next. */
  private get isBehind(): boolean {
    return this.wanted !== this.drawn || (this.scaleIndex === 0 && this.drawnScaleIndex !== 0);
  }

  private async render(pool: RenderPool, request: PictureRequest, scale: number) {
    const widthPx = Math.max(1, Math.round(request.widthPx * scale));
    const heightPx = Math.max(1, Math.round(request.heightPx * scale));
    const [kx, ky] = [widthPx / request.widthPx, heightPx / request.heightPx];
    const { a, b, c, d, e, f } = request.frameToImage;
    const frameToImage = { a: a * kx, b: b * ky, c: c * kx, d: d * ky, e: e * kx, f: f * ky };
    const { grey } = request;
    const view = { widthPx, heightPx, frameToImage, background: { r: grey, g: grey, b: grey, a: 255 } };
    const wanted = renderLayers(framePlan(request.scene, request.frame, request.pose), view);
    // As it is now: of what comes while it is rendered nothing is in it.
    const { layers, complete } = pool.prepare(wanted, view, {
      onArrival: this.onArrival,
      onFault: (error) => this.failed(error),
    });
    const image = this.blank(widthPx, heightPx);
    await pool.render(layers, view, pool.size, { into: new Uint8Array(image.data.buffer) });
    return { image, complete };
  }

  private blank(widthPx: number, heightPx: number): ImageData {
    const { spare } = this;
    this.spare = null;
    return spare?.width === widthPx && spare.height === heightPx ? spare : new ImageData(widthPx, heightPx);
  }

  private async draw(pool: RenderPool, request: PictureRequest, scale: number): Promise<void> {
    const before = performance.now();
    const { image, complete } = await this.render(pool, request, scale);
    const took = performance.now() - before;
    if (this.closed) return;
    const kept = complete && scale === 1 && !request.moving && this.keep(request, image);
    if (!kept) this.spare = image;
    // A newer one was shown meanwhile, as it had been rendered ahead.
    if (this.drawn !== request) return;
    this.put(image, request.frame);
    this.canvas.dataset.art = complete ? 'ready' : 'loading';
    if (complete && this.faulty) {
      this.faulty = false;
      this.events.onState({ kind: 'ready' });
    }
    if (scale === 1) this.events.onDrawn?.(request.frame, complete);
    // Once things rest, a slow picture is no reason to lower the next one: nothing would raise it again.
    if (request.exact) this.scaleIndex = 0;
    else if (request.moving || performance.now() - this.lastRequestAt < SETTLE_MS)
      this.scaleIndex = nextScale(this.scaleIndex, took, request.moving === true);
  }

  /** Puts a picture among those rendered ahead; false where it is of no use there. */
  private keep(request: PictureRequest, image: ImageData): boolean {
    if (!this.cache || request.pose || this.closed) return false;
    const newest = this.wanted ?? request;
    // What is wanted may have changed while this was rendered.
    if (!cacheKey(newest).every((part, i) => Object.is(part, cacheKey(request)[i]))) return false;
    this.cache.use(cacheKey(request));
    this.cache.put(request.frame, image);
    return true;
  }

  /** Says what went wrong, and tries again: what could not be had now may be in a moment. */
  private failed(error: unknown): void {
    if (this.closed || error instanceof RenderPoolClosed) return;
    this.faulty = true;
    const again = mayPass(error) || error instanceof RenderWorkerLost;
    // What will never come is no reason to give up what may.
    if (again) {
      clearTimeout(this.retry);
      this.retry = setTimeout(this.tryAgain, RETRY_MS);
    }
    const why = reasonOf(error);
    this.events.onState({ kind: 'failed', reason: again ? say.tryingAgain(why) : why });
  }

  private readonly tryAgain = (): void => {
    if (!this.pool) this.opening = this.opened(sharedPool.again());
    if (this.shown) void this.openImages(this.shown);
    // What could not be had may be a part of an image that is open.
    this.again();
  };
}

/** All that decides a picture beside its frame. */
const cacheKey = ({
  scene,
  widthPx,
  heightPx,
  frameToImage: m,
  grey,
}: PictureRequest): readonly unknown[] => [scene, widthPx, heightPx, grey, m.a, m.d, m.e, m.f];

/**
 * The scale for the next picture, as an index: time goes with the area. Straight down to one that should be fast
 * enough; up by one step, in what goes on for long, when that should be easy.
 */
export function nextScale(index: number, tookMs: number, mayRise: boolean): number {
  const at = (i: number) => SCALES[i] ?? SCALES[SCALES.length - 1]!;
  const expected = (i: number) => tookMs * (at(i) / at(index)) ** 2;
  if (tookMs > MOVING_BUDGET_MS) {
    const fast = SCALES.findIndex((_, i) => i > index && expected(i) <= MOVING_BUDGET_MS);
    return fast === -1 ? SCALES.length - 1 : fast;
  }
  return mayRise && index > 0 && expected(index - 1) < EASY * MOVING_BUDGET_MS ? index - 1 : index;
}
