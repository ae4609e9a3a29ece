/** One scale of the picture that is filled: colours, what may be copied from, and what is to be filled. */
export interface FillLevel {
  readonly width: number;
  readonly height: number;
  /** RGB, three values a pixel. */
  readonly colour: Float32Array;
  /** 1 where the picture is known. */
  readonly known: Uint8Array;
  /** 1 where it is to be filled. */
  readonly hole: Uint8Array;
}

/**
 * The next coarser level: the mean of the known of each four pixels. A pixel is known only where all of the four are,
 * and a hole where any is, so that nothing of the hole leaks into what may be copied.
 */
export function coarser(level: FillLevel): FillLevel {
  const [width, height] = [Math.ceil(level.width / 2), Math.ceil(level.height / 2)];
  const out: FillLevel = {
    width,
    height,
    colour: new Float32Array(width * height * 3),
    known: new Uint8Array(width * height),
    hole: new Uint8Array(width * height),
  };
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) meanOfFour(level, out, x, y);
  }
  return out;
}

function meanOfFour(level: FillLevel, out: FillLevel, x: number, y: number): void {
  const to = y * out.width + x;
  let [count, all, hole] = [0, 1, 0];
  let [red, green, blue] = [0, 0, 0];
  for (let v = 2 * y; v <= Math.min(2 * y + 1, level.height - 1); v++) {
    for (let u = 2 * x; u <= Math.min(2 * x + 1, level.width - 1); u++) {
      const from = v * level.width + u;
      if (level.hole[from] === 1) hole = 1;
      if (level.known[from] === 0) {
        all = 0;
        continue;
      }
      count += 1;
      red += level.colour[from * 3] as number;
      green += level.colour[from * 3 + 1] as number;
      blue += level.colour[from * 3 + 2] as number;
    }
  }
  const of = Math.max(1, count);
  out.colour[to * 3] = red / of;
  out.colour[to * 3 + 1] = green / of;
  out.colour[to * 3 + 2] = blue / of;
  out.hole[to] = hole;
  out.known[to] = all === 1 && count > 0 ? 1 : 0;
}

/** Fills the hole with the means of what surrounds it, from its rim inwards: a start for the search. */
export function fillSmoothly({ width, height, colour, known, hole }: FillLevel): void {
  const done = known.slice();
  let open = [...hole.keys()].filter((i) => hole[i] === 1 && done[i] === 0);
  while (open.length > 0) {
    const settled: { at: number; mean: [number, number, number] }[] = [];
    for (const at of open) {
      const [x, y] = [at % width, Math.floor(at / width)];
      const mean: [number, number, number] = [0, 0, 0];
      let count = 0;
      for (const [dx, dy] of [
        [-1, 0],
        [1, 0],
        [0, -1],
        [0, 1],
      ] as const) {
        const [u, v] = [x + dx, y + dy];
        if (u < 0 || v < 0 || u >= width || v >= height || done[v * width + u] === 0) continue;
        count += 1;
        for (let c = 0; c < 3; c++)
          mean[c] = (mean[c] as number) + (colour[(v * width + u) * 3 + c] as number);
      }
      if (count > 0) settled.push({ at, mean: mean.map((v) => v / count) as [number, number, number] });
    }
    if (settled.length === 0) return;
    for (const { at, mean } of settled) {
      colour.set(mean, at * 3);
      done[at] = 1;
    }
    open = open.filter((at) => done[at] === 0);
  }
}
