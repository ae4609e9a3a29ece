import type { ChannelId } from '@keen-ridge/core/staging';
import type { FrameRange } from '@keen-ridge/core/staging/frame';
import { z } from 'zod';
import { create } from 'zustand';
import { parseOrNull } from '../../api/client.ts';
import { readStored, store } from '../../api/storage/browser-storage.ts';
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
type Stored = Record<string, ShotView>;

const KEY = 'keen-ridge/shot-views';
const MOST_SHOTS = 200;
const EMPTY: ShotView = viewSchema.parse({});

/** What was stored, shot by shot; how a shot is looked at is soon set again where it cannot be read. */
function stored(): Stored {
  const there = z.record(z.string(), z.unknown()).safeParse(parseOrNull(readStored(KEY) ?? ''));
  const views = Object.entries(there.success ? there.data : {}).flatMap(([id, value]) => {
    const view = viewSchema.safeParse(value);
    return view.success ? [[id, view.data] as const] : [];
  });
  return Object.fromEntries(views);
}

/** How each shot is looked at in this browser: none of it belongs to the set-up. */
export const useShotViews = create<Stored>(() => stored());
useShotViews.subscribe((state) => {
  const newest = Object.entries(state).slice(-MOST_SHOTS);
  store(KEY, JSON.stringify(Object.fromEntries(newest)));
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
