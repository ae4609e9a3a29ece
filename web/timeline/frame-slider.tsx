import { type ReactNode, useRef } from 'react';
import { useEachFrame } from '../session/pace/use-frame.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { useDrag } from '../ui/pointer/drag.ts';
import { timelineWords as say } from '../words/timeline.ts';

interface FrameSliderProps {
  /** The frame at `x` px from the slider's left edge; `width` is the slider's own. */
  frameAt: (x: number, width: number) => number;
  className: string;
  children: ReactNode;
}

/** A strip along which the playhead is dragged. Dragging stops the play. */
export function FrameSlider({ frameAt, className, children }: FrameSliderProps) {
  const session = useSession();
  const slider = useRef<HTMLDivElement>(null);
  useEachFrame((frame) => slider.current?.setAttribute('aria-valuenow', `${frame}`));
  const lengthFrames = useSessionState((state) => state.scene.lengthFrames);
  const drag = useDrag<HTMLDivElement>(
    (down) => {
      const { left, width } = down.currentTarget.getBoundingClientRect();
      session.setPlaying(false);
      return { move: ({ clientX }) => session.goTo(frameAt(clientX - left, width)) };
    },
    { slackPx: 0 },
  );
  return (
    <div
      ref={slider}
      role="slider"
      tabIndex={0}
      aria-label={say.frame}
      aria-valuemin={1}
      aria-valuemax={lengthFrames}
      aria-valuenow={session.state.frame}
      className={`cursor-pointer touch-none ${className}`}
      {...drag}
    >
      {children}
    </div>
  );
}
