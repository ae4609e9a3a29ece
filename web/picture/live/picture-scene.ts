import { setChannelMuted } from '@keen-ridge/core/edits/keys';
import { setPlanesHidden } from '@keen-ridge/core/edits/planes';
import { compose, invertAffine } from '@keen-ridge/core/geometry';
import { type Plane, type PlaneId, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planeOf, planesOf, withPlaneList } from '@keen-ridge/core/scene/records';
import { homePose, nearLimitSpx, stageToFrame, transformOf } from '@keen-ridge/core/stage';
import { type ChannelId, channelId, keyedChannels, stageFrameOf } from '@keen-ridge/core/staging';
import { exposureIndexAt } from '@keen-ridge/core/staging/content';
import { framePlan } from '@keen-ridge/core/staging/frame';
import type { StandInFigure } from '../../session/state/choice.ts';
import { type FigureSize, figurePlane } from './figure-plane.ts';

const GHOST_OPACITY = 0.3;

/** What the picture shows beside the scene itself, or leaves out of it. */
export interface PictureExtras {
  readonly solo: readonly PlaneId[];
  readonly onion: PlaneId | null;
  readonly figure: StandInFigure | null;
  readonly figureSize: FigureSize;
  /** Channels that alone move. */
  readonly soloChannels: readonly ChannelId[];
  /** Planes laid over the picture as they are at other frames. */
  readonly ghosts: { readonly planes: readonly PlaneId[]; readonly frames: readonly number[] };
}

/**
 * The scene as the picture shows it: only the soloed planes where there are any, and the neighbouring exposures of the
 * onioned plane laid over it, and the stand-in figure. Nothing of this is kept or handed off.
 */
export function pictureScene(
  scene: Scene,
  frame: number,
  { solo, onion, figure, figureSize, soloChannels, ghosts }: PictureExtras,
): Scene {
  const moving = soloChannels.length === 0 ? scene : onlyMoving(scene, new Set(soloChannels));
  const staged = figure ? withFigure(moving, figure, figureSize, frame) : moving;
  return withOtherFrames(withGhosts(alone(staged, solo), frame, onion), frame, ghosts);
}

/** Every other channel that has keys rests. */
const onlyMoving = (scene: Scene, solo: ReadonlySet<ChannelId>): Scene =>
  keyedChannels(scene)
    .filter((ref) => !solo.has(channelId(ref)))
    .reduce((changed, ref) => setChannelMuted(changed, ref, true), scene);

/**
 * Planes as the camera sees them at other frames, faint over the picture: fixed to the frame, each just in front of where
 * its plane stands now, so that what is nearer hides both.
 */
function withOtherFrames(scene: Scene, now: number, { planes, frames }: PictureExtras['ghosts']): Scene {
  if (planes.length === 0 || frames.length === 0) return scene;
  const distances = new Map(
    framePlan(scene, now).planes.map(({ planeId, distanceSpx }) => [planeId, distanceSpx]),
  );
  const ids = new Set(planes);
  const stage = stageFrameOf(scene);
  const home = homePose(stage);
  const others = frames.flatMap((at) =>
    framePlan(scene, at).planes.flatMap(({ planeId, state, artToFrame, shown }): Plane[] => {
      const plane = ids.has(planeId) ? planeOf(scene, planeId) : undefined;
      const distanceSpx = distances.get(planeId) ?? stage.homeDistanceSpx;
      if (distanceSpx <= nearLimitSpx(stage)) return [];
      const back = invertAffine(stageToFrame(stage, home, distanceSpx));
      if (!plane || state !== 'drawn' || !artToFrame || !back) return [];
      const content =
        shown.kind === 'image' ? ({ kind: 'still', art: shown.art, made: null } as const) : plane.content;
      return [
        {
          ...plane,
          id: planeIdSchema.parse(`${at}-${plane.id}`.slice(0, 64)),
          content,
          mount: { on: 'camera' },
          depthSpx: distanceSpx - stage.homeDistanceSpx,
          transform: transformOf(compose(back, artToFrame), plane.transform),
          moves: {},
          track: null,
          run: null,
          passing: null,
          opacity: plane.opacity * GHOST_OPACITY,
        },
      ];
    }),
  );
  return others.length === 0 ? scene : withPlaneList(scene, [...others, ...planesOf(scene)]);
}

function alone(scene: Scene, solo: readonly PlaneId[]): Scene {
  if (solo.length === 0) return scene;
  const others = planesOf(scene)
    .filter((plane) => !solo.includes(plane.id))
    .map((plane) => plane.id);
  return setPlanesHidden(scene, new Set(others), true);
}

function withFigure(scene: Scene, figure: StandInFigure, size: FigureSize, frame: number): Scene {
  const plane = figurePlane(scene, figure, size, frame);
  const at = planesOf(scene).findIndex(({ id }) => id === figure.planeId);
  if (!plane) return scene;
  return withPlaneList(scene, [...planesOf(scene).slice(0, at), plane, ...planesOf(scene).slice(at)]);
}

function withGhosts(scene: Scene, frame: number, onion: PlaneId | null): Scene {
  const moving = planesOf(scene).find((plane) => plane.id === onion && !plane.hidden);
  if (!moving) return scene;
  const at = planesOf(scene).indexOf(moving);
  return withPlaneList(scene, [
    ...planesOf(scene).slice(0, at),
    ...ghostsOf(moving, frame, scene.rate),
    ...planesOf(scene).slice(at),
  ]);
}

/** The exposures before and after the one that shows, as faint planes in the same place. */
function ghostsOf(plane: Plane, frame: number, rate: Scene['rate']): Plane[] {
  const { content } = plane;
  if (content.kind !== 'moving') return [];
  const count = content.exposures.length;
  const now = exposureIndexAt(content, frame, rate);
  const around = new Set([(now + count - 1) % count, (now + 1) % count]);
  around.delete(now);
  return [...around].flatMap((index): Plane[] => {
    const art = content.exposures[index]?.art;
    if (!art) return [];
    return [
      {
        ...plane,
        id: planeIdSchema.parse(`${plane.id}-${index}`.slice(-64)),
        content: { kind: 'still', art, made: null },
        opacity: plane.opacity * GHOST_OPACITY,
      },
    ];
  });
}
