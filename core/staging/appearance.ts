import { defocusPx } from '../paint/index.ts';
import type { Plane, Scene } from '../scene/index.ts';
import { channelOf } from '../scene/records/index.ts';
import { focalPx, nearLimitSpx, type StageFrame } from '../stage/index.ts';
import { channelValueAt } from '../timing/index.ts';
import { smoothStep } from '../timing/moves/index.ts';
import { cameraPoseAt, stageFrameOf } from './camera-at.ts';
import { interpolationOf } from './channels.ts';
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

/** The lens of the shot at `frame`, or of another camera `pose` that looks at it; null while everything is sharp. */
export function lensAt(scene: Scene, frame: number, pose = cameraPoseAt(scene, frame)): Lens | null {
  const value = (name: 'focus' | 'iris') =>
    channelValueAt(channelOf(scene.camera[name]), frame, interpolationOf(scene, name));
  const irisSpx = value('iris');
  if (!(irisSpx > 0)) return null;
  return {
    irisSpx,
    focalPx: focalPx(stageFrameOf(scene), pose),
    focusDistanceSpx: value('focus') - pose.zSpx,
  };
}

/** The veil of a plane at `frame`, seen from `distanceSpx` through `lens`; null for what rides on the camera. */
export const appearanceAt = (
  plane: Plane,
  frame: number,
  distanceSpx: number,
  stage: StageFrame,
  lens: Lens | null,
): Appearance => shownAppearance(plane, movedAt(plane, frame), distanceSpx, stage, lens);

/**
 * What fades or defocuses while the camera passes it does so evenly with the distance that is left, with level ends,
 * until it is gone where the camera passes it.
 */
export function shownAppearance(
  { opacity: own, passing, grade }: Pick<Plane, 'opacity' | 'passing' | 'grade'>,
  moved: { readonly opacity: number; readonly blur: number },
  distanceSpx: number,
  stage: StageFrame,
  lens: Lens | null,
): Appearance {
  const opacity = Math.min(1, Math.max(0, own * moved.opacity));
  const blurPx = Math.max(0, (grade?.blurPx ?? 0) + moved.blur);
  const byLens = lens ? defocusPx(lens.irisSpx, lens.focalPx, lens.focusDistanceSpx, distanceSpx) : 0;
  if (!passing) return { opacity, blurPx, defocusPx: byLens };
  const left = smoothStep((distanceSpx - nearLimitSpx(stage)) / passing.overSpx);
  return passing.way === 'fade'
    ? { opacity: opacity * left, blurPx, defocusPx: byLens }
    : { opacity, blurPx, defocusPx: byLens + (1 - left) * DEFOCUS_SHARE * stage.widthPx };
}
