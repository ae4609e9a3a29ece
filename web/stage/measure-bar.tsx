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
    ? `Click a spot of ${name} in the picture through the camera, in this frame.`
    : measuring.first.frame === frame
      ? 'Now go to another frame, and click where that spot should be then.'
      : `Click where that spot should be in frame ${frame}.`;
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
