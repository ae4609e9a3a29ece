/**
 * The least and the most of some numbers, however many there are: as arguments of one call (`Math.min(...values)`) some
 * hundred thousand run out of stack. Of none it is [Infinity, −Infinity], as of Math.min and Math.max.
 */
export function extentOf(values: Iterable<number>): readonly [least: number, most: number] {
  let [least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of values) {
    if (value < least) least = value;
    if (value > most) most = value;
  }
  return [least, most];
}
