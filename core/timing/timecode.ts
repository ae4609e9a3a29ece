import { type Rational, rationalToNumber } from '../units/index.ts';

/** Whether labels of this rate can drop frames so that they keep with the clock: 30000/1001 and 60000/1001. */
export const canDrop = ({ num, den }: Rational): boolean =>
  den === 1001 && (num === 30_000 || num === 60_000);

/**
 * The time address of a frame, frame 1 being 00:00:00:00. Counts whole frames at the rate rounded up to whole frames a
 * second. With `drop` (where it can), labels 00 and 01 (00 to 03 at 60) are left out at the start of every minute but
 * each tenth, and the last sign is a semicolon: SMPTE ST 12-1, drop-frame compensation (rule from memory; the labels of
 * the tests are the published ones of its time address).
 */
export function timecodeLabel(frame: number, rate: Rational, drop: boolean): string {
  const perSecond = Math.round(rationalToNumber(rate));
  const dropping = drop && canDrop(rate);
  const count = Math.max(0, Math.floor(frame) - 1);
  const label = dropping ? withDropped(count, perSecond) : count;
  const two = (n: number) => String(n).padStart(2, '0');
  const seconds = Math.floor(label / perSecond);
  const parts = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60].map(two).join(':');
  return `${parts}${dropping ? ';' : ':'}${two(label % perSecond)}`;
}

function withDropped(count: number, perSecond: number): number {
  const dropped = perSecond / 15;
  const minute = perSecond * 60 - dropped;
  const tenMinutes = minute * 10 + dropped;
  const [tens, rest] = [Math.floor(count / tenMinutes), count % tenMinutes];
  const minutes = rest < perSecond * 60 ? 0 : 1 + Math.floor((rest - perSecond * 60) / minute);
  return count + dropped * (9 * tens + minutes);
}
