/** Where a pen was, and when: seconds since it was put down. */
export interface PenSample {
  readonly seconds: number;
  readonly x: number;
  readonly y: number;
}

/**
 * A recorded gesture as one place a frame: `framesPerSecond` of the shot as it played (its own rate times the speed of
 * play), smoothed over time by a Gaussian of `smoothSeconds` (its standard deviation; 0 leaves it). The first place is
 * where the pen was put down. Samples must be in order of time.
 */
export function placesOfRide(
  samples: readonly PenSample[],
  framesPerSecond: number,
  smoothSeconds: number,
): { x: number[]; y: number[] } {
  const last = samples.at(-1);
  const count = last ? Math.max(1, Math.round(last.seconds * framesPerSecond) + 1) : 0;
  const raw = Array.from({ length: count }, (_, i) => placeAt(samples, i / framesPerSecond));
  const sigma = smoothSeconds * framesPerSecond;
  const smooth = (pick: (p: { x: number; y: number }) => number) => smoothed(raw.map(pick), sigma);
  return { x: smooth((p) => p.x), y: smooth((p) => p.y) };
}

function placeAt(samples: readonly PenSample[], seconds: number): { x: number; y: number } {
  const next = samples.findIndex((sample) => sample.seconds >= seconds);
  const to = samples[next] ?? samples.at(-1)!;
  const from = samples[Math.max(0, next - 1)] ?? to;
  const span = to.seconds - from.seconds;
  const share = next <= 0 || span <= 0 ? 1 : (seconds - from.seconds) / span;
  return { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share };
}

/** Gaussian over an odd extension about each end, so that the first and the last value stay what they are. */
function smoothed(values: readonly number[], sigma: number): number[] {
  if (!(sigma > 0) || values.length < 3) return [...values];
  const reach = Math.ceil(3 * sigma);
  const weights = Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((total, w) => total + w, 0);
  const end = values.length - 1;
  const at = (i: number): number => {
    if (i < 0) return 2 * values[0]! - values[Math.min(end, -i)]!;
    if (i > end) return 2 * values[end]! - values[Math.max(0, 2 * end - i)]!;
    return values[i]!;
  };
  return values.map((_, i) => weights.reduce((total, w, k) => total + w * at(i + k - reach), 0) / sum);
}
