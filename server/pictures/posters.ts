import { BLACK } from '@keen-ridge/core/picture';
import type { ArtRef, Scene } from '@keen-ridge/core/scene';
import { LRUCache } from 'lru-cache';
import sharp, { type Sharp } from 'sharp';
import { readArt } from '../db/art.ts';
import type { Database } from '../db/connection/queryable.ts';
import { readSetUp } from '../db/shots.ts';
import { notFound } from '../faults/problems.ts';
import type { FrameRenderer } from './frame-renderer.ts';

const POSTER_WIDTH_PX = 640;
const THUMBNAIL_WIDTH_PX = 112;
const PREVIEW_PX = 900;
const KEPT = 200;

/** Small pictures of shots and planes, kept while the server runs. */
export class Posters {
  private readonly db: Database;
  private readonly renderer: FrameRenderer;
  private readonly kept = new LRUCache<string, Promise<Uint8Array>>({ max: KEPT });

  constructor(db: Database, renderer: FrameRenderer) {
    this.db = db;
    this.renderer = renderer;
  }

  /** The middle frame of a shot as PNG. */
  async ofShot(shotId: string): Promise<Uint8Array> {
    const { scene, revision } = await readSetUp(this.db, shotId);
    return this.keep(`${shotId}/${revision}`, () => this.middleOf(scene, POSTER_WIDTH_PX));
  }

  /** The middle frame of a shot as it was right after a revision, which `read` gives, small, as PNG. */
  ofPoint(shotId: string, revision: number, read: () => Promise<Scene>): Promise<Uint8Array> {
    return this.keep(`${shotId}/${revision}/small`, async () =>
      this.middleOf(await read(), THUMBNAIL_WIDTH_PX),
    );
  }

  private middleOf(scene: Scene, wantedWidthPx: number): Promise<Uint8Array> {
    return this.renderer.withArt(scene, async () => {
      const frame = Math.ceil(scene.lengthFrames / 2);
      const scale = Math.min(1, wantedWidthPx / scene.frame.widthPx);
      const {
        data,
        widthPx: width,
        heightPx: height,
      } = await this.renderer.render(scene, frame, BLACK, scale, this.renderer.threads);
      return sharp(data, { raw: { width, height, channels: 4 } })
        .removeAlpha()
        .png({ compressionLevel: 6 })
        .toBuffer();
    });
  }

  /** An image as PNG: `small`, its painted part for a row of a list; `large`, the whole of it to look at. */
  ofArt(artId: string, size: 'small' | 'large'): Promise<Uint8Array> {
    return this.keep(`${artId}/${size}`, async () => {
      const stored = await readArt(this.db, artId);
      if (!stored) throw notFound('This art');
      const image = sharp(stored.png, { limitInputPixels: false });
      if (size === 'large')
        return image
          .resize(PREVIEW_PX, PREVIEW_PX, { fit: 'inside', withoutEnlargement: true })
          .png({ compressionLevel: 3 })
          .toBuffer();
      return cropToPaint(image, stored.facts)
        .resize(THUMBNAIL_WIDTH_PX, (THUMBNAIL_WIDTH_PX * 9) / 16, { fit: 'cover', position: 'attention' })
        .png()
        .toBuffer();
    });
  }

  private keep(key: string, make: () => Promise<Uint8Array>): Promise<Uint8Array> {
    const there = this.kept.get(key);
    if (there) return there;
    const made = make();
    this.kept.set(key, made);
    made.catch(() => this.kept.delete(key));
    return made;
  }
}

function cropToPaint(image: Sharp, { painted }: ArtRef): Sharp {
  if (!painted) return image;
  const { x0: left, y0: top, x1, y1 } = painted;
  return image.extract({ left, top, width: x1 - left, height: y1 - top });
}
