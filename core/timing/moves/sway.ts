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
  /** Frames over which it comes in from the first frame and goes out to the last; one that loops does neither. */
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
  /**
   * Frame N + 1 is frame 1: every part of it turns a whole number of times over the shot, all of them another one within
   * the band. Its peak over the shot is then the amplitude itself. Still where no whole number lies in the band.
   */
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
  const made = sway.loops ? loopingWaves(sway, seconds, random) : freeWaves(sway, random);
  known.set(name, made);
  return made;
}

/** Shares that add up to 1. */
function freeWaves({ frequencyHz }: Sway, random: () => number): Wave[] {
  const raw = Array.from({ length: PARTS }, (_, i) => {
    const hz = frequencyHz * (SLOWEST + (1 - SLOWEST) * ((i + random()) / PARTS));
    return { hz, phase: random() * 2 * Math.PI, share: 1 / hz };
  });
  const sum = raw.reduce((total, wave) => total + wave.share, 0);
  return raw.map((wave) => ({ ...wave, share: wave.share / sum }));
}

/** Whole turns over the shot that lie in the band: the fewest and the most. */
function turnsIn({ frequencyHz }: Pick<Sway, 'frequencyHz'>, seconds: number): [number, number] {
  const within = 1e-9;
  return [
    Math.max(1, Math.ceil(SLOWEST * frequencyHz * seconds - within)),
    Math.floor(frequencyHz * seconds + within),
  ];
}

/** Whether a sway up to this frequency can loop over a shot of so many frames: whether it turns once at all. */
export function canLoop(sway: Pick<Sway, 'frequencyHz'>, lengthFrames: number, rate: Rational): boolean {
  const [fewest, most] = turnsIn(sway, lengthFrames / rationalToNumber(rate));
  return fewest <= most;
}

/** Places a turn of the fastest wave at which the peak is looked for. */
const PLACES = 24;

/** Another whole number of turns for each wave, spread over the band, and the peak of all of them 1. */
function loopingWaves(sway: Sway, seconds: number, random: () => number): Wave[] {
  const [fewest, most] = turnsIn(sway, seconds);
  const count = Math.min(PARTS, Math.max(0, most - fewest + 1));
  const raw = Array.from({ length: count }, (_, i) => {
    const from = fewest + Math.floor((i * (most - fewest + 1)) / count);
    const to = fewest + Math.floor(((i + 1) * (most - fewest + 1)) / count);
    const turns = from + Math.floor(random() * (to - from));
    return { hz: turns / seconds, phase: random() * 2 * Math.PI, share: 1 / turns };
  });
  let peak = 0;
  for (let i = 0; i < most * PLACES; i++)
    peak = Math.max(peak, Math.abs(sumAt(raw, (i * seconds) / (most * PLACES))));
  return raw.map((wave) => ({ ...wave, share: wave.share / peak }));
}

const sumAt = (waves: readonly Wave[], seconds: number): number =>
  waves.reduce((sum, { hz, phase, share }) => sum + share * Math.sin(2 * Math.PI * hz * seconds + phase), 0);

/**
 * How far the sway is from the move on one axis at `frame` (may be fractional), in the axis' unit; never more than its
 * amplitude, but for the 1 % between the places at which the peak of one that loops is looked for. `lengthFrames` is that of the shot.
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
  const drift = sumAt(wavesOf(sway, axis, lengthFrames / framesPerSecond), seconds);
  return amplitude * drift * fadeAt(sway, frame, lengthFrames);
}

/** What a sway comes to over a shot on one axis, in the axis' unit: root of the mean square, and largest, of all frames. */
export function swayMeasure(
  sway: Sway,
  axis: SwayAxis,
  lengthFrames: number,
  rate: Rational,
): { readonly rms: number; readonly peak: number } {
  let [squares, peak] = [0, 0];
  for (let frame = 1; frame <= lengthFrames; frame++) {
    const value = swayAt(sway, axis, frame, lengthFrames, rate);
    squares += value * value;
    peak = Math.max(peak, Math.abs(value));
  }
  return { rms: Math.sqrt(squares / lengthFrames), peak };
}

function fadeAt({ fadeInFrames, fadeOutFrames, loops }: Sway, frame: number, lengthFrames: number): number {
  if (loops) return 1;
  const share = (passed: number, all: number) => (all <= 0 ? 1 : smoothStep(passed / all));
  return share(frame - 1, fadeInFrames) * share(lengthFrames - frame, fadeOutFrames);
}

/** 0 to 1 with level ends: 3t² − 2t³. */
export function smoothStep(t: number): number {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
}
