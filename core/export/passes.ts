import type { PlaneId, Scene } from '../scene/index.ts';
import type { FramePlan } from '../staging/frame/index.ts';
import { PLANE_NUMBERS, sampleShot } from '../staging/sample/index.ts';
import { memo } from '../units/index.ts';

/** What frames show: the picture, how far everything is, or where a plane is, alone or as far as it is seen. */
export const PASSES = ['picture', 'depth', 'matte', 'matte-seen'] as const;
export type PassName = (typeof PASSES)[number];

/** As what a depth pass leaves: 16-bit PNG, or OpenEXR of 16- or 32-bit floats. */
export const DEPTH_FILES = ['png', 'exr-half', 'exr-float'] as const;
export type DepthFile = (typeof DEPTH_FILES)[number];

/** A pass of one picture, with all that it follows from. */
export type Pass =
  | { readonly kind: 'depth'; readonly farSpx: number }
  | { readonly kind: 'matte'; readonly plane: PlaneId; readonly isSeen: boolean };

export const passOf = (
  scene: Scene,
  name: PassName,
  { plane }: { readonly plane: PlaneId | null },
): Pass | null => {
  if (name === 'picture') return null;
  if (name === 'depth') return { kind: 'depth', farSpx: depthFarSpx(scene) };
  return plane === null ? null : { kind: 'matte', plane, isSeen: name === 'matte-seen' };
};

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
