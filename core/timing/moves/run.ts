import { memo } from '../../units/index.ts';
import { type Channel, channelValueAt } from '../channel.ts';

/** Distances of a speed channel at frames 1, 2, …, as far as they were asked for. */
const sumsOf = memo((_speed: Channel): number[] => [0]);

/**
 * How far a speed channel (px a frame) has run at `frame`: v·(frame − 1) where it rests, else the sum of the speed of
 * every frame before, from frame 1 on. Fractions of a frame run on evenly. 0 at and before frame 1.
 */
export function runDistance(speed: Channel, frame: number): number {
  if (frame <= 1) return 0;
  if (speed.keys.length === 0) return speed.value * (frame - 1);
  const whole = Math.floor(frame);
  const known = sumsOf(speed);
  // known[i] is the distance at frame i + 1.
  for (let i = known.length; i < whole; i++)
    known.push((known[i - 1] as number) + channelValueAt(speed, i, 'linear'));
  const before = known[whole - 1] as number;
  return frame === whole ? before : before + (frame - whole) * channelValueAt(speed, whole, 'linear');
}

/**
 * The phase of a cycle that is run through `times` over `frames`, in [0, 1): whole numbers until the one division, so
 * that frame f and frame f + `frames` agree to the bit.
 */
export function cyclePhase(times: number, frames: number, frame: number): number {
  const steps = times * (frame - 1);
  const left = steps % frames;
  return (left < 0 ? left + frames : left) / frames;
}
