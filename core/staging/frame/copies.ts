import {
  type Affine,
  applyAffine,
  compose,
  invertAffine,
  type Point,
  translation,
} from '../../geometry/index.ts';
import { factsOfShown } from '../content/index.ts';
import { copyPeriodPx, toNearestCopy } from '../index.ts';
import type { PlanePlan } from './frame-plan.ts';

type Drawn = Pick<Extract<PlanePlan, { state: 'drawn' }>, 'artToFrame' | 'repeat' | 'shown'>;

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
