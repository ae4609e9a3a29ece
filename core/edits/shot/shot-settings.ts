import type { Scene } from '../../scene/index.ts';
import type { Rational } from '../../units/index.ts';

/** Keys past the end stay where they are: lengthening the shot brings them back. */
export const setShotLength = (scene: Scene, lengthFrames: number): Scene => ({ ...scene, lengthFrames });

/** Keeps every frame number: the shot plays faster or slower. */
export const setRate = (scene: Scene, rate: Rational): Scene => ({
  ...scene,
  rate: { num: rate.num, den: rate.den },
});

/** The stage and the home distance stay: a wider frame sees more of the same stage. */
export const setFrameSize = (scene: Scene, widthPx: number, heightPx: number): Scene => ({
  ...scene,
  frame: { widthPx, heightPx },
});
