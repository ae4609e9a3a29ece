// One entry of the layer table, written by ../layer-table.ts. Source coordinates count from the middle of the first texel of
// the level: texel i covers [i − ½, i + ½).

import { lookFrom, mode, PHASES, secondQ15 } from './layout';

export * from './layout';

/** Whether its source row must be made first and worked on, before it is laid over. */
@inline export function isWorkedOn(l: usize): bool { return (secondQ15(l) | <i32>lookFrom(l) | mode(l)) != 0; }

/** Place of the texel, in phases, that lies at `at`; as a float, since it may be far off. */
@inline export function inPhases(at: f64): f64 {
  return Math.floor(at * PHASES + 0.5);
}

@inline export function wrapped(index: i32, size: i32): i32 {
  const rest = index % size;
  return rest < 0 ? rest + size : rest;
}
@inline export function clamped(index: i32, size: i32): i32 {
  return max(0, min(index, size - 1));
}

/** Share of a px at `at`, `step` texels wide, that lies between `first` and `last`; as coverage() of ../../picture/filter/filter.ts. */
@inline export function shareOf(at: f64, step: f64, first: f64, last: f64): f64 {
  const low = at + 0.5 - 0.5 * step;
  const high = at + 0.5 + 0.5 * step;
  // Said apart, since the quotient may fall short of 1 by rounding.
  if (low >= first && high <= last) return 1;
  return max(0, min(1, (min(high, last) - max(low, first)) / step));
}
