import type { Interpolation } from '../timing/index.ts';

export const CAMERA_CHANNELS = ['panX', 'panY', 'truck', 'zoom', 'roll'] as const;
export type CameraChannel = (typeof CAMERA_CHANNELS)[number];

export interface ChannelKind {
  readonly unit: 'spx' | 'ratio' | 'deg';
  readonly interpolation: Interpolation;
}

/** Zoom runs in log, for even growth each frame; truck in distance. */
export const CHANNEL_KINDS: Readonly<Record<CameraChannel, ChannelKind>> = {
  panX: { unit: 'spx', interpolation: 'linear' },
  panY: { unit: 'spx', interpolation: 'linear' },
  truck: { unit: 'spx', interpolation: 'linear' },
  zoom: { unit: 'ratio', interpolation: 'log' },
  roll: { unit: 'deg', interpolation: 'linear' },
};
