import { type Channel, channelValueAt } from './channel.ts';
import { easeRunner } from './ease.ts';
import { type Interpolation, interpolate } from './interpolation.ts';

/**
 * A channel at `count` whole frames from `firstFrame` on: the values of `channelValueAt`, several times as fast, since
 * each frame starts from where the one before it was found.
 */
export function sampleChannel(
  channel: Channel,
  firstFrame: number,
  count: number,
  interpolation: Interpolation,
): Float64Array {
  const out = new Float64Array(count);
  const { keys } = channel;
  const [first, last] = [keys[0], keys.at(-1)];
  if (!first || !last || channel.muted) return out.fill(channel.value);
  const end = firstFrame + count;
  const clamp = (frame: number) => Math.min(end, Math.max(firstFrame, frame)) - firstFrame;
  out.fill(first.value, 0, clamp(first.frame));
  for (let i = 0; i < keys.length - 1; i++) {
    const [from, to] = [keys[i]!, keys[i + 1]!];
    const [start, stop] = [clamp(from.frame), clamp(to.frame)];
    if (stop <= start) continue;
    if (from.value === to.value || from.ease.kind === 'hold') {
      out.fill(from.value, start, stop);
      continue;
    }
    const run = easeRunner(from.ease);
    const length = to.frame - from.frame;
    const into = firstFrame - from.frame;
    if (interpolation === 'linear') {
      const rise = to.value - from.value;
      for (let f = start; f < stop; f++) out[f] = from.value + rise * run((f + into) / length);
    } else {
      for (let f = start; f < stop; f++)
        out[f] = interpolate(from.value, to.value, run((f + into) / length), interpolation);
    }
  }
  out.fill(last.value, clamp(last.frame));
  if (channel.before)
    for (let f = 0; f < clamp(first.frame); f++)
      out[f] = channelValueAt(channel, firstFrame + f, interpolation);
  if (channel.after)
    for (let f = clamp(last.frame + 1); f < count; f++)
      out[f] = channelValueAt(channel, firstFrame + f, interpolation);
  return out;
}
