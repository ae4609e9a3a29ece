import { defocusPx } from '../paint/index.ts';
import type { Plane, Scene } from '../scene/index.ts';
import { channelOf } from '../scene/records/index.ts';
import { type CameraPose, focalPx, nearLimitSpx } from '../stage/index.ts';
import { channelValueAt } from '../timing/index.ts';
import { flickerAt, smoothStep } from '../timing/moves/index.ts';
import { cameraPoseAt, stageFrameOf } from './camera-at.ts';
import { depthOf, focusDepthAt } from './looks/index.ts';
import { movedAt } from './plane-at.ts';

/** A plane that defocuses while it is passed blurs up to this share of the frame's width. */
const DEFOCUS_SHARE = 0.08;

/** How opaque a plane is, and how blurred: diameters in output px. */
export interface Appearance {
  readonly opacity: number;
  /** Its own blur, a Gaussian as wide as a disc of this diameter. */
  readonly blurPx: number;
  /** What the lens, or being passed, does to it: a disc. */
  readonly defocusPx: number;
}

/** The lens at one frame; distances in spx from the camera. */
export interface Lens {
  readonly irisSpx: number;
  readonly focalPx: number;
  readonly focusDistanceSpx: number;
}

/** Iris that keeps a blur is at most so many times as wide as it is keyed, so that a focus that passes the plane does no harm. */
const MOST_WIDENED = 4;

/** The lens of the shot at `frame`, or of another camera `pose` that looks at it; null while everything is sharp. */
export function lensAt(scene: Scene, frame: number, pose = cameraPoseAt(scene, frame)): Lens | null {
  const keyedSpx = channelValueAt(channelOf(scene.camera.iris), frame, 'linear');
  if (!(keyedSpx > 0)) return null;
  const focal = focalPx(stageFrameOf(scene), pose);
  const focusDistanceSpx = focusDepthAt(scene, frame) - pose.zSpx;
  const irisSpx = keptIris(scene, frame, pose, { irisSpx: keyedSpx, focalPx: focal, focusDistanceSpx });
  return irisSpx > 0 ? { irisSpx, focalPx: focal, focusDistanceSpx } : null;
}

/** The opening at which a plane is blurred by so many px, as far as that may be; the keyed one where none is to be. */
function keptIris(scene: Scene, frame: number, pose: CameraPose, lens: Lens): number {
  const kept = scene.move.keepBlur;
  const depth = kept ? depthOf(scene, kept.plane, frame) : null;
  if (!kept || depth === null) return lens.irisSpx;
  const most = lens.irisSpx * MOST_WIDENED;
  return Math.min(most, irisForBlur(lens, depth - pose.zSpx, kept.blurPx) ?? most);
}

/** The iris at which what is so far away is blurred by `blurPx`; null where it is in focus, and no iris does. */
export function irisForBlur(
  { focalPx: f, focusDistanceSpx }: Pick<Lens, 'focalPx' | 'focusDistanceSpx'>,
  distanceSpx: number,
  blurPx: number,
): number | null {
  const perSpx = defocusPx(1, f, focusDistanceSpx, distanceSpx);
  return perSpx > 0 ? blurPx / perSpx : null;
}

/** The veil of a plane at `frame`, seen from `distanceSpx` through `lens`; null for what rides on the camera. */
export const appearanceAt = (
  scene: Scene,
  plane: Plane,
  frame: number,
  distanceSpx: number,
  lens: Lens | null,
): Appearance => shownAppearance(scene, plane, { ...movedAt(plane, frame), frame }, distanceSpx, lens);

/**
 * What fades or defocuses while the camera passes it does so evenly with the distance that is left, with level ends,
 * until it is gone where the camera passes it.
 */
export function shownAppearance(
  scene: Pick<Scene, 'frame' | 'homeDistanceSpx' | 'lengthFrames' | 'rate'>,
  { opacity: own, passing, grade, flicker }: Pick<Plane, 'opacity' | 'passing' | 'grade' | 'flicker'>,
  moved: { readonly opacity: number; readonly blur: number; readonly frame: number },
  distanceSpx: number,
  lens: Lens | null,
): Appearance {
  const stage = stageFrameOf(scene);
  const lit = flicker ? flickerAt(flicker, moved.frame, scene.lengthFrames, scene.rate) : 1;
  const opacity = Math.min(1, Math.max(0, own * moved.opacity * lit));
  const blurPx = Math.max(0, (grade?.blurPx ?? 0) + moved.blur);
  const byLens = lens ? defocusPx(lens.irisSpx, lens.focalPx, lens.focusDistanceSpx, distanceSpx) : 0;
  if (!passing) return { opacity, blurPx, defocusPx: byLens };
  const left = smoothStep((distanceSpx - nearLimitSpx(stage)) / passing.overSpx);
  return passing.way === 'fade'
    ? { opacity: opacity * left, blurPx, defocusPx: byLens }
    : { opacity, blurPx, defocusPx: byLens + (1 - left) * DEFOCUS_SHARE * stage.widthPx };
}
