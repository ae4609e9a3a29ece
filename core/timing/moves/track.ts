import { memo } from '../../units/index.ts';
import { type Beyond, withinKeys } from '../beyond.ts';
import { type Ease, easeProgress, spanIndexAt } from '../index.ts';
import { cubicsThrough, MeasuredCubic, type Place } from './path.ts';

/** A point of a track: a key that it passes on a frame, or a bend that only shapes it. */
export type TrackPoint =
  | {
      readonly kind: 'key';
      readonly frame: number;
      readonly at: Place;
      /** Passed without a corner. */
      readonly smooth: boolean;
      /** Ease of the way to the next key, along the path. */
      readonly ease: Ease;
    }
  | { readonly kind: 'bend'; readonly at: Place };
export type TrackKey = Extract<TrackPoint, { kind: 'key' }>;

/**
 * A path through space in the order that it is travelled, from key to key; frames rise. It is travelled by its length,
 * so that no bend changes a key or the spacing.
 */
export interface Track {
  readonly points: readonly TrackPoint[];
  readonly muted?: true | undefined;
  readonly locked?: true | undefined;
  /** What it does before its first key, and after its last; without a word it rests. */
  readonly before?: Beyond | undefined;
  readonly after?: Beyond | undefined;
}

export const trackKeys = ({ points }: Track): TrackKey[] => points.filter((point) => point.kind === 'key');

interface Measured {
  readonly cubics: readonly MeasuredCubic[];
  /** Length of the path before each cubic, and at last of all of it. */
  readonly starts: readonly number[];
  readonly keys: readonly { readonly frame: number; readonly lengthSpx: number; readonly ease: Ease }[];
  readonly first: Place;
}

const measured = ({ points }: Track): Measured => measuredPoints(points);

const measuredPoints = memo((points: readonly TrackPoint[]): Measured => {
  const cubics = cubicsThrough(
    points.map((point) => ({ at: point.at, smooth: point.kind === 'bend' || point.smooth })),
  ).map((cubic) => new MeasuredCubic(cubic));
  const starts = [0];
  for (const cubic of cubics) starts.push((starts.at(-1) as number) + cubic.lengthSpx);
  const keys = points.flatMap((point, i) =>
    point.kind === 'key' ? [{ frame: point.frame, lengthSpx: starts[i] as number, ease: point.ease }] : [],
  );
  return { cubics, starts, keys, first: points[0]?.at ?? ([0, 0, 0] as const) };
});

/** How far along its path a track is at `frame`, stage px. Overshooting eases run past a key and back. */
export function trackLengthAt(track: Track, frame: number): number {
  const { keys } = measured(track);
  const [first] = keys;
  if (!first || frame <= first.frame) return first?.lengthSpx ?? 0;
  const index = spanIndexAt(keys, frame);
  const [from, to] = [keys[index]!, keys[index + 1]];
  if (!to) return from.lengthSpx;
  const progress = easeProgress(from.ease, (frame - from.frame) / (to.frame - from.frame));
  return from.lengthSpx + (to.lengthSpx - from.lengthSpx) * progress;
}

/** The place on the path so far along it; straight on beyond its ends. */
export function placeAtLength(track: Track, lengthSpx: number): Place {
  const { cubics, starts, first } = measured(track);
  if (cubics.length === 0) return first;
  let index = cubics.length - 1;
  while (index > 0 && (starts[index] as number) > lengthSpx) index--;
  return cubics[index]!.pointAt(lengthSpx - (starts[index] as number));
}

/** Where the track is at `frame` (may be fractional). What goes on from where it ended goes on by the whole way from end to end. */
export function trackPlaceAt(track: Track, frame: number): Place {
  const { keys } = measured(track);
  const within = withinKeys({ ...track, keys }, frame);
  const at = placeAtLength(track, trackLengthAt(track, within?.frame ?? frame));
  const goesOn = within && (within.round < 0 ? track.before : track.after) === 'go-on';
  const [first, last] = [track.points[0]?.at, track.points.at(-1)?.at];
  if (!goesOn || !first || !last) return at;
  const [x, y, z] = at.map((value, axis) => value + within.round * (last[axis]! - first[axis]!));
  return [x!, y!, z!];
}

/** All of its length, stage px. */
export const trackLength = (track: Track): number => measured(track).starts.at(-1) ?? 0;

/** Adds a bend to the path where it is nearest to `near`; the shape changes as little as a new point on it can. */
export function addBend(track: Track, near: Place): { readonly track: Track; readonly index: number } | null {
  const { cubics, starts } = measured(track);
  let best: { index: number; at: Place; distance: number } | null = null;
  for (const [i, cubic] of cubics.entries()) {
    for (let k = 1; k < 32; k++) {
      const at = cubic.pointAt((cubic.lengthSpx * k) / 32);
      const distance = Math.hypot(at[0] - near[0], at[1] - near[1], at[2] - near[2]);
      if (cubic.lengthSpx > 0 && (!best || distance < best.distance)) best = { index: i + 1, at, distance };
    }
  }
  if (!best || starts.length < 2) return null;
  const { index, at } = best;
  const points = [
    ...track.points.slice(0, index),
    { kind: 'bend' as const, at },
    ...track.points.slice(index),
  ];
  return { track: { ...track, points }, index };
}

/** Puts a point of the path elsewhere; no frame changes. */
export const movePoint = (track: Track, index: number, at: Place): Track => ({
  ...track,
  points: track.points.map((point, i) => (i === index ? { ...point, at } : point)),
});

/** Takes a bend away. Keys stay: they are taken away in time. */
export const removeBend = (track: Track, index: number): Track => ({
  ...track,
  points: track.points.filter((point, i) => i !== index || point.kind === 'key'),
});

/** Passes a key with a corner or without. */
export const setCorner = (track: Track, index: number, smooth: boolean): Track => ({
  ...track,
  points: track.points.map((point, i) =>
    i === index && point.kind === 'key' ? { ...point, smooth } : point,
  ),
});
