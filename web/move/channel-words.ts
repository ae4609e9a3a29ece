import type { CameraChannel } from '@keen-ridge/core/document';

interface ChannelWords {
  readonly name: string;
  readonly unit: string;
  readonly decimals: number;
  readonly step: number;
  readonly signed: boolean;
}

export const CHANNEL_WORDS: Readonly<Record<CameraChannel, ChannelWords>> = {
  panX: { name: 'Pan E–W', unit: 'px', decimals: 1, step: 1, signed: true },
  panY: { name: 'Pan N–S', unit: 'px', decimals: 1, step: 1, signed: true },
  truck: { name: 'Truck', unit: 'px', decimals: 1, step: 1, signed: true },
  zoom: { name: 'Zoom', unit: '×', decimals: 3, step: 0.01, signed: false },
  roll: { name: 'Roll', unit: '°', decimals: 2, step: 0.1, signed: true },
};
