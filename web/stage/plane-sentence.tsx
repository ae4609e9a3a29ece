import type { Plane, Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { distanceSpx, speedAtDepth } from '@keen-ridge/core/stage';
import { cameraPoseAt, standingAt } from '@keen-ridge/core/staging';
import { type EdgeGap, edgeGaps } from '@keen-ridge/core/survey';
import { useMemo } from 'react';
import { useCalmFrame } from '../session/pace/use-calm.ts';
import { useSessionState } from '../session/use-session.ts';
import { formatNumber } from '../ui/format.ts';

const SIDE_WORDS = { left: 'left', right: 'right', top: 'upper', bottom: 'lower' } as const;
const TOWARDS = { left: 'to the left', right: 'to the right', top: 'above', bottom: 'below' } as const;

/** What a plane's depth means on screen, what is wrong with it, and the cure. */
export function PlaneSentence({ plane, shown }: { plane: Plane; shown: Scene }) {
  const kept = useSessionState((state) => state.scene);
  const frame = useCalmFrame();
  // Gaps are measured over the whole shot: on what is kept, so that a drag stays light.
  const worst = useMemo(() => {
    const keptPlane = planeOf(kept, plane.id);
    if (!keptPlane || keptPlane.hidden) return undefined;
    // Above and below, the ends of a plane mostly lie behind nearer ones by design; to the sides they never should.
    return edgeGaps(kept, keptPlane).find(({ side }) => side === 'left' || side === 'right');
  }, [kept, plane.id]);
  return (
    <p className="narrow mt-2 text-[12.5px] leading-snug">
      <SpeedWords plane={plane} scene={shown} frame={frame} />
      {worst && <GapWords gap={worst} lengthFrames={kept.lengthFrames} />}
    </p>
  );
}

function SpeedWords({ plane, scene, frame }: { plane: Plane; scene: Scene; frame: number }) {
  const { root, depthSpx } = standingAt(scene, plane, frame);
  if (root === 'camera') return <>Rides on the camera: it keeps its place and size through every move. </>;
  const camera = cameraPoseAt(scene, frame);
  const distance = distanceSpx(camera, depthSpx);
  if (distance <= 0) return <>The camera has passed it at this frame. </>;
  const slide = (distanceSpx(camera, 0) / distance) * 100;
  const ratio = speedAtDepth(depthSpx, scene.homeDistanceSpx);
  return (
    <>
      Slides <b>{formatNumber(slide, slide < 10 ? 1 : 0)} px</b> while the datum slides 100;{' '}
      {formatNumber(ratio * 100, ratio < 0.1 ? 1 : 0)} % of the size that it would have there.{' '}
    </>
  );
}

function GapWords({ gap, lengthFrames }: { gap: EdgeGap; lengthFrames: number }) {
  const when = gap.frames === lengthFrames ? 'all through' : `from frame ${gap.firstFrame}`;
  return (
    <>
      Its {SIDE_WORDS[gap.side]} edge is in frame <b className="text-fault">{when}</b>, by{' '}
      {formatNumber(gap.worstPx)} px at worst (frame {gap.worstFrame}): paint {formatNumber(gap.paintArtPx)}{' '}
      px more {TOWARDS[gap.side]}.
    </>
  );
}
