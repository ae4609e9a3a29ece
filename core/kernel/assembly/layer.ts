// One entry of the layer table, written by ../layer-table.ts, which owns the layout. Offsets in bytes.
// Source coordinates count texels of the bordered level: u in [0, w + 1) touches paint or its clear border.

@inline export function uPerX(l: usize): f64 { return load<f64>(l); }
@inline export function vPerX(l: usize): f64 { return load<f64>(l, 8); }
@inline export function uPerY(l: usize): f64 { return load<f64>(l, 16); }
@inline export function vPerY(l: usize): f64 { return load<f64>(l, 24); }
@inline export function uAtOrigin(l: usize): f64 { return load<f64>(l, 32); }
@inline export function vAtOrigin(l: usize): f64 { return load<f64>(l, 40); }
@inline export function pixels(l: usize): usize { return <usize>load<u32>(l, 48); }
@inline export function strideBytes(l: usize): i32 { return load<i32>(l, 52); }
@inline export function widthPx(l: usize): i32 { return load<i32>(l, 56); }
@inline export function heightPx(l: usize): i32 { return load<i32>(l, 60); }
@inline export function tiles(l: usize): usize { return <usize>load<u32>(l, 64); }
@inline export function tileColumns(l: usize): i32 { return load<i32>(l, 68); }
@inline export function opacityQ15(l: usize): i32 { return load<i32>(l, 72); }
@inline export function kind(l: usize): i32 { return load<i32>(l, 76); }
export const UNROLLED: i32 = 0;
export const ROLLED: i32 = 1;
export const PATHS: i32 = 2;
/** Turned, and tiled or much reduced: read texel by texel. */
export const SCATTERED: i32 = 3;
@inline export function repeatsX(l: usize): bool { return (load<i32>(l, 116) & 1) != 0; }
@inline export function repeatsY(l: usize): bool { return (load<i32>(l, 116) & 2) != 0; }
/** The coarser level of the entry before, which mixes it in: not drawn by itself. */
@inline export function isSecond(l: usize): bool { return (load<i32>(l, 116) & 4) != 0; }
@inline export function screens(l: usize): bool { return (load<i32>(l, 116) & 8) != 0; }
/** Share of the entry that follows, 0 for none. */
@inline export function secondQ15(l: usize): i32 { return load<i32>(l, 120); }
/** Place of the look from the start of the table, 0 for none. */
@inline export function lookFrom(l: usize): usize { return <usize>load<u32>(l, 124); }
/** Whether its source row must be made first and worked on, before it is laid over. */
@inline export function isWorkedOn(l: usize): bool { return (load<i32>(l, 120) | load<i32>(l, 124)) != 0 || screens(l); }
/** Coordinate `at` of the bordered level brought into [1, size + 1): the copy that is stored. */
@inline export function comeRound(at: f64, size: i32): f64 {
  const period = <f64>size;
  const round = at - 1 - Math.floor((at - 1) / period) * period;
  return round < period ? round + 1 : 1;
}
// Filled in by the kernel.
@inline export function gather(l: usize): usize { return <usize>load<u32>(l, 80); }
@inline export function hasApart(l: usize): bool { return load<i32>(l, 84) != 0; }
@inline export function spans(l: usize): usize { return <usize>load<u32>(l, 96); }
@inline export function spanCount(l: usize): i32 { return load<i32>(l, 100); }
@inline export function setGather(l: usize, at: usize, anyApart: bool): void {
  store<u32>(l, <u32>at, 80);
  store<i32>(l, anyApart ? 1 : 0, 84);
}
@inline export function setSpans(l: usize, at: usize): void { store<u32>(l, <u32>at, 96); }
@inline export function setSpanCount(l: usize, count: i32): void { store<i32>(l, count, 100); }

// A layer of paths: the map leads to the plane of its gradient; edges and ramp lie behind the entries of the table,
// so their places count from its start.
@inline export function edgesFrom(l: usize): usize { return <usize>load<u32>(l, 48); }
@inline export function edgeCount(l: usize): i32 { return load<i32>(l, 52); }
@inline export function boundLeft(l: usize): i32 { return load<i32>(l, 56); }
@inline export function boundRight(l: usize): i32 { return load<i32>(l, 60); }
@inline export function rampFrom(l: usize): usize { return <usize>load<u32>(l, 64); }
@inline export function rampLength(l: usize): i32 { return load<i32>(l, 68); }
@inline export function boundTop(l: usize): i32 { return load<i32>(l, 104); }
@inline export function boundBottom(l: usize): i32 { return load<i32>(l, 108); }
@inline export function isRadial(l: usize): bool { return load<i32>(l, 112) != 0; }

export const LAYER_BYTES: usize = 128;
