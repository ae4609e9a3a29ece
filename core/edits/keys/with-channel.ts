import { type Air, CLEAR_VISIBILITY_SPX, hexOfPacked, PLAIN_GRADE } from '../../paint/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { colourRecordOf, recordOf, withPlanes } from '../../scene/records/index.ts';
import {
  type CameraLook,
  type ChannelRef,
  isCameraLook,
  isColour,
  type PlaneMove,
  trackOf,
} from '../../staging/index.ts';
import { isPlaneLook, type PlaneLookChannel, USUAL_AIR_COLOUR } from '../../staging/looks/index.ts';
import type { Channel } from '../../timing/index.ts';
import { type Track, trackFromChannel } from '../../timing/moves/index.ts';
import { gradeWith, setAir, setFilter } from '../look/at-rest.ts';

/** The scene with another channel in that place; a plane's move without keys becomes part of how it stands. */
export function withChannel(scene: Scene, ref: ChannelRef, channel: Channel): Scene {
  if (ref.name === 'track') return withTrackKeys(scene, ref, channel);
  if (ref.on === 'camera')
    return isCameraLook(ref.name)
      ? withCameraLook(scene, ref.name, channel)
      : { ...scene, camera: { ...scene.camera, [ref.name]: recordOf(channel) } };
  const { name } = ref;
  return withPlanes(scene, [ref.plane], (plane) => {
    if (name === 'runX' || name === 'runY') {
      return plane.run?.kind === 'speed'
        ? { ...plane, run: { ...plane.run, [name === 'runX' ? 'x' : 'y']: recordOf(channel) } }
        : plane;
    }
    return isPlaneLook(name) ? withPlaneLook(plane, name, channel) : withMove(plane, name, channel);
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

/** As it is stored: the keys where it has some, else what it rests at as a part of the air or the filter. */
function withCameraLook(scene: Scene, name: CameraLook, channel: Channel): Scene {
  const { looks = {}, ...rest } = scene;
  const { [name]: _, ...others } = looks;
  if (channel.keys.length === 0)
    return restingLook(Object.keys(others).length > 0 ? { ...rest, looks: others } : rest, name, channel);
  const record = isColour(name) ? colourRecordOf(channel) : recordOf(channel);
  return { ...rest, looks: { ...others, [name]: record } };
}

function restingLook(scene: Scene, name: CameraLook, { value }: Channel): Scene {
  switch (name) {
    case 'airColour':
      return setAir(scene, { ...airOf(scene), colour: hexOfPacked(value) });
    case 'visibility':
      return setAir(scene, { ...airOf(scene), visibilitySpx: value });
    case 'tint':
      return setFilter(scene, { tint: hexOfPacked(value) });
    default:
      return setFilter(scene, { [name]: value });
  }
}

const airOf = ({ air }: Scene): Air =>
  air ?? { colour: USUAL_AIR_COLOUR, visibilitySpx: CLEAR_VISIBILITY_SPX };

function withPlaneLook(plane: Plane, name: PlaneLookChannel, channel: Channel): Plane {
  const { [name]: _, ...others } = plane.moves;
  if (channel.keys.length > 0)
    return {
      ...plane,
      moves: { ...others, [name]: isColour(name) ? colourRecordOf(channel) : recordOf(channel) },
    };
  const { value } = channel;
  const part =
    name === 'tint' ? { tint: hexOfPacked(value) } : { [name === 'softEdge' ? 'softEdgePx' : name]: value };
  return { ...plane, moves: others, grade: gradeWith(plane.grade, part) };
}

function withBlur(grade: Plane['grade'], by: number): Plane['grade'] {
  if (by === 0) return grade;
  const blurPx = (grade ?? PLAIN_GRADE).blurPx + by;
  return gradeWith(grade, { blurPx: Math.min(1000, Math.max(0, blurPx)) });
}
