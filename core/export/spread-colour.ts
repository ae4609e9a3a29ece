/** How far colour is spread, px: chroma of 4:2:0 stands for two px and is stretched over two more. */
const SPREAD_PX = 4;

const CLEAR = 0;
const KNOWN = 1;
/** Clear, and among those that get their colour next. */
const NEXT = 2;

/**
 * Gives clear pixels of straight RGBA, in place, the mean colour of those beside them that have one, four px outward,
 * their alpha kept. A film that shares chroma among pixels would else take black from under them into the edges of the
 * paint.
 */
export function spreadUnderClear(rgba: Uint8Array, widthPx: number, heightPx: number): void {
  const state = new Uint8Array(widthPx * heightPx);
  for (let i = 0; i < state.length; i++) if (rgba[4 * i + 3] !== 0) state[i] = KNOWN;
  let edge: number[] = [];
  for (let i = 0; i < state.length; i++)
    if (state[i] === KNOWN) edge = clearBeside(state, i, widthPx, heightPx, edge);
  for (let round = 0; round < SPREAD_PX && edge.length > 0; round++) {
    for (const i of edge) takeMean(rgba, state, i, widthPx, heightPx);
    // Not before the round is over: what is spread goes outward evenly.
    for (const i of edge) state[i] = KNOWN;
    let next: number[] = [];
    for (const i of edge) next = clearBeside(state, i, widthPx, heightPx, next);
    edge = next;
  }
}

/** Adds the clear pixels beside one to a list, each once. */
function clearBeside(
  state: Uint8Array,
  i: number,
  widthPx: number,
  heightPx: number,
  list: number[],
): number[] {
  const x = i % widthPx;
  const add = (k: number) => {
    if (state[k] !== CLEAR) return;
    state[k] = NEXT;
    list.push(k);
  };
  if (x > 0) add(i - 1);
  if (x < widthPx - 1) add(i + 1);
  if (i >= widthPx) add(i - widthPx);
  if (i < widthPx * (heightPx - 1)) add(i + widthPx);
  return list;
}

function takeMean(rgba: Uint8Array, state: Uint8Array, i: number, widthPx: number, heightPx: number): void {
  const x = i % widthPx;
  const y = (i - x) / widthPx;
  let [r, g, b, n] = [0, 0, 0, 0];
  for (let ny = Math.max(0, y - 1); ny <= Math.min(heightPx - 1, y + 1); ny++)
    for (let nx = Math.max(0, x - 1); nx <= Math.min(widthPx - 1, x + 1); nx++) {
      const k = ny * widthPx + nx;
      if (state[k] !== KNOWN) continue;
      r += rgba[4 * k]!;
      g += rgba[4 * k + 1]!;
      b += rgba[4 * k + 2]!;
      n += 1;
    }
  rgba[4 * i] = Math.round(r / n);
  rgba[4 * i + 1] = Math.round(g / n);
  rgba[4 * i + 2] = Math.round(b / n);
}
