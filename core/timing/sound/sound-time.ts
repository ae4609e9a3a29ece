import { type Rational, rationalToNumber } from '../../units/index.ts';

/** How far into a sound a frame begins, seconds; negative before it, where `startFrame` is the frame that it begins with. */
export const secondsIntoSound = (startFrame: number, frame: number, rate: Rational): number =>
  (frame - startFrame) / rationalToNumber(rate);

/**
 * The loudest of a sound in each of so many columns, 0 to 1, from `from` to `to` (seconds into it). `peaks`: 0 to 255,
 * `perSecond` of them in a second. Outside the sound it is silent.
 */
export function waveColumns(
  peaks: Uint8Array,
  perSecond: number,
  { from, to, columns }: { readonly from: number; readonly to: number; readonly columns: number },
): Float32Array {
  const wave = new Float32Array(columns);
  const step = ((to - from) / columns) * perSecond;
  for (let column = 0; column < columns; column++) {
    const begin = from * perSecond + column * step;
    const last = Math.min(peaks.length, Math.max(Math.floor(begin) + 1, Math.ceil(begin + step)));
    let most = 0;
    for (let at = Math.max(0, Math.floor(begin)); at < last; at++) if (peaks[at]! > most) most = peaks[at]!;
    wave[column] = most / 255;
  }
  return wave;
}
