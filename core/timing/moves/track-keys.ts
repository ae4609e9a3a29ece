import { memo } from '../../units/index.ts';
import { type Channel, EASE_PRESETS, type Key, smoothKeys, splitEase } from '../index.ts';
import { combine, type Place } from './path.ts';
import {
  placeAtLength,
  type Track,
  type TrackKey,
  type TrackPoint,
  trackKeys,
  trackLengthAt,
  trackPlaceAt,
} from './track.ts';

/** A track's keys as a channel whose values count the keys: what is done to keys in time is done to these alike. */
export const trackAsChannel = (track: Track): Channel => ({
  value: 0,
  keys: trackKeys(track).map(({ frame, ease }, value) => ({ frame, value, ease })),
  ...beyondOf(track),
});

/** A track's keys as a channel of how far along its path they lie, stage px: what asks for its speed asks this. */
export const trackByLength = memo(
  (track: Track): Channel => ({
    value: 0,
    keys: trackKeys(track).map(({ frame, ease }) => ({ frame, value: trackLengthAt(track, frame), ease })),
    ...(track.muted ? { muted: track.muted } : {}),
    ...beyondOf(track),
  }),
);

/** `trackAsChannel` with eases by which the speed along the path runs on through the chosen keys (`smoothKeys`). */
export function smoothTrackKeys(track: Track, frames: ReadonlySet<number>): Channel {
  const { keys } = smoothKeys(trackByLength(track), frames, 'linear');
  const channel = trackAsChannel(track);
  return { ...channel, keys: channel.keys.map((key, i) => ({ ...key, ease: keys[i]!.ease })) };
}

/** What is done beyond the keys, where anything is. */
export const beyondOf = ({ before, after }: Pick<Channel, 'before' | 'after'>) => ({
  ...(before ? { before } : {}),
  ...(after ? { after } : {}),
});

/**
 * The track with its keys as `channel` has them: those that are left, in their new order and on their new frames, each
 * followed by the bends that followed it. Null when no key is left.
 */
export function trackFromChannel(track: Track, { keys }: Pick<Channel, 'keys'>): Track | null {
  const stretches = stretchesOf(track);
  const points = keys.flatMap((key: Key, i): TrackPoint[] => {
    const stretch = stretches[Math.round(key.value)];
    if (!stretch) return [];
    const bends = i === keys.length - 1 ? [] : bendsTo(stretches, key, keys[i + 1] as Key);
    return [{ ...stretch.key, frame: key.frame, ease: key.ease }, ...bends];
  });
  return points.length === 0 ? null : { ...track, points };
}

interface Stretch {
  readonly key: TrackKey;
  readonly bends: readonly TrackPoint[];
}

function stretchesOf({ points }: Track): Stretch[] {
  const stretches: { key: TrackKey; bends: TrackPoint[] }[] = [];
  for (const point of points) {
    if (point.kind === 'key') stretches.push({ key: point, bends: [] });
    else stretches.at(-1)?.bends.push(point);
  }
  return stretches;
}

/** Bends on the way from one key to the next: of every stretch between them, backwards if the keys were turned round. */
function bendsTo(stretches: readonly Stretch[], from: Key, to: Key): TrackPoint[] {
  const [a, b] = [Math.round(from.value), Math.round(to.value)];
  const bends = stretches.slice(Math.min(a, b), Math.max(a, b)).flatMap((stretch) => stretch.bends);
  return a <= b ? bends : bends.reverse();
}

/** Puts a key on the track at `frame`: where the track already is then, or at `at`. */
export function putTrackKey(track: Track, frame: number, at?: Place): Track {
  const there = track.points.findIndex((point) => point.kind === 'key' && point.frame === frame);
  if (there >= 0) {
    return {
      ...track,
      points: track.points.map((point, i) => (i === there && at ? { ...point, at } : point)),
    };
  }
  const keys = trackKeys(track);
  const before = keys.findLast((key) => key.frame < frame);
  const after = keys.find((key) => key.frame > frame);
  const place = at ?? trackPlaceAt(track, frame);
  const key = (ease: TrackKey['ease']): TrackPoint => ({ kind: 'key', frame, at: place, smooth: true, ease });
  if (!before) return { ...track, points: [key(EASE_PRESETS['in-out']), ...track.points] };
  if (!after) return { ...track, points: [...track.points, key(EASE_PRESETS['in-out'])] };
  const { parts } = splitEase(before.ease, (frame - before.frame) / (after.frame - before.frame));
  const index = indexAtLength(track, trackLengthAt(track, frame), before, after);
  const points = track.points.map((point) => (point === before ? { ...point, ease: parts[0] } : point));
  return { ...track, points: [...points.slice(0, index), key(parts[1]), ...points.slice(index)] };
}

/** Before which point of the track a place so far along it lies, between two keys. */
function indexAtLength(track: Track, lengthSpx: number, before: TrackKey, after: TrackKey): number {
  const [from, to] = [track.points.indexOf(before), track.points.indexOf(after)];
  const here = placeAtLength(track, lengthSpx);
  let best = { index: to, detour: Number.POSITIVE_INFINITY };
  for (let index = from + 1; index <= to; index++) {
    const [p, q] = [track.points[index - 1]!.at, track.points[index]!.at];
    const detour = apart(p, here) + apart(here, q) - apart(p, q);
    if (detour < best.detour) best = { index, detour };
  }
  return best.index;
}

const apart = (p: Place, q: Place): number => Math.hypot(...combine(q, p, 1, -1));

/** The whole track by a step in space. */
export const shiftTrack = (track: Track, by: Place): Track => ({
  ...track,
  points: track.points.map((point) => ({ ...point, at: combine(point.at, by, 1, 1) })),
});
