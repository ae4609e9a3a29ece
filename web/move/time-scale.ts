/** Frames along the strip: the first and last a little in from the ends, so that their keys can be grasped. */
export interface TimeScale {
  readonly xAt: (frame: number) => number;
  /** Nearest whole frame. */
  readonly frameAt: (x: number) => number;
  readonly pxPerFrame: number;
}

const INSET_PX = 10;

export function timeScale(lengthFrames: number, widthPx: number): TimeScale {
  const steps = Math.max(1, lengthFrames - 1);
  const pxPerFrame = Math.max(1, widthPx - 2 * INSET_PX) / steps;
  return {
    xAt: (frame) => INSET_PX + (frame - 1) * pxPerFrame,
    frameAt: (x) => Math.round(1 + (x - INSET_PX) / pxPerFrame),
    pxPerFrame,
  };
}

const STEPS = [1, 2, 4, 6, 12, 24, 48, 96, 120, 240, 480, 960, 2400, 4800, 9600, 24_000] as const;

/** Frames between marks that stand at least `leastPx` apart; whole seconds first. */
export function markStep(framesPerSecond: number, pxPerFrame: number, leastPx: number): number {
  const second = Math.max(1, Math.round(framesPerSecond));
  const candidates = [...STEPS, second, second * 2, second * 5, second * 10, second * 30, second * 60].sort(
    (p, q) => p - q,
  );
  return (
    candidates.find((step) => step * pxPerFrame >= leastPx && (step % second === 0 || second % step === 0)) ??
    second * 60
  );
}
