import type { Plane, Scene } from '@keen-ridge/core/scene';
import { distanceSpx, speedAtDepth } from '@keen-ridge/core/stage';
import { cameraPoseAt, standingAt } from '@keen-ridge/core/staging';
import { findingFrames, findingSentence, findingTitle } from '@keen-ridge/core/words';
import { useNames } from '../edits/names.ts';
import { useCalmFrame } from '../session/pace/use-calm.ts';
import { usePlaneFindings } from '../session/survey/use-survey.ts';
import { formatNumber } from '../ui/format.ts';
import { stageWords as say } from '../words/stage.ts';

/** What a plane's depth means on screen, and what is wrong with it first of all. */
export function PlaneSentence({ plane, shown }: { plane: Plane; shown: Scene }) {
  const frame = useCalmFrame();
  const [worst] = usePlaneFindings(plane.id);
  const names = useNames();
  return (
    <p className="narrow mt-2 text-[12.5px] leading-snug">
      <SpeedWords plane={plane} scene={shown} frame={frame} />
      {worst && (
        <>
          <b className="text-fault">{findingTitle(worst, names)}</b> ({findingFrames(worst)}).{' '}
          {findingSentence(worst)}
        </>
      )}
    </p>
  );
}

function SpeedWords({ plane, scene, frame }: { plane: Plane; scene: Scene; frame: number }) {
  const { root, depthSpx } = standingAt(scene, plane, frame);
  if (root === 'camera') return <>{say.ridesOnTheCameraIt}</>;
  const camera = cameraPoseAt(scene, frame);
  const distance = distanceSpx(camera, depthSpx);
  if (distance <= 0) return <>{say.theCameraHasPassedIt}</>;
  const slide = (distanceSpx(camera, 0) / distance) * 100;
  const ratio = speedAtDepth(depthSpx, scene.homeDistanceSpx);
  return (
    <>
      {say.slides}
      <b>{formatNumber(slide, slide < 10 ? 1 : 0)} px</b>
      {say.whileTheDatumSlidesFull} {formatNumber(ratio * 100, ratio < 0.1 ? 1 : 0)}
      {say.ofTheSizeThatIt}{' '}
    </>
  );
}
