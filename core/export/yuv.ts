/** ITU-R BT.709-6, item 3.2: luma weights. */
const [KR, KG, KB] = [0.2126, 0.7152, 0.0722];
/** Item 3.5, limited range at 8 bit: luma 16 to 235, chroma 16 to 240 about 128. */
const LUMA = { low: 16, span: 219 };
const CHROMA = { middle: 128, span: 224 };

export interface Planar420 {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Y plane, then U, then V, each of the last two half as wide and high. */
  readonly data: Uint8Array;
}

/**
 * Opaque RGBA to I420 by the matrix of BT.709 in limited range; odd sizes repeat their last column and row. Chroma is
 * the mean of four pixels.
 */
export function toI420(rgba: ArrayLike<number>, widthPx: number, heightPx: number): Planar420 {
  const [width, height] = [widthPx + (widthPx % 2), heightPx + (heightPx % 2)];
  const data = new Uint8Array((width * height * 3) / 2);
  const uAt = width * height;
  const vAt = uAt + uAt / 4;
  for (let y = 0; y < height; y += 2) {
    for (let x = 0; x < width; x += 2) {
      let [r, g, b] = [0, 0, 0];
      for (let k = 0; k < 4; k++) {
        const [px, py] = [x + (k & 1), y + (k >> 1)];
        const at = (Math.min(py, heightPx - 1) * widthPx + Math.min(px, widthPx - 1)) * 4;
        const [pr, pg, pb] = [rgba[at] as number, rgba[at + 1] as number, rgba[at + 2] as number];
        data[py * width + px] = Math.round(LUMA.low + ((KR * pr + KG * pg + KB * pb) * LUMA.span) / 255);
        r += pr;
        g += pg;
        b += pb;
      }
      const luma = KR * r + KG * g + KB * b;
      const at = (y / 2) * (width / 2) + x / 2;
      const chroma = (difference: number, weight: number) =>
        Math.round(CHROMA.middle + (difference * CHROMA.span) / (4 * 255 * 2 * (1 - weight)));
      data[uAt + at] = chroma(b - luma, KB);
      data[vAt + at] = chroma(r - luma, KR);
    }
  }
  return { widthPx: width, heightPx: height, data };
}
