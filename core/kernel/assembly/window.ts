import { loadPixels } from './lanes';

/** Texels of a window along each side; a row of it takes 2⁹ bytes. */
export const WINDOW: i32 = 64;
export const WINDOW_SHIFT: i32 = 9;
export const WINDOW_PITCH: usize = 512;
/** Bytes of a window with what a vector may write past its last row. */
export const WINDOW_BYTES: usize = <usize>WINDOW * WINDOW_PITCH + 64;
/** Bytes before a window for what it is stepped through with. */
export const BEFORE_WINDOW: usize = 96;

/**
 * Texels as lanes, `columns` × `rows` from `from` on, to `window`; up to three past the last column come along. They are
 * read in one go, many at once from far memory, where stepping through them would wait for each line of it.
 */
export function fillWindow(window: usize, from: usize, stride: usize, columns: i32, rows: i32): void {
  touch(window, from, stride, columns, rows);
  const bytes = <usize>columns << 3;
  for (let row = 0; row < rows; row++) {
    const end = window + bytes;
    for (let to = window, texels = from; to < end; to += 32, texels += 16) {
      v128.store(to, loadPixels(texels));
      v128.store(to, loadPixels(texels + 8), 16);
    }
    from += stride;
    window += WINDOW_PITCH;
  }
}

/** Reads one texel of every 64 bytes: what little work there is in between lets more of these wait side by side. */
function touch(window: usize, from: usize, stride: usize, columns: i32, rows: i32): void {
  const bytes = <usize>columns << 2;
  let sum = 0;
  for (let row = 0; row < rows; row++, from += stride)
    for (let at: usize = 0; at < bytes; at += 64) sum += load<i32>(from + at);
  // Stored, so that no compiler finds the reading to be for nothing.
  store<i32>(window, sum);
}
