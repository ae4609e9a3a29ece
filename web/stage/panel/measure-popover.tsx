import { setPlanesDepth } from '@keen-ridge/core/edits/depth';
import { setRunSpeed } from '@keen-ridge/core/edits/runs';
import type { Plane } from '@keen-ridge/core/scene';
import { crossingPx, depthToCross } from '@keen-ridge/core/staging';
import { memo, useState } from 'react';
import { usePreferences } from '../../session/choices/preferences.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { formatNumber } from '../../ui/format.ts';
import { Popover } from '../../ui/popover.tsx';
import { settingTrial } from '../../ui/trial.ts';
import { stageWords as say } from '../../words/stage.ts';

/** A speed by what is to be seen: how long the frame takes to cross, or one spot in two frames. */
export const MeasurePopover = memo(function MeasurePopover({ id, name }: Pick<Plane, 'id' | 'name'>) {
  const session = useSession();
  const scene = useSessionState((state) => state.scene);
  const frame = useCalmFrame();
  const [seconds, setSeconds] = useState(3);
  const [open, setOpen] = useState(false);
  const depthSpx = depthToCross(scene, frame, seconds);
  const px = crossingPx(scene, seconds);
  const byDepth = () => {
    if (depthSpx === null) return;
    const mode = { atFrame: frame, holdPicture: usePreferences.getState().holdPicture };
    session.commit('set-depth', name, setPlanesDepth(scene, new Map([[id, depthSpx]]), mode));
    setOpen(false);
  };
  const byRun = (way: 1 | -1) => () => {
    const speed = { x: px * way, unit: 'own' as const };
    const next = setRunSpeed(scene, new Set([id]), speed, { frame, keying: false });
    session.commit('set-run', name, next);
    setOpen(false);
  };
  return (
    <Popover label={say.measure} open={open} onOpenChange={setOpen} wide>
      <NumberField
        label={say.crossesTheFrameIn}
        unit="s"
        decimals={2}
        step={0.1}
        min={0.05}
        max={10_000}
        value={seconds}
        trial={settingTrial(seconds, setSeconds)}
      />
      <p className="mt-2 text-[12px] text-ink-2">
        {say.thatIsPxPxA(formatNumber(px, 2))}
        {depthSpx === null ? say.theCameraDoesNotPan : say.withThePanAtThis(formatNumber(depthSpx, 0, true))}
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={depthSpx === null} onClick={byDepth}>
          {say.byDepth}
        </Button>
        <Button onClick={byRun(-1)}>{say.runWest}</Button>
        <Button onClick={byRun(1)}>{say.runEast}</Button>
      </div>
      <hr className="my-3 border-rule-light" />
      <p className="text-[12px] text-ink-2">{say.orPointAtOneSpot}</p>
      <div className="mt-2">
        <Button
          onClick={() => {
            session.setMeasuring({ planeId: id, first: null });
            setOpen(false);
          }}
        >
          {say.pointAtTwoSpots}
        </Button>
      </div>
    </Popover>
  );
});
