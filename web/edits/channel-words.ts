import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import type { ChannelName, ChannelRef } from '@keen-ridge/core/staging';

interface ChannelWords {
  readonly name: string;
  readonly unit: string;
  readonly decimals: number;
  readonly step: number;
  readonly signed: boolean;
  /** What the artist reads is so many times the value. */
  readonly times: number;
}

const px = { unit: 'px', decimals: 1, step: 1, signed: true, times: 1 } as const;
const deg = { unit: '°', decimals: 2, step: 0.1, signed: true, times: 1 } as const;
const share = { unit: '%', decimals: 1, step: 1, signed: false, times: 100 } as const;

export const CHANNEL_WORDS: Readonly<Record<ChannelName, ChannelWords>> = {
  track: { name: 'Track', ...px },
  panX: { name: 'Pan E–W', ...px },
  panY: { name: 'Pan N–S', ...px },
  truck: { name: 'Truck', ...px },
  zoom: { name: 'Zoom', unit: '×', decimals: 3, step: 0.01, signed: false, times: 1 },
  roll: { name: 'Roll', ...deg },
  focus: { name: 'Focus', ...px },
  iris: { name: 'Iris', ...px, signed: false },
  x: { name: 'Place E–W', ...px },
  y: { name: 'Place N–S', ...px },
  depth: { name: 'Depth', ...px },
  scale: { name: 'Size', ...share },
  rotation: { name: 'Rotation', ...deg },
  opacity: { name: 'Opacity', ...share },
  blur: { name: 'Blur', ...px, signed: false },
  runX: { name: 'Run E–W', ...px, unit: 'px/f', decimals: 2 },
  runY: { name: 'Run N–S', ...px, unit: 'px/f', decimals: 2 },
};

/** A channel by name, with its plane where it is one of a plane. */
export function channelTitle(scene: Scene, ref: ChannelRef): string {
  const { name } = CHANNEL_WORDS[ref.name];
  return ref.on === 'camera' ? name : `${planeOf(scene, ref.plane)?.name ?? 'Plane'} ${name}`;
}
