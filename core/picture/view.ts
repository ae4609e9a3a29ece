import type { Affine } from '../geometry/index.ts';

/** Premultiplied 8-bit RGBA laid under everything. */
export interface Background {
  readonly r: number;
  readonly g: number;
  readonly b: number;
  readonly a: number;
}

export const CLEAR: Background = { r: 0, g: 0, b: 0, a: 0 };

export const BLACK: Background = { r: 0, g: 0, b: 0, a: 255 };

/** The window that a plan is rendered through. */
export interface RenderView {
  readonly widthPx: number;
  readonly heightPx: number;
  /** From the plan's frame px to this image's px. */
  readonly frameToImage: Affine;
  readonly background: Background;
}
