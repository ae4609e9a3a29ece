/** What assembly/kernel.ts exports; addresses are bytes in the shared memory. */
export interface KernelExports {
  renderRows(
    layers: number,
    count: number,
    scratch: number,
    out: number,
    widthPx: number,
    heightPx: number,
    background: number,
    dither: number,
    format: number,
    stop: number,
    taken: number,
  ): void;
  blurAcross(
    from: number,
    to: number,
    widthPx: number,
    heightPx: number,
    weights: number,
    radius: number,
    room: number,
  ): void;
  blurDown(
    from: number,
    to: number,
    widthPx: number,
    heightPx: number,
    strideBytes: number,
    weights: number,
    radius: number,
    room: number,
  ): void;
  blurDisc(
    from: number,
    to: number,
    widthPx: number,
    heightPx: number,
    strideBytes: number,
    spans: number,
    radius: number,
    scale: number,
    room: number,
  ): void;
  copyRows(from: number, to: number, widthPx: number, heightPx: number, strideBytes: number): void;
  mapTiles(pixels: number, strideBytes: number, widthPx: number, heightPx: number, tiles: number): void;
}
