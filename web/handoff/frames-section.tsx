import type { Scene } from '@keen-ridge/core/scene';
import type { FrameRange } from '@keen-ridge/core/staging/frame';
import { FRAMES_ASKED, type FramesAsked, type HandoffWish } from '../session/choices/handoff-wish.ts';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { Choice } from '../ui/fields/choice.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { handoffWords as say } from '../words/handoff.ts';

interface FramesSectionProps {
  scene: Scene;
  /** In and out of the shot, where they are set. */
  inOut: FrameRange | null;
  /** As they are meant now, both ends counted. */
  firstFrame: number;
  lastFrame: number;
  frames: FramesAsked;
  onWish: (part: Partial<HandoffWish>) => void;
}

/** Which frames are handed off, and how many more at both ends. */
export function FramesSection({ scene, inOut, firstFrame, lastFrame, frames, onWish }: FramesSectionProps) {
  const settings = usePreferences((state) => state.handoff);
  const words = {
    whole: say.theShotAsAWhole,
    'in-out': inOut ? say.inToOut(inOut.start, inOut.end - 1) : '',
    typed: say.typed,
  };
  const type = (part: { firstFrame?: number; lastFrame?: number }) => {
    const first = Math.round(part.firstFrame ?? firstFrame);
    const last = Math.round(part.lastFrame ?? lastFrame);
    const typed =
      part.firstFrame === undefined
        ? { firstFrame: Math.min(first, last), lastFrame: last }
        : { firstFrame: first, lastFrame: Math.max(first, last) };
    onWish({ frames: 'typed', typed });
  };
  return (
    <>
      <div className="mt-3">
        <Choice
          label={say.frames}
          options={FRAMES_ASKED.filter((one) => one !== 'in-out' || inOut)}
          words={words}
          value={frames}
          onChange={(chosen) => onWish({ frames: chosen, typed: { firstFrame, lastFrame } })}
        />
      </div>
      <div className="mt-2 grid grid-cols-3 gap-2.5">
        <NumberField
          label={say.firstFrame}
          unit="f"
          value={firstFrame}
          min={1}
          max={scene.lengthFrames}
          onCommit={(v) => type({ firstFrame: v })}
        />
        <NumberField
          label={say.lastFrame}
          unit="f"
          value={lastFrame}
          min={1}
          max={scene.lengthFrames}
          onCommit={(v) => type({ lastFrame: v })}
        />
        <NumberField
          label={say.handlesAtBothEnds}
          unit="f"
          value={settings.handles}
          min={0}
          max={500}
          onCommit={(v) => setPreferences({ handoff: { ...settings, handles: Math.round(v) } })}
        />
      </div>
    </>
  );
}
