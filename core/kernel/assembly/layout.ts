// Made from ../layer-layout.ts by `npm run layout`: change that.

export const LAYER_BYTES: usize = 144;
export const UPRIGHT: i32 = 0;
export const TURNED: i32 = 1;
export const PATHS: i32 = 2;
export const TILE: i32 = 32;
export const SQUARE: i32 = 32;
export const WIDE: i32 = 1024;
export const LOW: i32 = 8;
export const PHASES: i32 = 1024;
export const PHASE_BITS: i32 = 10;
export const MOST_TAPS: i32 = 16;
export const MOST_ROWS: i32 = 112;
@inline export function uPerX(l: usize): f64 { return load<f64>(l, 0); }
@inline export function vPerX(l: usize): f64 { return load<f64>(l, 8); }
@inline export function uPerY(l: usize): f64 { return load<f64>(l, 16); }
@inline export function vPerY(l: usize): f64 { return load<f64>(l, 24); }
@inline export function uAtOrigin(l: usize): f64 { return load<f64>(l, 32); }
@inline export function vAtOrigin(l: usize): f64 { return load<f64>(l, 40); }
@inline export function opacityQ15(l: usize): i32 { return load<i32>(l, 72); }
@inline export function kind(l: usize): i32 { return load<i32>(l, 76); }
@inline export function gather(l: usize): usize { return <usize>load<u32>(l, 80); }
@inline export function setGather(l: usize, value: usize): void { store<u32>(l, <u32>value, 80); }
@inline export function hasApart(l: usize): bool { return load<i32>(l, 84) != 0; }
@inline export function setHasApart(l: usize, value: bool): void { store<i32>(l, value ? 1 : 0, 84); }
@inline export function spans(l: usize): usize { return <usize>load<u32>(l, 96); }
@inline export function setSpans(l: usize, value: usize): void { store<u32>(l, <u32>value, 96); }
@inline export function spanCount(l: usize): i32 { return load<i32>(l, 100); }
@inline export function setSpanCount(l: usize, value: i32): void { store<i32>(l, value, 100); }
@inline export function marks(l: usize): i32 { return load<i32>(l, 116); }
@inline export function secondQ15(l: usize): i32 { return load<i32>(l, 120); }
@inline export function lookFrom(l: usize): usize { return <usize>load<u32>(l, 124); }
@inline export function pixels(l: usize): usize { return <usize>load<u32>(l, 48); }
@inline export function strideBytes(l: usize): i32 { return load<i32>(l, 52); }
@inline export function widthPx(l: usize): i32 { return load<i32>(l, 56); }
@inline export function heightPx(l: usize): i32 { return load<i32>(l, 60); }
@inline export function tiles(l: usize): usize { return <usize>load<u32>(l, 64); }
@inline export function tileColumns(l: usize): i32 { return load<i32>(l, 68); }
@inline export function tapsU(l: usize): i32 { return load<i32>(l, 88); }
@inline export function tapsV(l: usize): i32 { return load<i32>(l, 92); }
@inline export function filterU(l: usize): usize { return <usize>load<u32>(l, 104); }
@inline export function filterV(l: usize): usize { return <usize>load<u32>(l, 108); }
@inline export function softGain(l: usize): f64 { return <f64>load<f32>(l, 112); }
@inline export function left(l: usize): f64 { return <f64>load<f32>(l, 128); }
@inline export function right(l: usize): f64 { return <f64>load<f32>(l, 132); }
@inline export function top(l: usize): f64 { return <f64>load<f32>(l, 136); }
@inline export function bottom(l: usize): f64 { return <f64>load<f32>(l, 140); }
@inline export function edgesFrom(l: usize): usize { return <usize>load<u32>(l, 48); }
@inline export function edgeCount(l: usize): i32 { return load<i32>(l, 52); }
@inline export function boundLeft(l: usize): i32 { return load<i32>(l, 56); }
@inline export function boundRight(l: usize): i32 { return load<i32>(l, 60); }
@inline export function rampFrom(l: usize): usize { return <usize>load<u32>(l, 64); }
@inline export function rampLength(l: usize): i32 { return load<i32>(l, 68); }
@inline export function boundTop(l: usize): i32 { return load<i32>(l, 104); }
@inline export function boundBottom(l: usize): i32 { return load<i32>(l, 108); }
@inline export function isRadial(l: usize): bool { return load<i32>(l, 112) != 0; }
@inline export function repeatsX(l: usize): bool { return (marks(l) & 1) != 0; }
@inline export function repeatsY(l: usize): bool { return (marks(l) & 2) != 0; }
@inline export function isSecond(l: usize): bool { return (marks(l) & 4) != 0; }
@inline export function alongRows(l: usize): bool { return (marks(l) & 16) != 0; }
@inline export function isWide(l: usize): bool { return (marks(l) & 32) != 0; }
@inline export function mode(l: usize): i32 { return (marks(l) >> 8) & 15; }
@inline export function channel(l: usize): i32 { return (marks(l) >> 12) & 3; }
export const MODE_PAINT: i32 = 0;
export const MODE_MULTIPLY: i32 = 1;
export const MODE_SCREEN: i32 = 2;
export const MODE_OVERLAY: i32 = 3;
export const MODE_DARKEN: i32 = 4;
export const MODE_LIGHTEN: i32 = 5;
export const MODE_COLOR_DODGE: i32 = 6;
export const MODE_COLOR_BURN: i32 = 7;
export const MODE_HARD_LIGHT: i32 = 8;
export const MODE_SOFT_LIGHT: i32 = 9;
export const MODE_DIFFERENCE: i32 = 10;
export const MODE_EXCLUSION: i32 = 11;
export const MODE_PLUS_LIGHTER: i32 = 12;
export const MODE_WITHIN: i32 = 13;
export const LOOK_PARTS: usize = 36;
export const LOOK_VIGNETTE: usize = 40;
export const LOOK_BYTES: usize = 64;
export const HAS_MATRIX: i32 = 1;
export const HAS_CURVE: i32 = 2;
export const HAS_VIGNETTE: i32 = 4;
