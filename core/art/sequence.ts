/** Files whose names differ only in a number: the frames of one moving plane. */
export interface Sequence {
  readonly stem: string;
  /** In order of number. */
  readonly indices: readonly number[];
}

const FEWEST = 3;

/**
 * Finds numbered sequences among file names: the same text round one last number, at least three of them, numbers
 * without gaps. `wave_0001.png … wave_0008.png` is one; `layer1.png, layer7.png` is not.
 */
export function findSequences(names: readonly string[]): Sequence[] {
  const stems = new Map<string, { index: number; number: number }[]>();
  names.forEach((name, index) => {
    const match = /^(.*?)(\d+)(\.[^.]*)?$/.exec(name);
    if (!match) return;
    const key = `${match[1]}\0${match[3] ?? ''}`;
    stems.set(key, [...(stems.get(key) ?? []), { index, number: Number(match[2]) }]);
  });
  return [...stems]
    .map(([key, found]) => ({ key, found: found.toSorted((p, q) => p.number - q.number) }))
    .filter(
      ({ found }) =>
        found.length >= FEWEST && found.every((f, i) => f.number === (found[0]?.number ?? 0) + i),
    )
    .map(({ key, found }) => ({
      stem: (key.split('\0')[0] ?? '').replace(/^.*[/\\]/, '').replace(/[-_. ]+$/, '') || 'Sequence',
      indices: found.map(({ index }) => index),
    }));
}

/**
 * Holds in frames of the shot for delays in ms: the running time is rounded, not each delay, so that nothing drifts;
 * every picture shows for at least one frame.
 */
export function holdsOfDelays(delaysMs: readonly number[], rate: { num: number; den: number }): number[] {
  const framesAt = (ms: number) => Math.round((ms * rate.num) / (1000 * rate.den));
  let [time, shown] = [0, 0];
  return delaysMs.map((delay) => {
    time += delay;
    const hold = Math.max(1, framesAt(time) - shown);
    shown += hold;
    return hold;
  });
}
