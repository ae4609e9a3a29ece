import {
  type Affine,
  applyAffine,
  compose,
  invertAffine,
  type Point,
  translation,
} from '../../geometry/index.ts';
import type { Repeat } from '../../scene/index.ts';
import { factsOfShown } from '../content/index.ts';
import { repeatsAcross, repeatsDown } from '../index.ts';
import type { PlanePlan } from './frame-plan.ts';

type Drawn = Pick<Extract<PlanePlan, { state: 'drawn' }>, 'artToFrame' | 'repeat' | 'shown'>;

/** Art px after which art comes round again along its axes; 0 where it does not. */
export const copyPeriodPx = (
  repeat: Repeat,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
): Point => ({ x: repeatsAcross(repeat) ? widthPx : 0, y: repeatsDown(repeat) ? heightPx : 0 });

/** A step along one axis as it is to the nearest of all copies; `period` 0: there is one. */
export const toNearestCopy = (step: number, period: number): number =>
  period > 0 ? step - Math.round(step / period) * period : step;

/**
 * Where the art of a plane lies on the frame (art px to output px), by that copy of tiled art whose `spot` (art px) lies
 * nearest to a place of the frame: what runs comes round again, and a spot of it is told by whichever copy goes on from there.
 */
export function nearestCopy({ artToFrame, repeat, shown }: Drawn, spot: Point, from: Point): Affine {
  const back = invertAffine(artToFrame);
  if (!back || repeat === 'none') return artToFrame;
  const period = copyPeriodPx(repeat, factsOfShown(shown));
  const here = applyAffine(back, from);
  const [dx, dy] = [spot.x - here.x, spot.y - here.y];
  const by = translation(toNearestCopy(dx, period.x) - dx, toNearestCopy(dy, period.y) - dy);
  return compose(artToFrame, by);
}
