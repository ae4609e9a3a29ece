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
    topPx: number,
    bottomPx: number,
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
    leftPx: number,
    columns: number,
    topPx: number,
    bottomPx: number,
  ): void;
  copyRows(
    from: number,
    to: number,
    widthPx: number,
    heightPx: number,
    apartBytes: number,
    strideBytes: number,
  ): void;
  mapTiles(
    pixels: number,
    strideBytes: number,
    widthPx: number,
    heightPx: number,
    tiles: number,
    tilesApart: number,
  ): void;
  coverTiles(layers: number, count: number, widthPx: number, heightPx: number, covered: number): void;
}
