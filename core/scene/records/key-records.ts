import type { Channel, Key } from '../../timing/index.ts';
import { memo } from '../../units/index.ts';
import type { ChannelRecord } from '../index.ts';

/** A stored channel as it plays: its keys in order of frame. The same one for the same record. */
export const channelOf: (record: ChannelRecord) => Channel = memo((record: ChannelRecord): Channel => {
  const { keys, ...rest } = record;
  const played = Object.entries(keys).map(([frame, key]): Key => ({ frame: Number(frame), ...key }));
  return { ...rest, keys: played.sort((p, q) => p.frame - q.frame) };
});

export const keysOf = (record: ChannelRecord): readonly Key[] => channelOf(record).keys;

/** A channel as it is stored, without the marks that are not set. */
export function recordOf({ value, keys, muted, locked, before, after }: Channel): ChannelRecord {
  const byFrame = Object.fromEntries(keys.map(({ frame, value: at, ease }) => [frame, { value: at, ease }]));
  return {
    value,
    keys: byFrame,
    ...(muted ? { muted } : {}),
    ...(locked ? { locked } : {}),
    ...(before ? { before } : {}),
    ...(after ? { after } : {}),
  };
}
