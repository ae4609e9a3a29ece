/** Where something is amiss over the shot: first, worst and last frame, and how bad it is at its worst. */
export interface Amiss {
  readonly firstFrame: number;
  readonly worstFrame: number;
  readonly lastFrame: number;
  readonly measured: number;
}

/** The frames whose value is over what is allowed; null where none is. `values`: one a frame, NaN and less do not count. */
export function amissWhere(values: ArrayLike<number>, over: number): Amiss | null {
  let [firstFrame, worstFrame, lastFrame] = [0, 0, 0];
  let measured = over;
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (!(value > over)) continue;
    firstFrame ||= i + 1;
    lastFrame = i + 1;
    if (worstFrame === 0 || value > measured) [worstFrame, measured] = [i + 1, value];
  }
  return worstFrame === 0 ? null : { firstFrame, worstFrame, lastFrame, measured };
}
