import type { ChannelId } from '@keen-ridge/core/staging';
import type { FrameRange } from '@keen-ridge/core/staging/frame';
import { z } from 'zod';
import { create } from 'zustand';
import { useSession } from '../use-session.ts';

const viewSchema = z.object({
  /** In and out: what plays; null is all of it. */
  range: z.object({ start: z.int(), end: z.int() }).nullable().default(null),
  /** Rows that stay though they have no keys. */
  pinned: z.array(z.string()).default([]),
  /** Groups of rows that are folded: `camera` or the id of a plane. */
  folded: z.array(z.string()).default([]),
});
type ShotView = z.infer<typeof viewSchema>;
const storedSchema = z.record(z.string(), viewSchema);
type Stored = z.infer<typeof storedSchema>;

const KEY = 'keen-ridge/shot-views';
const MOST_SHOTS = 200;
const EMPTY: ShotView = viewSchema.parse({});

function stored(): Stored {
  try {
    return storedSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    // Written by another version or by hand: how a shot is looked at is soon set again.
    return {};
  }
}

/** How each shot is looked at in this browser: none of it belongs to the set-up. */
export const useShotViews = create<Stored>(() => stored());
useShotViews.subscribe((state) => {
  const newest = Object.entries(state).slice(-MOST_SHOTS);
  localStorage.setItem(KEY, JSON.stringify(Object.fromEntries(newest)));
});

export const shotViewOf = (shotId: string): ShotView => useShotViews.getState()[shotId] ?? EMPTY;
export const setShotView = (shotId: string, part: Partial<ShotView>): void =>
  useShotViews.setState({ [shotId]: { ...shotViewOf(shotId), ...part } });

export function useShotView(): readonly [ShotView, (part: Partial<ShotView>) => void] {
  const { id } = useSession().shot;
  const view = useShotViews((state) => state[id] ?? EMPTY);
  return [view, (part) => setShotView(id, part)];
}

/** Frames that play: the in and out that were set, kept within the shot. */
export function playRange(range: FrameRange | null, lengthFrames: number): FrameRange {
  const start = Math.min(lengthFrames, Math.max(1, range?.start ?? 1));
  const end = Math.min(lengthFrames + 1, Math.max(start + 1, range?.end ?? lengthFrames + 1));
  return { start, end };
}

export const toggled = <T extends ChannelId | string>(list: readonly T[], item: T): T[] =>
  list.includes(item) ? list.filter((one) => one !== item) : [...list, item];
