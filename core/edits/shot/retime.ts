import { type ChannelRecord, LIMITS, type Plane, type Scene } from '../../scene/index.ts';
import { channelOf, recordOf, withEachPlane } from '../../scene/records/index.ts';
import { channelAt, keyedChannels } from '../../staging/index.ts';
import { type Channel, frameAtRate, inOrder, mapValues } from '../../timing/index.ts';
import type { Rational } from '../../units/index.ts';
import { withChannel } from '../keys/index.ts';
import { setRate, setShotLength } from './shot-settings.ts';
import { changeSound } from './sound.ts';

/** How a shot is laid anew over time: everything in it follows. */
interface TimeMap {
  /** Where what stood on a frame stands now; rounded to whole frames by its caller where it must be. */
  readonly frame: (frame: number) => number;
  /** By how much what lasts lasts longer. */
  readonly longer: number;
}

const within = (frame: number): number =>
  Math.min(LIMITS.keyFrame.max, Math.max(LIMITS.keyFrame.min, Math.round(frame)));

/** Keys on their new frames; where two come to share one, the later stays. Locked ones go too: it is the shot that changes. */
function retimeKeys(channel: Channel, { frame }: TimeMap): Channel {
  const placed = new Map(channel.keys.map((key) => [within(frame(key.frame)), key]));
  return { ...channel, keys: inOrder([...placed].map(([at, key]) => ({ ...key, frame: at }))) };
}

function retimed(scene: Scene, time: TimeMap): Scene {
  const keyed = keyedChannels(scene).reduce((changed, ref) => {
    const channel = channelAt(changed, ref);
    return channel ? withChannel(changed, ref, retimeKeys(channel, time)) : changed;
  }, scene);
  const { sway } = keyed.move;
  const frames = (n: number) => Math.max(0, Math.round(n * time.longer));
  const { sound } = keyed;
  return {
    ...withEachPlane(
      sound ? changeSound(keyed, { startFrame: time.frame(sound.startFrame) }) : keyed,
      (plane) => retimedPlane(plane, time),
    ),
    move: sway
      ? {
          ...keyed.move,
          sway: {
            ...sway,
            fadeInFrames: frames(sway.fadeInFrames),
            fadeOutFrames: frames(sway.fadeOutFrames),
          },
        }
      : keyed.move,
    markers: Object.fromEntries(
      Object.entries(keyed.markers).map(([id, marker]) => [
        id,
        { ...marker, frame: within(time.frame(marker.frame)) },
      ]),
    ),
  };
}

function retimedPlane(plane: Plane, { frame, longer }: TimeMap): Plane {
  const { run, content } = plane;
  const slower = (record: ChannelRecord) => recordOf(mapValues(channelOf(record), (v) => v / longer));
  const nextRun =
    run?.kind === 'speed'
      ? { ...run, x: slower(run.x), y: slower(run.y) }
      : run && { ...run, frames: Math.max(1, Math.round(run.frames * longer)) };
  return {
    ...plane,
    run: nextRun,
    content:
      content.kind === 'moving' ? { ...content, startFrame: within(frame(content.startFrame)) } : content,
  };
}

/** Another length, with every key in the same place of the shot: first and last frame stay first and last. */
export function scaleShotLength(scene: Scene, lengthFrames: number): Scene {
  const steps = (lengthFrames - 1) / Math.max(1, scene.lengthFrames - 1);
  const time = {
    frame: (frame: number) => 1 + (frame - 1) * steps,
    longer: lengthFrames / scene.lengthFrames,
  };
  return setShotLength(retimed(scene, time), lengthFrames);
}

/** Another rate at which everything happens at the same time as before: frames are counted anew. */
export function setRateKeepingSeconds(scene: Scene, rate: Rational): Scene {
  const { rate: from } = scene;
  const longer = (rate.num * from.den) / (rate.den * from.num);
  const time = { frame: (frame: number) => frameAtRate(frame, from, rate), longer };
  const lengthFrames = Math.min(
    LIMITS.lengthFrames.max,
    Math.max(LIMITS.lengthFrames.min, Math.round(scene.lengthFrames * longer)),
  );
  // What moves at the shot's own rate keeps its pace.
  const paced = withEachPlane(scene, (plane) =>
    plane.content.kind === 'moving' && plane.content.rate === null
      ? { ...plane, content: { ...plane.content, rate: { num: from.num, den: from.den } } }
      : plane,
  );
  return setShotLength(setRate(retimed(paced, time), rate), lengthFrames);
}

/** The shot rests before and after: so many frames more at each end, everything keyed moves on by the first. */
export function holdEnds(scene: Scene, before: number, after: number): Scene {
  const moved = retimed(scene, { frame: (frame) => frame + before, longer: 1 });
  return setShotLength(moved, Math.min(LIMITS.lengthFrames.max, scene.lengthFrames + before + after));
}
