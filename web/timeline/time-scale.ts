/** Frames along the strip: the first and last a little in from the ends, so that their keys can be grasped. */
export interface TimeScale {
  readonly xAt: (frame: number) => number;
  /** Nearest whole frame. */
  readonly frameAt: (x: number) => number;
  readonly pxPerFrame: number;
  /** Whole frames that are seen, a little more to either side. */
  readonly first: number;
  readonly last: number;
}

/** Which part of the shot the strip shows: `zoom` 1 shows all of it, from the frame `start` on. */
export interface StripWindow {
  readonly zoom: number;
  readonly start: number;
}

export const WHOLE_STRIP: StripWindow = { zoom: 1, start: 1 };
/** Room at the ends: a key there can be grasped on both sides, and a box be begun beside it. */
const INSET_PX = 14;
const MOST_PX_PER_FRAME = 60;

export function timeScale(
  lengthFrames: number,
  widthPx: number,
  window: StripWindow = WHOLE_STRIP,
): TimeScale {
  const steps = Math.max(1, lengthFrames - 1);
  const room = Math.max(1, widthPx - 2 * INSET_PX);
  const pxPerFrame = (room / steps) * window.zoom;
  return {
    xAt: (frame) => INSET_PX + (frame - window.start) * pxPerFrame,
    frameAt: (x) => Math.round(window.start + (x - INSET_PX) / pxPerFrame),
    pxPerFrame,
    first: Math.floor(window.start - INSET_PX / pxPerFrame) - 1,
    last: Math.ceil(window.start + (widthPx - INSET_PX) / pxPerFrame) + 1,
  };
}

/** The window zoomed by `factor` about a place of the strip, which stays where it is; never past the ends of the shot. */
export function zoomedWindow(
  window: StripWindow,
  lengthFrames: number,
  widthPx: number,
  factor: number,
  aboutX: number,
): StripWindow {
  const steps = Math.max(1, lengthFrames - 1);
  const most = Math.max(1, (MOST_PX_PER_FRAME * steps) / Math.max(1, widthPx - 2 * INSET_PX));
  const zoom = Math.min(most, Math.max(1, window.zoom * factor));
  const about = timeScale(lengthFrames, widthPx, window);
  const frame = window.start + (aboutX - INSET_PX) / about.pxPerFrame;
  const start = frame - (aboutX - INSET_PX) / timeScale(lengthFrames, widthPx, { zoom, start: 1 }).pxPerFrame;
  return keptWindow({ zoom, start }, lengthFrames);
}

/** The window slid by so many frames. */
export const slidWindow = (window: StripWindow, lengthFrames: number, byFrames: number): StripWindow =>
  keptWindow({ ...window, start: window.start + byFrames }, lengthFrames);

function keptWindow({ zoom, start }: StripWindow, lengthFrames: number): StripWindow {
  const shown = Math.max(1, lengthFrames - 1) / zoom;
  return { zoom, start: Math.max(1, Math.min(lengthFrames - shown, start)) };
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

/** How far to either side of a key it can be grasped, px. */
export interface Grasp {
  readonly left: number;
  readonly right: number;
}

/** Px to either side of a key that it can be grasped by: a target of 24 px where there is room. */
const GRASP = { least: 7, most: 12 } as const;
/** Px of a span between two keys that stay its own. */
const SPAN_PX = 10;

/** How far to the left and right of each frame (ascending) its key can be grasped, px; spans between keep some room. */
export function graspsOf(frames: readonly number[], pxPerFrame: number): readonly Grasp[] {
  const reach = (gapFrames: number) =>
    Math.min(GRASP.most, Math.max(GRASP.least, (gapFrames * pxPerFrame - SPAN_PX) / 2));
  return frames.map((frame, i) => ({
    left: reach(frame - (frames[i - 1] ?? Number.NEGATIVE_INFINITY)),
    right: reach((frames[i + 1] ?? Number.POSITIVE_INFINITY) - frame),
  }));
}
