import { hexOfPacked, packHex } from '../../paint/index.ts';
import type { Channel, Key } from '../../timing/index.ts';
import { memo } from '../../units/index.ts';
import type { ChannelRecord, ColourRecord, PlaneId } from '../index.ts';

const asNumber = (value: number | string): number => (typeof value === 'string' ? packHex(value) : value);

/** A stored channel as it plays: its keys in order of frame, colours packed. The same one for the same record. */
export const channelOf: (record: ChannelRecord | ColourRecord) => Channel = memo(
  (record: ChannelRecord | ColourRecord): Channel => {
    const { keys, value, ...rest } = record;
    const played = Object.entries(keys).map(
      ([frame, key]): Key => ({ frame: Number(frame), ...key, value: asNumber(key.value) }),
    );
    return { ...rest, value: asNumber(value), keys: played.sort((p, q) => p.frame - q.frame) };
  },
);

export const keysOf = (record: ChannelRecord | ColourRecord): readonly Key[] => channelOf(record).keys;

/** A channel as it is stored, without the marks that are not set. */
export const recordOf = (channel: Channel): ChannelRecord => stored(channel, (value) => value);

/** A channel of packed colours as it is stored: by their names, to a byte a channel. */
export const colourRecordOf = (channel: Channel): ColourRecord => stored(channel, hexOfPacked);

function stored<V>(
  { value, follows, keys, muted, locked, before, after }: Channel,
  store: (value: number) => V,
) {
  const followed = (name: string | undefined) => (name === undefined ? {} : { follows: name as PlaneId });
  return {
    value: store(value),
    ...followed(follows),
    keys: Object.fromEntries(
      keys.map((key) => [key.frame, { value: store(key.value), ease: key.ease, ...followed(key.follows) }]),
    ),
    ...(muted ? { muted } : {}),
    ...(locked ? { locked } : {}),
    ...(before ? { before } : {}),
    ...(after ? { after } : {}),
  };
}
