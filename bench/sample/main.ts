import { setChannelValue } from '@keen-ridge/core/edits/keys';
import type { ChannelRecord, Scene } from '@keen-ridge/core/scene';
import { keysOf, recordOf } from '@keen-ridge/core/scene/records';
import { type ChannelRef, channelAt, interpolationOf, keyedChannels } from '@keen-ridge/core/staging';
import { sampleShot } from '@keen-ridge/core/staging/sample';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { type Channel, EASE_PRESETS, interpolate, sampleChannel } from '@keen-ridge/core/timing';
import { seededRandom } from '@keen-ridge/core/units';
import bezierEasing from 'bezier-easing';
import { InterpolateSmooth, NumberKeyframeTrack } from 'three';

const [FRAMES, PLANES, KEYS, ROUNDS] = [10_000, 60, 1000, 7] as const;

/** A long shot in which the camera and every plane move: keys of every ease, spread over all of it. */
function heavyShot(): Scene {
  const random = seededRandom(11);
  const planes = Array.from({ length: PLANES }, (_, i) =>
    testPlane({ id: testPlaneId(`p${i}`), depthSpx: i * 90 - 400 }),
  );
  const refs: ChannelRef[] = [
    ...(['panX', 'panY', 'truck', 'zoom', 'roll'] as const).map((name) => ({ on: 'camera' as const, name })),
    ...planes.flatMap(({ id }) =>
      (['x', 'scale', 'opacity'] as const).map((name) => ({ on: 'plane' as const, plane: id, name })),
    ),
  ];
  const eases = [EASE_PRESETS.in, EASE_PRESETS.out, EASE_PRESETS['in-out'], EASE_PRESETS.linear];
  const bare = testScene(planes, { lengthFrames: FRAMES });
  const keyed = Array.from({ length: KEYS }).reduce<Scene>((scene, _, i) => {
    const ref = refs[i % refs.length]!;
    const frame = 1 + Math.floor(random() * (FRAMES - 1));
    const value =
      ref.name === 'zoom' || ref.name === 'scale'
        ? 0.5 + random()
        : ref.name === 'opacity'
          ? random()
          : random() * 600;
    return setChannelValue(scene, ref, value, { frame, keying: true });
  }, bare);
  const eased = (record: ChannelRecord): ChannelRecord =>
    recordOf({
      ...record,
      keys: keysOf(record).map((key) => ({ ...key, ease: eases[Math.floor(random() * eases.length)]! })),
    });
  return {
    ...keyed,
    camera: Object.fromEntries(
      Object.entries(keyed.camera).map(([name, channel]) => [name, eased(channel)]),
    ) as Scene['camera'],
  };
}

const median = (values: readonly number[]): number => [...values].sort((p, q) => p - q)[values.length >> 1]!;
const timed = (run: () => unknown): number => {
  const start = performance.now();
  run();
  return performance.now() - start;
};

type Sampler = (frame: number) => number;

/** The same curves through a general easing package: its function for each span, the rest as a user of it would write. */
function throughBezierEasing(channel: Channel, interpolation: Parameters<typeof interpolate>[3]): Sampler {
  const { keys } = channel;
  const eases = keys.map(({ ease }) =>
    ease.kind === 'bezier' ? bezierEasing(ease.x1, ease.y1, ease.x2, ease.y2) : (t: number) => t,
  );
  return (frame) => {
    const index = keys.findLastIndex((key) => key.frame <= frame);
    const [from, to] = [keys[index], keys[index + 1]];
    if (!from) return keys[0]!.value;
    if (!to) return from.value;
    const t = eases[index]!((frame - from.frame) / (to.frame - from.frame));
    return interpolate(from.value, to.value, t, interpolation);
  };
}

/** Keys of the same frames and values as smooth curves of a general 3D library. */
function throughKeyframeTrack({ keys }: Channel): Sampler {
  const track = new NumberKeyframeTrack(
    '.v',
    keys.map((key) => key.frame),
    keys.map((key) => key.value),
    InterpolateSmooth,
  );
  const interpolant = (
    track as unknown as {
      createInterpolant(result?: Float32Array): { evaluate(t: number): ArrayLike<number> };
    }
  ).createInterpolant();
  return (frame) => interpolant.evaluate(frame)[0]!;
}

/** Sampling a shot into plans, and its curves alone against general packages. Interleaved medians. */
export async function benchSample(json: boolean): Promise<void> {
  const scene = heavyShot();
  const channels = keyedChannels(scene).map((ref) => ({
    channel: channelAt(scene, ref)!,
    way: interpolationOf(scene, ref.name),
  }));
  const easing = channels.map(({ channel, way }) => throughBezierEasing(channel, way));
  const tracks = channels.map(({ channel }) => throughKeyframeTrack(channel));
  const runAll = (samplers: readonly Sampler[]) => {
    let sum = 0;
    for (let frame = 1; frame <= FRAMES; frame++) for (const sampler of samplers) sum += sampler(frame);
    return sum;
  };
  const times = {
    plans: [] as number[],
    curves: [] as number[],
    bezierEasing: [] as number[],
    keyframeTracks: [] as number[],
  };
  for (let round = 0; round < ROUNDS; round++) {
    // A fresh copy, so that nothing that was remembered of it helps.
    const fresh = structuredClone(scene);
    times.plans.push(timed(() => sampleShot(fresh)));
    times.curves.push(
      timed(() => channels.map(({ channel, way }) => sampleChannel(channel, 1, FRAMES, way))),
    );
    times.bezierEasing.push(timed(() => runAll(easing)));
    times.keyframeTracks.push(timed(() => runAll(tracks)));
  }
  const keys = channels.reduce((sum, { channel }) => sum + channel.keys.length, 0);
  const result = {
    frames: FRAMES,
    planes: PLANES,
    channels: channels.length,
    keys,
    plansSeconds: median(times.plans) / 1000,
    curvesOverBezierEasing: median(times.bezierEasing) / median(times.curves),
    curvesOverKeyframeTracks: median(times.keyframeTracks) / median(times.curves),
    plansOverBezierEasingCurves: median(times.plans) / median(times.bezierEasing),
  };
  if (json) {
    console.log(JSON.stringify(result));
    return;
  }
  console.log(`sample: ${FRAMES} frames, ${PLANES} planes, ${keys} keys on ${channels.length} channels`);
  console.log(`  all of it into plans          ${result.plansSeconds.toFixed(2)} s (under 1 s is asked)`);
  console.log(
    `  the curves, against bezier-easing      ${result.curvesOverBezierEasing.toFixed(2)} times as fast`,
  );
  console.log(
    `  the curves, against three's smooth tracks (other curves through the same keys)  ${result.curvesOverKeyframeTracks.toFixed(2)} times as fast`,
  );
  console.log(
    `  all of it, as a share of bezier-easing's time for the curves alone      ${result.plansOverBezierEasingCurves.toFixed(2)}`,
  );
}
