import { type Affine, applyAffine, compose, invertAffine } from '../geometry/index.ts';
import type { PlaneId, Scene } from '../scene/index.ts';
import { type FramePlan, framePlan, nearestCopy } from '../staging/frame/index.ts';
import { PLANE_NUMBERS, sampleShot } from '../staging/sample/index.ts';
import { memo } from '../units/index.ts';
import type { PassName } from './what-frames-show.ts';

/** A pass of one picture, with all that it follows from. */
export type Pass =
  | { readonly kind: 'depth'; readonly farSpx: number }
  | { readonly kind: 'matte'; readonly plane: PlaneId; readonly isSeen: boolean }
  /** `toNext` maps px of the frame to where the same paint is one frame on; null where it is not drawn then. */
  | { readonly kind: 'motion'; readonly plane: PlaneId; readonly toNext: Affine | null };

export const passOf = (
  scene: Scene,
  name: PassName,
  { plane, frame }: { readonly plane: PlaneId | null; readonly frame: number },
): Pass | null => {
  if (name === 'picture') return null;
  if (name === 'depth') return { kind: 'depth', farSpx: depthFarSpx(scene) };
  if (plane === null) return null;
  if (name === 'motion') return { kind: 'motion', plane, toNext: toNextFrame(scene, plane, frame) };
  return { kind: 'matte', plane, isSeen: name === 'matte-seen' };
};

/** Where the paint of a plane goes from a frame to the next, by the move as it goes on after the last. */
function toNextFrame(scene: Scene, plane: PlaneId, frame: number): Affine | null {
  const [now, next] = [frame, frame + 1].map((at) =>
    framePlan(scene, at).planes.find(({ planeId }) => planeId === plane),
  );
  const back = now?.state === 'drawn' ? invertAffine(now.artToFrame) : null;
  if (!back || next?.state !== 'drawn') return null;
  const middle = { x: scene.frame.widthPx / 2, y: scene.frame.heightPx / 2 };
  return compose(nearestCopy(next, applyAffine(back, middle), middle), back);
}

/** Place of the distance among the numbers of a sampled plane. */
const DISTANCE = PLANE_NUMBERS - 1;

/**
 * The distance from the camera that is white in a depth pass, stage px: the farthest of any plane on any frame, rounded
 * up. Black is the camera itself. The same for all frames of a shot, so that they can be compared.
 */
export const depthFarSpx = memo((scene: Scene): number => {
  const { planes } = sampleShot(scene)!;
  let far = 1;
  for (let at = DISTANCE; at < planes.length; at += PLANE_NUMBERS) if (planes[at]! > far) far = planes[at]!;
  return Math.ceil(far);
});

/** Alpha (0 to 255) from which a plane counts for the depth of a px: it covers half of it. */
export const HALF_ALPHA = 128;
/** White of a depth pass, and what it is where there is no plane. */
export const DEPTH_WHITE = 65_535;

/** The value of a distance in a depth pass. */
export const depthValue = (distanceSpx: number, farSpx: number): number =>
  Math.round(Math.min(1, Math.max(0, distanceSpx / farSpx)) * DEPTH_WHITE);

/** What a motion pass is where nothing moves, and its steps a px: 1/64 px each, ± 512 px and no farther. */
export const MOTION_STILL = 32_768;
export const MOTION_STEPS = 64;

/** The value of a motion of so many output px in a motion pass. */
export const motionValue = (px: number): number =>
  Math.min(DEPTH_WHITE, Math.max(0, Math.round(MOTION_STILL + px * MOTION_STEPS)));

/** What lies beside a motion pass, for whoever reads it. */
export const MOTION_NOTE = `${JSON.stringify(
  {
    unit: 'output px from this frame to the next',
    right: `(R - ${MOTION_STILL}) / ${MOTION_STEPS}`,
    down: `(G - ${MOTION_STILL}) / ${MOTION_STEPS}`,
    blue: 'white where the plane covers half of a px; elsewhere nothing is said',
    inOpenExr: 'R and G are px, B is 1 where the plane is',
    farthest: (DEPTH_WHITE - MOTION_STILL) / MOTION_STEPS,
  },
  null,
  2,
)}\n`;

/** What lies beside a depth pass, for whoever reads it. */
export const depthNote = (farSpx: number): string =>
  `${JSON.stringify(
    {
      unit: 'stage px from the camera',
      black: 0,
      white: farSpx,
      bits: 16,
      where: 'the nearest plane that covers half of a px; white where there is none',
      distance: `value / ${DEPTH_WHITE} * ${farSpx}`,
    },
    null,
    2,
  )}\n`;

/** Planes that hide what is behind them, nearest first: what is laid over by light hides nothing. */
export const hidingPlanes = (plan: FramePlan) =>
  plan.planes.filter(({ state, mode }) => state === 'drawn' && mode === 'paint').toReversed();
