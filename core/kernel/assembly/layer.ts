// One entry of the layer table, written by ../layer-table.ts. Source coordinates count texels of the bordered level: u in
// [0, w + 1) touches paint or its clear border.

import { lookFrom, screens, secondQ15 } from './layout';

export * from './layout';

/** Whether its source row must be made first and worked on, before it is laid over. */
@inline export function isWorkedOn(l: usize): bool { return (secondQ15(l) | <i32>lookFrom(l)) != 0 || screens(l); }
/** Coordinate `at` of the bordered level brought into [1, size + 1): the copy that is stored. */
@inline export function comeRound(at: f64, size: i32): f64 {
  const period = <f64>size;
  const round = at - 1 - Math.floor((at - 1) / period) * period;
  return round < period ? round + 1 : 1;
}
