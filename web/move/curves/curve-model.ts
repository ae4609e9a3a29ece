import { isOnTrack } from '@keen-ridge/core/edits/keys';
import { unpackColour } from '@keen-ridge/core/paint';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import {
  type ChannelRef,
  channelAt,
  crossingPx,
  interpolationOf,
  isColour,
  keyedChannels,
  shownScale,
  shownValueAt,
} from '@keen-ridge/core/staging';
import { datumSlides, type ShotSample, speedsOf } from '@keen-ridge/core/staging/sample';
import { CHANNEL_WORDS, channelTitle } from '../../edits/channel-words.ts';
import { moveWords as say } from '../../words/move.ts';
import { depthRampColour } from './curve-looks.ts';
import type { Curve, CurvesShown } from './curves-chart.ts';

const SPEEDS = 'var(--color-ink-2)';
const COLOURS = [
  'var(--color-signal)',
  'var(--color-select)',
  'var(--color-ink)',
  '#7a4424',
  '#5c7aa0',
  '#708048',
] as const;

/** The lights of a colour, each drawn as a curve of its own. */
const LIGHTS = [
  { name: say.red, colour: '#b3261e' },
  { name: say.green, colour: '#3f7d45' },
  { name: say.blue, colour: '#2f62ad' },
] as const;

/** Channels that can be drawn: those with keys of their own. */
export const drawableChannels = (scene: Scene): ChannelRef[] =>
  keyedChannels(scene).filter((ref) => ref.name !== 'track' && !isOnTrack(scene, ref));

/** The values of some channels, one a frame, as they are shown; what goes on beyond the keys by itself, pale. */
export const valueCurves = (scene: Scene, channels: readonly ChannelRef[]): Curve[] => {
  const frames = Array.from({ length: scene.lengthFrames }, (_, i) => i + 1);
  return channels.flatMap((ref, i): Curve[] => {
    const name = channelTitle(scene, ref);
    const colour = COLOURS[i % COLOURS.length]!;
    if (isColour(ref.name)) {
      const colours = frames.map((f) => unpackColour(shownValueAt(scene, ref, f)));
      return LIGHTS.map((light, k) => ({
        name: `${name}, ${light.name}`,
        colour: light.colour,
        values: colours.map((lights) => lights[k]! * 255),
      }));
    }
    const values = frames.map((f) => shownValueAt(scene, ref, f) * CHANNEL_WORDS[ref.name].times);
    const channel = channelAt(scene, ref);
    if (!channel?.before && !channel?.after) return [{ name, colour, values }];
    const [first, last] = [channel.keys[0]?.frame ?? 1, channel.keys.at(-1)?.frame ?? 1];
    const goesOn = (f: number) =>
      (channel.before !== undefined && f < first) || (channel.after !== undefined && f > last);
    return [
      { name, colour, values: values.map((v, k) => (goesOn(k + 1) ? Number.NaN : v)) },
      // The last key and the first belong to both, so that the two lines meet.
      {
        name: `${name}, goes on`,
        colour,
        pale: true,
        values: values.map((v, k) => (goesOn(k + 1) || k + 1 === first || k + 1 === last ? v : Number.NaN)),
      },
    ];
  });
};

/** How fast the datum slides, and every plane on screen that the sample knows. */
export function speedCurves(scene: Scene, sample: ShotSample | null): Curve[] {
  const planes = planesOf(scene);
  const speeds =
    sample?.planeCount === planes.length
      ? planes.map(
          (plane, i): Curve => ({
            name: `${plane.name}, on screen`,
            colour: depthRampColour(scene, plane),
            values: speedsOf(sample, i),
          }),
        )
      : [];
  return [{ name: say.panOnTheDatum, colour: SPEEDS, values: datumSlides(scene) }, ...speeds].filter(
    (curve) => curve.values.some((v) => v > 1e-6),
  );
}

/** All that the chart shows; what crosses the frame in less than `crossingSeconds` is said to strobe. */
export function curvesShown(
  scene: Scene,
  channels: readonly ChannelRef[],
  { values, speeds }: Pick<CurvesShown, 'values' | 'speeds'>,
  crossingSeconds: number,
): CurvesShown {
  const units = new Set(
    channels.map(({ name }) => (isColour(name) ? say.lightOf255 : CHANNEL_WORDS[name].unit)),
  );
  return {
    values,
    valueUnit: units.size === 1 ? [...units].join() : 'each in its unit',
    speeds,
    limit: crossingPx(scene, crossingSeconds),
  };
}

/** The progress between two keys at which a shown value lies, on the scale on which they are joined. */
export function progressOf(scene: Scene, ref: ChannelRef, shown: number, from: number, to: number): number {
  const stored = shownScale(scene, ref).store(shown);
  const interpolation = interpolationOf(scene, ref.name);
  if (interpolation === 'linear') return (stored - from) / (to - from);
  if (interpolation === 'colour') return 0;
  if (interpolation === 'inverse') return (1 / stored - 1 / from) / (1 / to - 1 / from);
  const pivot = interpolation === 'log' ? 0 : interpolation.logTo;
  const ratio = (stored - pivot) / (from - pivot);
  return ratio > 0 ? Math.log(ratio) / Math.log((to - pivot) / (from - pivot)) : 0;
}
