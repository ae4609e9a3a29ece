import { memo, type Rational, rationalToNumber, seededRandom } from '../../units/index.ts';

export const SWAY_AXES = ['panX', 'panY', 'truck', 'roll'] as const;
export type SwayAxis = (typeof SWAY_AXES)[number];

/** A seeded drift on top of a finished move. About 1 to 2 Hz and 1 % of the frame's width is usual (common practice). */
export interface Sway {
  readonly on: boolean;
  /** Largest that it moves to either side: stage px, and degrees for roll. */
  readonly amplitude: Readonly<Record<SwayAxis, number>>;
  /** Highest frequency in it; the lowest is a quarter of that. */
  readonly frequencyHz: number;
  readonly seed: number;
  /** Frames over which it comes in from the first frame and goes out to the last. */
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
  /** Frame N + 1 is frame 1: every part of it turns a whole number of times over the shot. */
  readonly loops: boolean;
}

const PARTS = 7;
const SLOWEST = 0.25;

interface Wave {
  readonly hz: number;
  readonly phase: number;
  readonly share: number;
}

/** The waves of a sway by axis and length, as far as they were asked for. */
const wavesBySway = memo((_sway: Sway): Map<string, readonly Wave[]> => new Map());

/** Sines of frequencies from a quarter of the highest to the highest, with seeded phases, slower ones stronger. */
function wavesOf(sway: Sway, axis: SwayAxis, seconds: number): readonly Wave[] {
  const known = wavesBySway(sway);
  const name = `${axis}/${seconds}`;
  const there = known.get(name);
  if (there) return there;
  const random = seededRandom(sway.seed * 4 + SWAY_AXES.indexOf(axis));
  const raw = Array.from({ length: PARTS }, (_, i) => {
    const wanted = sway.frequencyHz * (SLOWEST + (1 - SLOWEST) * ((i + random()) / PARTS));
    const turns = Math.max(1, Math.floor(wanted * seconds));
    const hz = sway.loops ? turns / seconds : wanted;
    return { hz, phase: random() * 2 * Math.PI, share: 1 / hz };
  });
  const sum = raw.reduce((total, wave) => total + wave.share, 0);
  const made = raw.map((wave) => ({ ...wave, share: wave.share / sum }));
  known.set(name, made);
  return made;
}

/**
 * How far the sway is from the move on one axis at `frame` (may be fractional), in the axis' unit; never more than its
 * amplitude. `lengthFrames` is that of the shot.
 */
export function swayAt(
  sway: Sway,
  axis: SwayAxis,
  frame: number,
  lengthFrames: number,
  rate: Rational,
): number {
  const amplitude = sway.amplitude[axis];
  if (!sway.on || amplitude === 0) return 0;
  const framesPerSecond = rationalToNumber(rate);
  const seconds = (frame - 1) / framesPerSecond;
  const drift = wavesOf(sway, axis, lengthFrames / framesPerSecond).reduce(
    (sum, { hz, phase, share }) => sum + share * Math.sin(2 * Math.PI * hz * seconds + phase),
    0,
  );
  return amplitude * drift * fadeAt(sway, frame, lengthFrames);
}

function fadeAt({ fadeInFrames, fadeOutFrames }: Sway, frame: number, lengthFrames: number): number {
  const share = (passed: number, all: number) => (all <= 0 ? 1 : smoothStep(passed / all));
  return share(frame - 1, fadeInFrames) * share(lengthFrames - frame, fadeOutFrames);
}

/** 0 to 1 with level ends: 3t² − 2t³. */
export function smoothStep(t: number): number {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
}
