import type { Plane } from '@keen-ridge/core/scene';
import { CanvasTexture, SRGBColorSpace, type Texture, TextureLoader } from 'three';
import { cssOfPaint } from '../../planes/plane-thumbnail.tsx';

const DRAWN_PX = 512;

/** The pictures on the cards: previews from the server for images, drawn here for cards and shapes. */
export class CardTextures {
  private readonly loader = new TextureLoader();
  private readonly images = new Map<string, Texture>();
  private readonly drawn = new WeakMap<Plane['content'], Texture>();
  private readonly alphas = new WeakMap<Texture, ImageData>();
  private readonly onLoad: () => void;

  constructor(onLoad: () => void) {
    this.onLoad = onLoad;
  }

  of(plane: Plane, artId: string | null): Texture | null {
    return artId ? this.image(artId) : this.drawing(plane);
  }

  private image(artId: string): Texture {
    const there = this.images.get(artId);
    if (there) return there;
    const texture = this.loader.load(`/api/art/${artId}/preview`, this.onLoad);
    texture.colorSpace = SRGBColorSpace;
    this.images.set(artId, texture);
    return texture;
  }

  private drawing({ content }: Plane): Texture | null {
    if (content.kind !== 'card' && content.kind !== 'shapes') return null;
    const there = this.drawn.get(content);
    if (there) return there;
    const canvas = document.createElement('canvas');
    const share = DRAWN_PX / Math.max(content.widthPx, content.heightPx);
    canvas.width = Math.max(1, Math.round(content.widthPx * share));
    canvas.height = Math.max(1, Math.round(content.heightPx * share));
    const context = canvas.getContext('2d');
    if (!context) return null;
    context.scale(share, share);
    if (content.kind === 'card') {
      context.fillStyle = fillOf(context, content.paint, content.heightPx);
      context.fillRect(0, 0, content.widthPx, content.heightPx);
    } else {
      for (const { path, paint } of content.shapes.toReversed()) {
        context.fillStyle = fillOf(context, paint, content.heightPx);
        context.fill(new Path2D(path));
      }
    }
    const texture = new CanvasTexture(canvas);
    texture.colorSpace = SRGBColorSpace;
    this.drawn.set(content, texture);
    return texture;
  }

  /** Whether the picture has paint at a point of it, 0 to 1, Y up; true while that is not known. */
  hasPaintAt(texture: Texture | null, u: number, v: number): boolean {
    if (!texture) return true;
    const alphas = this.alphas.get(texture) ?? readAlphas(texture);
    if (!alphas) return true;
    this.alphas.set(texture, alphas);
    const { width, height, data } = alphas;
    const x = Math.min(width - 1, Math.max(0, Math.floor(u * width)));
    const y = Math.min(height - 1, Math.max(0, Math.floor((1 - v) * height)));
    return (data[(y * width + x) * 4 + 3] as number) > CLICKABLE_ALPHA;
  }

  dispose(): void {
    for (const texture of this.images.values()) texture.dispose();
    this.images.clear();
  }
}

const CLICKABLE_ALPHA = 20;

function readAlphas({ image }: Texture): ImageData | null {
  if (!(image instanceof HTMLImageElement || image instanceof HTMLCanvasElement) || image.width === 0)
    return null;
  const canvas = document.createElement('canvas');
  canvas.width = image.width;
  canvas.height = image.height;
  const context = canvas.getContext('2d');
  context?.drawImage(image, 0, 0);
  return context?.getImageData(0, 0, canvas.width, canvas.height) ?? null;
}

type Paint = Extract<Plane['content'], { kind: 'card' }>['paint'];

/** Near enough for a small card seen from the side: gradients run from top to bottom. */
function fillOf(context: CanvasRenderingContext2D, paint: Paint, heightPx: number): string | CanvasGradient {
  if (paint.kind === 'solid') return cssOfPaint(paint);
  const gradient = context.createLinearGradient(0, 0, 0, heightPx);
  for (const { at, colour, opacity } of paint.stops)
    gradient.addColorStop(at, cssOfPaint({ kind: 'solid', colour, opacity }));
  return gradient;
}
