import type { Plane, Scene } from '../../scene/index.ts';
import { factsOf } from '../content/index.ts';
import { carrierOf } from '../index.ts';

/** Stage px between two copies of a repeated plane on its carrier, along its own axes. */
export function repeatPeriodSpx(scene: Scene, plane: Plane): { readonly x: number; readonly y: number } {
  const { widthPx, heightPx } = factsOf(plane.content);
  const { depthScale } = carrierOf(scene, plane, 1);
  return {
    x: widthPx * Math.abs(plane.transform.scaleX) * depthScale,
    y: heightPx * Math.abs(plane.transform.scaleY) * depthScale,
  };
}
