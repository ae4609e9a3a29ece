import type { Plane, Scene } from '@keen-ridge/core/scene';
import { framePlan, SHARP_PX, sharpBandAt } from '@keen-ridge/core/staging/frame';
import { standRows } from '../../planes/stand-rows.ts';
import { formatNumber } from '../../ui/format.ts';

/** A plane on the Stand as light. */
export interface LightRow {
  readonly plane: Plane;
  readonly depthSpx: number;
  readonly speed: number;
  readonly onScreen: { readonly left: number; readonly right: number } | null;
  /** Out of focus and blurred by itself, output px across. */
  readonly blurPx: number;
  /** Share of its light that comes through the air. */
  readonly lightLeft: number;
  /** It is sharp by the lens, and the lens is open. */
  readonly sharp: boolean;
}

/** The planes near to far, each with what lens and air do to it at a frame. */
export function lightRows(scene: Scene, frame: number): LightRow[] {
  const plan = new Map(framePlan(scene, frame).planes.map((one) => [one.planeId, one]));
  const open = sharpBandAt(scene, frame) !== null;
  return standRows(scene, frame).map(({ plane, depthSpx, speed, onScreen, root }) => {
    const seen = plan.get(plane.id);
    const blurPx = Math.hypot(seen?.blurPx ?? 0, seen?.defocusPx ?? 0);
    return {
      plane,
      depthSpx,
      speed,
      onScreen,
      blurPx,
      lightLeft: seen?.look.air?.transmission ?? 1,
      sharp: open && root === 'stage' && (seen?.defocusPx ?? 0) < SHARP_PX,
    };
  });
}

/** What stands at the right of a bar: how soft it is, and how much of its light is left. */
export function lightWords({ blurPx, lightLeft, sharp }: LightRow): string {
  const soft = blurPx >= 0.05 ? `${formatNumber(blurPx, 1)} px` : sharp ? 'sharp' : '';
  const left = lightLeft < 0.995 ? `${formatNumber(lightLeft * 100, 0)} %` : '';
  return [sharp && blurPx < SHARP_PX ? 'sharp' : soft, left].filter(Boolean).join(' · ');
}
