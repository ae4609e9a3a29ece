/**
 * What a render gives back, RGBA; `red8` is red alone, premultiplied, a byte a px. Straight ones are rounded once, from the wide row in which planes add up; `lanes15` are that
 * row itself (0 to 32 640, premultiplied), from which groups are made.
 */
export const PIXEL_FORMATS = ['premultiplied8', 'straight8', 'straight16', 'lanes15', 'red8'] as const;

export type PixelFormat = (typeof PIXEL_FORMATS)[number];

const isWide = (format: PixelFormat): boolean => format === 'straight16' || format === 'lanes15';

export const bytesPerPixel = (format: PixelFormat): number =>
  isWide(format) ? 8 : format === 'red8' ? 1 : 4;

/** Pixels of one rendered image. */
export type Rendered<F extends PixelFormat = PixelFormat> = F extends 'straight16' | 'lanes15'
  ? { readonly format: F; readonly widthPx: number; readonly heightPx: number; readonly data: Uint16Array }
  : { readonly format: F; readonly widthPx: number; readonly heightPx: number; readonly data: Uint8Array };

/** A copy of the pixels that lie in the memory, in `into` (of just that many bytes) where it is given. */
export function renderedAt<F extends PixelFormat>(
  buffer: ArrayBufferLike,
  at: number,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  format: F,
  into = new Uint8Array(widthPx * heightPx * bytesPerPixel(format)),
): Rendered<F> {
  into.set(new Uint8Array(buffer, at, into.byteLength));
  const data = isWide(format) ? new Uint16Array(into.buffer, into.byteOffset, into.byteLength / 2) : into;
  return { format, widthPx, heightPx, data } as Rendered<F>;
}
