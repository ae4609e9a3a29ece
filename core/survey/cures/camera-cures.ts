import { withChannel } from '../../edits/keys/index.ts';
import type { Scene } from '../../scene/index.ts';
import { type ChannelRef, channelAt, channelId, interpolationOf } from '../../staging/index.ts';
import { channelValueAt } from '../../timing/index.ts';
import { SET_UP_FRAME } from '../survey-run.ts';
import type { Cure } from './cure.ts';

/** What of the camera is keyed to go somewhere. */
const WAYS = ['panX', 'panY', 'truck', 'zoom'] as const;
/** Values are searched in so many halvings. */
const HALVINGS = 24;

const wayRefs = (scene: Scene): ChannelRef[] =>
  WAYS.map((name): ChannelRef => ({ on: 'camera', name })).filter((ref) => {
    const channel = channelAt(scene, ref);
    return channel !== null && channel.keys.length > 1 && !channel.muted && !channel.locked;
  });

/** The largest share, from 0 to 1, for which `works` holds, where it holds for all smaller ones; null where it does not for 0, or does for 1. */
function largestShare(works: (share: number) => boolean): number | null {
  if (!works(0) || works(1)) return null;
  let [holds, fails] = [0, 1];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (holds + fails) / 2;
    if (works(middle)) holds = middle;
    else fails = middle;
  }
  return holds;
}

/**
 * Channels of the camera that would cure what goes wrong at `worstFrame` by not going so far: every key beyond a value
 * is put at it, its time and eases stay.
 */
export function stoppedMoves(
  scene: Scene,
  worstFrame: number,
  works: (next: Scene) => boolean,
): Extract<Cure, { kind: 'stop' }>[] {
  return wayRefs(scene).flatMap((ref) => {
    const channel = channelAt(scene, ref)!;
    const valueAt = (frame: number) => channelValueAt(channel, frame, interpolationOf(scene, ref.name));
    const [from, to] = [valueAt(SET_UP_FRAME), valueAt(worstFrame)];
    if (from === to) return [];
    const sign = Math.sign(to - from);
    const valueFor = (share: number) => from + share * (to - from);
    const stoppedAt = (value: number): Scene =>
      withChannel(scene, ref, {
        ...channel,
        keys: channel.keys.map((key) => ((key.value - value) * sign > 0 ? { ...key, value } : key)),
      });
    const share = largestShare((s) => works(stoppedAt(valueFor(s))));
    if (share === null || share === 0) return [];
    const value = valueFor(share);
    return [{ kind: 'stop' as const, channel: channelId(ref), value, scene: stoppedAt(value) }];
  });
}

/** The camera's whole way made shorter about where it starts, as little as works; null where none does. */
export function shorterMove(
  scene: Scene,
  works: (next: Scene) => boolean,
): Extract<Cure, { kind: 'shorter' }> | null {
  const refs = wayRefs(scene);
  if (refs.length === 0) return null;
  const shortened = (share: number): Scene =>
    refs.reduce((next, ref) => {
      const channel = channelAt(next, ref)!;
      const from = channelValueAt(channel, SET_UP_FRAME, interpolationOf(next, ref.name));
      const keys = channel.keys.map((key) => ({ ...key, value: from + share * (key.value - from) }));
      return withChannel(next, ref, { ...channel, keys });
    }, scene);
  const share = largestShare((s) => works(shortened(s)));
  return share === null || share === 0
    ? null
    : { kind: 'shorter', percent: share * 100, scene: shortened(share) };
}
