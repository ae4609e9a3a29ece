import type { BlendMode } from '@keen-ridge/core/paint';

/** How a plane is laid over what is behind it, in words. */
export const MODE_WORDS: Readonly<Record<BlendMode, string>> = {
  paint: 'paint',
  multiply: 'multiply',
  screen: 'screen',
  overlay: 'overlay',
  darken: 'darken',
  lighten: 'lighten',
  'color-dodge': 'color dodge',
  'color-burn': 'color burn',
  'hard-light': 'hard light',
  'soft-light': 'soft light',
  difference: 'difference',
  exclusion: 'exclusion',
  'plus-lighter': 'added light',
};
