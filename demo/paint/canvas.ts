import { type Raster, raster } from '@keen-ridge/core/image';
import sharp from 'sharp';

/** The whole painting, in px; its centre is what the home camera looks at. */
export const PAINTING = { widthPx: 3200, heightPx: 1240 } as const;

export type Colour = readonly [number, number, number];

/** A piece of the painting while it is worked on: straight RGBA, 0 to 255, floats. */
export interface Canvas {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

export interface Area {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Draws shapes given as SVG in painting coordinates. */
export async function drawShapes(area: Area, shapes: string, defs = ''): Promise<Canvas> {
  const { x, y, width, height } = area;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${x} ${y} ${width} ${height}"><defs>${defs}</defs>${shapes}</svg>`;
  const bytes = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer();
  return { ...area, data: Float32Array.from(bytes) };
}

export function toRaster(canvas: Canvas): Raster<'straight'> {
  const out = raster(canvas.width, canvas.height, 'straight');
  for (let i = 0; i < canvas.data.length; i++) {
    out.data[i] = Math.max(0, Math.min(255, Math.round(canvas.data[i] as number)));
  }
  return out;
}

/** Lays `colour` over pixel `at` with `alpha` in [0, 1]; clear pixels take it on. */
export function layOver(data: Float32Array, at: number, colour: Colour, alpha: number): void {
  const below = (data[at + 3] as number) / 255;
  const out = alpha + below * (1 - alpha);
  if (out <= 0) return;
  for (let c = 0; c < 3; c++) {
    data[at + c] = ((colour[c] as number) * alpha + (data[at + c] as number) * below * (1 - alpha)) / out;
  }
  data[at + 3] = out * 255;
}

/** Visits the pixels within `radius` of a light, with the distance as a share of it. */
function within(
  canvas: Canvas,
  cx: number,
  cy: number,
  radius: number,
  squash: number,
  visit: (at: number, distance: number) => void,
): void {
  const x0 = Math.max(0, Math.floor(cx - radius - canvas.x));
  const x1 = Math.min(canvas.width, Math.ceil(cx + radius - canvas.x));
  const y0 = Math.max(0, Math.floor(cy - radius * squash - canvas.y));
  const y1 = Math.min(canvas.height, Math.ceil(cy + radius * squash - canvas.y));
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const distance = Math.hypot(x + canvas.x - cx, (y + canvas.y - cy) / squash) / radius;
      if (distance < 1) visit((y * canvas.width + x) * 4, distance);
    }
  }
}

/** A soft pool of light: strongest at its heart, falling off like a lamp in mist. */
export function glow(
  canvas: Canvas,
  cx: number,
  cy: number,
  radius: number,
  colour: Colour,
  strength: number,
  squash = 1,
): void {
  within(canvas, cx, cy, radius, squash, (at, distance) => {
    layOver(canvas.data, at, colour, (strength * (1 - distance) ** 2) / (1 + 6 * distance * distance));
  });
}

/** Light that falls only on what is painted: warms and brightens, leaves alpha alone. */
export function lightOn(
  canvas: Canvas,
  cx: number,
  cy: number,
  radius: number,
  colour: Colour,
  strength: number,
  squash = 1,
): void {
  const { data } = canvas;
  const tints = colour.map((own) => ({ kept: 0.35 + 2.1 * (own / 255) ** 1.5, own: 0.16 * own }));
  within(canvas, cx, cy, radius, squash, (at, distance) => {
    const fall = strength * (1 - distance) ** 2;
    tints.forEach(({ kept, own }, c) => {
      const value = data[at + c] as number;
      data[at + c] = value + (Math.min(250, value * kept + own) - value) * fall;
    });
  });
}
