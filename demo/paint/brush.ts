import type { Canvas, Colour } from './canvas.ts';
import { between, layeredNoise, type Random, seeded, valueNoise } from './random.ts';

export interface BrushPass {
  /** Length and width of a stroke, px. */
  readonly length: number;
  readonly width: number;
  /** Strokes a patch of `length × width` gets, on average. */
  readonly cover: number;
  readonly opacity: number;
  /** How far the colour of a stroke strays, 0 to 1. */
  readonly stray: number;
  /** Direction in degrees at a place of the painting. */
  readonly direction: (x: number, y: number) => number;
  /** How far the direction strays, degrees. */
  readonly wander: number;
}

/** Noise changes slowly against this many px, so it is worked out on a grid and read between. */
const GRID_PX = 5;

/** `reach · noise(x / scale, y / scale)` over a canvas, as a function of whole px. */
function displacement(
  canvas: Canvas,
  seed: number,
  reach: number,
  scale: number,
): (x: number, y: number) => number {
  const noise = layeredNoise(seed, 3);
  const columns = Math.ceil(canvas.width / GRID_PX) + 2;
  const rows = Math.ceil(canvas.height / GRID_PX) + 2;
  const grid = Float32Array.from({ length: columns * rows }, (_, i) => {
    const [x, y] = [(i % columns) * GRID_PX, Math.floor(i / columns) * GRID_PX];
    return reach * noise(x / scale, y / scale);
  });
  return (x, y) => {
    const [column, row] = [Math.floor(x / GRID_PX), Math.floor(y / GRID_PX)];
    const [u, v] = [x / GRID_PX - column, y / GRID_PX - row];
    const at = row * columns + column;
    const top = (grid[at] as number) * (1 - u) + (grid[at + 1] as number) * u;
    const bottom = (grid[at + columns] as number) * (1 - u) + (grid[at + columns + 1] as number) * u;
    return top * (1 - v) + bottom * v;
  };
}

/** Makes edges look cut by a hand: every pixel is taken from a little way off. */
export function loosenEdges(canvas: Canvas, seed: number, reach: number, scale: number): Canvas {
  const dx = displacement(canvas, seed, reach, scale);
  const dy = displacement(canvas, seed + 7, reach, scale);
  const data = new Float32Array(canvas.data.length);
  for (let y = 0; y < canvas.height; y++) {
    for (let x = 0; x < canvas.width; x++) {
      const fromX = clamp(Math.round(x + dx(x, y)), canvas.width);
      const fromY = clamp(Math.round(y + dy(x, y)), canvas.height);
      const [to, from] = [(y * canvas.width + x) * 4, (fromY * canvas.width + fromX) * 4];
      for (let c = 0; c < 4; c++) data[to + c] = canvas.data[from + c] as number;
    }
  }
  return { ...canvas, data };
}

const clamp = (value: number, size: number): number => Math.max(0, Math.min(size - 1, value));

/**
 * Paints over a picture with bristled strokes that take their colour from it, coarse passes first. Alpha is left
 * alone: the silhouette is the drawing's, the surface is the brush's.
 */
export function brushOver(canvas: Canvas, seed: number, passes: readonly BrushPass[]): Canvas {
  const random = seeded(seed);
  const out: Canvas = { ...canvas, data: canvas.data.slice() };
  const bristles = valueNoise(seed + 3);
  for (const pass of passes) {
    const count = Math.round((canvas.width * canvas.height * pass.cover) / (pass.length * pass.width));
    for (let i = 0; i < count; i++) {
      const x = random() * canvas.width;
      const y = random() * canvas.height;
      const colour = takeColour(canvas, x, y, pass.stray, random);
      if (!colour) continue;
      const degrees = pass.direction(x + canvas.x, y + canvas.y) + between(random, -pass.wander, pass.wander);
      const size = between(random, 0.6, 1.3);
      stroke(
        out,
        x,
        y,
        { ...pass, length: pass.length * size, width: pass.width * size },
        degrees,
        colour,
        random() * 500,
        bristles,
      );
    }
  }
  return out;
}

function takeColour(canvas: Canvas, x: number, y: number, stray: number, random: Random): Colour | null {
  const at = (Math.floor(y) * canvas.width + Math.floor(x)) * 4;
  if ((canvas.data[at + 3] as number) < 60) return null;
  const light = 1 + stray * (random() - 0.5);
  const warmth = stray * (random() - 0.5) * 26;
  const [r, g, b] = [canvas.data[at] as number, canvas.data[at + 1] as number, canvas.data[at + 2] as number];
  return [r * light + warmth, g * light, b * light - warmth];
}

function stroke(
  out: Canvas,
  cx: number,
  cy: number,
  pass: BrushPass,
  degrees: number,
  colour: Colour,
  grain: number,
  bristles: (x: number, y: number) => number,
): void {
  const angle = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [half, across] = [pass.length / 2, pass.width / 2];
  const reachX = Math.abs(cos) * half + Math.abs(sin) * across + 1;
  const reachY = Math.abs(sin) * half + Math.abs(cos) * across + 1;
  const x1 = Math.min(out.width - 1, Math.ceil(cx + reachX));
  const y1 = Math.min(out.height - 1, Math.ceil(cy + reachY));
  for (let y = Math.max(0, Math.floor(cy - reachY)); y <= y1; y++) {
    for (let x = Math.max(0, Math.floor(cx - reachX)); x <= x1; x++) {
      const along = ((x - cx) * cos + (y - cy) * sin) / half;
      const over = ((y - cy) * cos - (x - cx) * sin) / across;
      if (along < -1 || along > 1 || over < -1 || over > 1) continue;
      const hair = bristles(over * across * 0.55 + grain, along * 1.7 + grain);
      const ends = 1 - Math.max(0, Math.abs(along) - 0.55 + hair * 0.25) * 2.2;
      const sides = 1 - over * over * over * over;
      const alpha = pass.opacity * Math.max(0, Math.min(1, ends)) * sides * (0.72 + 0.28 * hair);
      if (alpha <= 0.01) continue;
      const at = (y * out.width + x) * 4;
      for (let c = 0; c < 3; c++) {
        const value = out.data[at + c] as number;
        out.data[at + c] = value + ((colour[c] as number) - value) * alpha;
      }
    }
  }
}
