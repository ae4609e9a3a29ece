import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import type { ChannelName, ChannelRef } from '@keen-ridge/core/staging';
import { editsWords as say } from '../words/edits.ts';

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
/** Colours are not read as numbers. */
const colour = { unit: '', decimals: 0, step: 1, signed: false, times: 1 } as const;
const share = { unit: '%', decimals: 1, step: 1, signed: false, times: 100 } as const;

export const CHANNEL_WORDS: Readonly<Record<ChannelName, ChannelWords>> = {
  track: { name: say.track, ...px },
  panX: { name: say.panEW, ...px },
  panY: { name: say.panNS, ...px },
  truck: { name: say.truck, ...px },
  zoom: { name: say.zoom, unit: '×', decimals: 3, step: 0.01, signed: false, times: 1 },
  roll: { name: say.roll, ...deg },
  focus: { name: say.focus, ...px },
  iris: { name: say.iris, ...px, signed: false },
  x: { name: say.placeEW, ...px },
  y: { name: say.placeNS, ...px },
  depth: { name: say.depth, ...px },
  scale: { name: say.size, ...share },
  rotation: { name: say.rotation, ...deg },
  opacity: { name: say.opacity, ...share },
  blur: { name: say.blur, ...px, signed: false },
  airColour: { name: say.airColour, ...colour },
  visibility: { name: say.visibility, ...px, decimals: 0, step: 100, signed: false },
  brightness: { name: say.brightness, ...share },
  saturation: { name: say.saturation, ...share },
  tint: { name: say.tint, ...colour },
  tintStrength: { name: say.tintStrength, ...share },
  glow: { name: say.glow, ...share },
  vignette: { name: say.vignette, ...share },
  softEdge: { name: say.softEdge, ...px, signed: false },
  runX: { name: say.runEW, ...px, unit: 'px/f', decimals: 2 },
  runY: { name: say.runNS, ...px, unit: 'px/f', decimals: 2 },
};

/** A channel by name, with its plane where it is one of a plane. */
export function channelTitle(scene: Scene, ref: ChannelRef): string {
  const { name } = CHANNEL_WORDS[ref.name];
  return ref.on === 'camera' ? name : `${planeOf(scene, ref.plane)?.name ?? 'Plane'} ${name}`;
}
