import type { PointerEvent, ReactNode } from 'react';
import { useSession, useSessionState } from '../session/use-session.ts';

interface FrameSliderProps {
  /** The frame at `x` px from the slider's left edge; `width` is the slider's own. */
  frameAt: (x: number, width: number) => number;
  className: string;
  children: ReactNode;
}

/** A strip along which the playhead is dragged. Dragging stops the play. */
export function FrameSlider({ frameAt, className, children }: FrameSliderProps) {
  const session = useSession();
  const frame = useSessionState((state) => state.frame);
  const lengthFrames = useSessionState((state) => state.scene.lengthFrames);
  const follow = (event: PointerEvent<HTMLDivElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const { left, width } = event.currentTarget.getBoundingClientRect();
    session.goTo(frameAt(event.clientX - left, width));
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Frame"
      aria-valuemin={1}
      aria-valuemax={lengthFrames}
      aria-valuenow={frame}
      className={`cursor-pointer touch-none ${className}`}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        session.setPlaying(false);
        follow(event);
      }}
      onPointerMove={follow}
      // Where it is let go counts: on a busy machine the last move may come with the release alone.
      onPointerUp={follow}
    >
      {children}
    </div>
  );
}
