import type { BlendMode } from '../paint/index.ts';
import type { NotKept } from './not-kept.ts';

/** How a layer is laid over, and what of it is not as the document has it. */
export interface ModeRead {
  readonly mode: BlendMode;
  readonly notKept: NotKept['code'] | null;
}

const AS_PAINT: ModeRead = { mode: 'paint', notKept: null };
const same = (mode: BlendMode): ModeRead => ({ mode, notKept: null });
const nearly = (mode: BlendMode): ModeRead => ({ mode, notKept: 'blend-mode-nearly' });
const LOST: ModeRead = { mode: 'paint', notKept: 'blend-mode' };

/** composite-op of OpenRaster 0.0.5, which are those of W3C compositing; exclusion is not among them, but read where written. */
const OPEN_RASTER: Readonly<Record<string, ModeRead>> = {
  'svg:src-over': AS_PAINT,
  'svg:multiply': same('multiply'),
  'svg:screen': same('screen'),
  'svg:overlay': same('overlay'),
  'svg:darken': same('darken'),
  'svg:lighten': same('lighten'),
  'svg:color-dodge': same('color-dodge'),
  'svg:color-burn': same('color-burn'),
  'svg:hard-light': same('hard-light'),
  'svg:soft-light': same('soft-light'),
  'svg:difference': same('difference'),
  'svg:exclusion': same('exclusion'),
  'svg:plus': same('plus-lighter'),
};

/**
 * Names of the reader of layered PSDs. Soft light takes the root of dark backdrops too, and what is added is clipped before
 * its alpha is taken (from memory): those two are nearly the same.
 */
const LAYERED: Readonly<Record<string, ModeRead>> = {
  normal: AS_PAINT,
  'pass through': AS_PAINT,
  multiply: same('multiply'),
  screen: same('screen'),
  overlay: same('overlay'),
  darken: same('darken'),
  lighten: same('lighten'),
  'color dodge': same('color-dodge'),
  'color burn': same('color-burn'),
  'hard light': same('hard-light'),
  'soft light': nearly('soft-light'),
  difference: same('difference'),
  exclusion: same('exclusion'),
  'linear dodge': nearly('plus-lighter'),
};

export const modeOfOpenRaster = (name: string): ModeRead =>
  (Object.hasOwn(OPEN_RASTER, name) && OPEN_RASTER[name]) || LOST;

export const modeOfLayered = (name: string): ModeRead =>
  (Object.hasOwn(LAYERED, name) && LAYERED[name]) || LOST;
