import { setPlanesDepth } from '@keen-ridge/core/edits/depth';
import { setRunSpeed } from '@keen-ridge/core/edits/runs';
import type { Point } from '@keen-ridge/core/geometry';
import { planeOf } from '@keen-ridge/core/scene/records';
import { depthForSlide } from '@keen-ridge/core/stage';
import {
  cameraPoseAt,
  type PointedAt,
  runBetweenSpots,
  stageFrameOf,
  standingAt,
} from '@keen-ridge/core/staging';
import { toast } from 'sonner';
import type { Session } from '../session/session.ts';
import { formatNumber } from '../ui/format.ts';
import { stageWords as say } from '../words/stage.ts';

/** Away from the numbers that one looks at next. */
const ASIDE = { position: 'top-center', duration: 4000 } as const;

/** Takes a spot that was pointed at; the second one, in another frame, sets the plane's depth or run. */
export function pointAt(session: Session, at: Point): void {
  const { measuring, frame } = session.state;
  if (!measuring) return;
  const { first, planeId } = measuring;
  if (!first) {
    session.setMeasuring({ planeId, first: { frame, at } });
    return;
  }
  if (first.frame === frame) {
    toast(say.goToAnotherFrameFirst, ASIDE);
    return;
  }
  session.setMeasuring(null);
  setBySpots(session, planeId, first, { frame, at });
}

function setBySpots(
  session: Session,
  planeId: Parameters<typeof session.select>[0][number],
  first: PointedAt,
  second: PointedAt,
): void {
  const { scene } = session.state;
  const plane = planeOf(scene, planeId);
  if (!plane) return;
  const [from, to] = [first, second].map(({ frame }) => cameraPoseAt(scene, frame)) as [
    ReturnType<typeof cameraPoseAt>,
    ReturnType<typeof cameraPoseAt>,
  ];
  const rests = from.xSpx === to.xSpx && from.ySpx === to.ySpx && from.zSpx === to.zSpx;
  if (rests || standingAt(scene, plane, 1).root === 'camera') {
    const speed = runBetweenSpots(scene, plane, first, second);
    if (!speed) return;
    const at = { frame: first.frame, keying: false };
    const next = setRunSpeed(scene, new Set([planeId]), { ...speed, unit: 'own' }, at);
    session.commit('set-run', plane.name, next);
    toast(say.nameRunsXPxA(plane.name, formatNumber(speed.x, 2, true)), ASIDE);
    return;
  }
  const depthSpx = depthForSlide(
    stageFrameOf(scene),
    { pose: from, at: first.at },
    { pose: to, at: second.at },
  );
  if (depthSpx === null) {
    toast.error(say.noDepthMakesTheSpot, ASIDE);
    return;
  }
  // The picture of the first frame is the one that was pointed at: it stays.
  const mode = { atFrame: first.frame, holdPicture: true };
  session.commit('set-depth', plane.name, setPlanesDepth(scene, new Map([[planeId, depthSpx]]), mode));
  toast(say.nameStandsAtDepthDepth(plane.name, formatNumber(depthSpx, 0, true)), ASIDE);
}
