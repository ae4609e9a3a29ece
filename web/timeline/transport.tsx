import { secondsOfFrames } from '@keen-ridge/core/timing';
import { rationalText } from '@keen-ridge/core/units';
import { Pause, Play } from 'lucide-react';
import { useRef } from 'react';
import { useEachFrame } from '../session/pace/use-frame.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { formatSeconds } from '../ui/format.ts';
import { timelineWords as say } from '../words/timeline.ts';
import { FrameSlider } from './frame-slider.tsx';

/** Play, and a small ruler to scrub along. */
export function Transport() {
  const { lengthFrames, rate } = useSessionState((state) => state.scene);
  return (
    <div className="flex h-9 shrink-0 items-center gap-3 border-y border-rule bg-bar px-3">
      <PlayButton />
      <FrameNumber />
      <Ruler lengthFrames={lengthFrames} />
      <span className="num shrink-0">
        {lengthFrames} f · {formatSeconds(secondsOfFrames(lengthFrames, rate))} · {rationalText(rate)}
      </span>
    </div>
  );
}

function FrameNumber() {
  const text = useRef<HTMLSpanElement>(null);
  useEachFrame((frame) => {
    if (text.current) text.current.textContent = `${frame}`;
  });
  return (
    <span ref={text} className="num w-9 text-right font-semibold text-signal" data-testid="current-frame" />
  );
}

export function PlayButton() {
  const session = useSession();
  const playing = useSessionState((state) => state.playing);
  return (
    <Button
      tone="bare"
      icon
      aria-label={playing ? say.stop : say.play}
      onClick={() => session.setPlaying(!playing)}
    >
      {playing ? (
        <Pause size={14} aria-hidden="true" fill="currentColor" />
      ) : (
        <Play size={14} aria-hidden="true" fill="currentColor" />
      )}
    </Button>
  );
}

const TICKS = Array.from({ length: 25 }, (_, i) => i);

function Ruler({ lengthFrames }: { lengthFrames: number }) {
  const playhead = useRef<HTMLDivElement>(null);
  useEachFrame((frame) => {
    const share = lengthFrames > 1 ? (frame - 1) / (lengthFrames - 1) : 0;
    if (playhead.current) playhead.current.style.left = `${share * 100}%`;
  });
  return (
    <FrameSlider
      className="relative h-6 min-w-0 flex-1"
      frameAt={(x, width) => 1 + (x / width) * (lengthFrames - 1)}
    >
      <div className="absolute inset-x-0 bottom-1 border-t border-rule" />
      {TICKS.map((tick) => (
        <div
          key={tick}
          className="absolute bottom-1 w-px bg-rule"
          style={{ left: `${(tick / 24) * 100}%`, height: tick % 4 === 0 ? 9 : 5 }}
        />
      ))}
      <div ref={playhead} className="absolute bottom-0.5 top-0.5 w-[3px] -translate-x-1/2 bg-signal" />
    </FrameSlider>
  );
}
