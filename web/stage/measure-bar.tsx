import { planeOf } from '@keen-ridge/core/scene/records';
import { useCalmFrame } from '../session/pace/use-calm.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { stageWords as say } from '../words/stage.ts';

/** What to do next while a speed is measured in the picture. */
export function MeasureBar() {
  const session = useSession();
  const measuring = useSessionState((state) => state.measuring);
  const frame = useCalmFrame();
  const name = useSessionState((state) => planeOf(state.scene, state.measuring?.planeId)?.name);
  if (!measuring) return null;
  const words = !measuring.first
    ? say.clickASpotOf(name ?? '')
    : measuring.first.frame === frame
      ? say.nowGoToAnotherFrame
      : say.clickWhereItShouldBe(frame);
  return (
    <div
      role="status"
      className="flex h-9 shrink-0 items-center gap-3 border-b border-rule bg-select-wash px-3"
    >
      {words}
      <span className="flex-1" />
      <Button onClick={() => session.setMeasuring(null)}>{say.cancel}</Button>
    </div>
  );
}
