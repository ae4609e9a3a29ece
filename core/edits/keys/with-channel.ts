import { PLAIN_GRADE } from '../../paint/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { recordOf, withPlanes } from '../../scene/records/index.ts';
import { type ChannelRef, type PlaneMove, trackOf } from '../../staging/index.ts';
import type { Channel } from '../../timing/index.ts';
import { type Track, trackFromChannel } from '../../timing/moves/index.ts';

/** The scene with another channel in that place; a plane's move without keys becomes part of how it stands. */
export function withChannel(scene: Scene, ref: ChannelRef, channel: Channel): Scene {
  if (ref.name === 'track') return withTrackKeys(scene, ref, channel);
  if (ref.on === 'camera') return { ...scene, camera: { ...scene.camera, [ref.name]: recordOf(channel) } };
  const { name } = ref;
  return withPlanes(scene, [ref.plane], (plane) => {
    if (name === 'runX' || name === 'runY') {
      return plane.run?.kind === 'speed'
        ? { ...plane, run: { ...plane.run, [name === 'runX' ? 'x' : 'y']: recordOf(channel) } }
        : plane;
    }
    return withMove(plane, name, channel);
  });
}

function withTrackKeys(scene: Scene, ref: ChannelRef, channel: Channel): Scene {
  const track = trackOf(scene, ref);
  return track ? withTrack(scene, ref, trackFromChannel(track, channel)) : scene;
}

export function withTrack(scene: Scene, ref: ChannelRef, track: Track | null): Scene {
  const stored = track && {
    ...track,
    points: track.points.map((point) => ({ ...point, at: [...point.at] as [number, number, number] })),
  };
  if (ref.on === 'camera') return { ...scene, move: { ...scene.move, track: stored } };
  return withPlanes(scene, [ref.plane], (plane) => ({ ...plane, track: stored }));
}

function withMove(plane: Plane, name: PlaneMove, channel: Channel): Plane {
  const { [name]: _, ...others } = plane.moves;
  if (channel.keys.length > 0) return { ...plane, moves: { ...others, [name]: recordOf(channel) } };
  const { transform: t } = plane;
  const rest = { ...plane, moves: others };
  const { value } = channel;
  switch (name) {
    case 'x':
      return { ...rest, transform: { ...t, xSpx: t.xSpx + value } };
    case 'y':
      return { ...rest, transform: { ...t, ySpx: t.ySpx + value } };
    case 'depth':
      return { ...rest, depthSpx: plane.depthSpx + value };
    case 'rotation':
      return { ...rest, transform: { ...t, rotationDeg: t.rotationDeg + value } };
    case 'scale':
      return { ...rest, transform: { ...t, scaleX: t.scaleX * value, scaleY: t.scaleY * value } };
    case 'opacity':
      return { ...rest, opacity: Math.min(1, Math.max(0, plane.opacity * value)) };
    case 'blur':
      return { ...rest, grade: withBlur(plane.grade, value) };
  }
}

function withBlur(grade: Plane['grade'], by: number): Plane['grade'] {
  if (by === 0) return grade;
  const { blurPx, ...others } = grade ?? PLAIN_GRADE;
  return { ...others, blurPx: Math.min(1000, Math.max(0, blurPx + by)) };
}
