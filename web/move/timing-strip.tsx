import { CAMERA_CHANNELS } from '@keen-ridge/core/document';
import { secondsAtFrame } from '@keen-ridge/core/timing';
import { rationalToNumber } from '@keen-ridge/core/units';
import { useRef } from 'react';
import { useElementSize } from '../picture/use-element-size.ts';
import { FrameSlider } from '../shot/frame-slider.tsx';
import { PlayButton } from '../stage/transport.tsx';
import { setPreferences, usePreferences } from '../state/preferences.ts';
import { useSessionState, useShownScene } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { formatNumber } from '../ui/format.ts';
import { ChannelHead } from './channel-head.tsx';
import { ChannelRow } from './channel-row.tsx';
import { EaseBar } from './ease-bar.tsx';
import { ShotLength } from './shot-length.tsx';
import { markStep, type TimeScale, timeScale } from './time-scale.ts';

const HEAD_WIDTH = 216;
const RULER_HEIGHT = 26;
export const ROW_HEIGHT = 34;

/** Time across, a row a channel: keys upright, spans filled with their speed. */
export function TimingStrip() {
  const lanes = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(lanes);
  const { lengthFrames } = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const scale = timeScale(lengthFrames, width);
  return (
    <section aria-label="Timing" className="shrink-0 border-t border-rule bg-bar">
      <div className="flex h-[34px] items-center gap-2 border-b border-rule px-3">
        <PlayButton />
        <LoopSwitch />
        <ShotLength />
        <span className="flex-1" />
        <EaseBar />
      </div>
      <div className="flex">
        <div className="shrink-0 border-r border-rule" style={{ width: HEAD_WIDTH }}>
          <div
            className="flex items-center border-b border-rule px-3 font-semibold"
            style={{ height: RULER_HEIGHT }}
          >
            Camera
          </div>
          {CAMERA_CHANNELS.map((name) => (
            <ChannelHead key={name} name={name} />
          ))}
        </div>
        <div ref={lanes} className="relative min-w-0 flex-1 select-none">
          {width > 0 && (
            <>
              <Ruler scale={scale} width={width} />
              {CAMERA_CHANNELS.map((name) => (
                <ChannelRow key={name} name={name} scale={scale} width={width} />
              ))}
              <div
                className="pointer-events-none absolute bottom-0 w-px bg-signal"
                style={{ left: scale.xAt(frame), top: RULER_HEIGHT - 4 }}
              />
            </>
          )}
        </div>
      </div>
    </section>
  );
}

function LoopSwitch() {
  const loop = usePreferences((state) => state.loop);
  return (
    <Button on={loop} onClick={() => setPreferences({ loop: !loop })}>
      Loop
    </Button>
  );
}

const LEAST_MARK_PX = 92;

function Ruler({ scale, width }: { scale: TimeScale; width: number }) {
  const { lengthFrames, rate } = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const step = markStep(rationalToNumber(rate), scale.pxPerFrame, LEAST_MARK_PX);
  const marks = Array.from({ length: Math.floor((lengthFrames - 1) / step) + 1 }, (_, i) => 1 + i * step);
  const fine = scale.pxPerFrame >= 4 ? Array.from({ length: lengthFrames }, (_, i) => i + 1) : [];
  const flag = Math.min(width - 22, Math.max(22, scale.xAt(frame)));
  return (
    <FrameSlider className="border-b border-rule" frameAt={scale.frameAt}>
      <svg aria-hidden="true" width={width} height={RULER_HEIGHT} className="block">
        {fine.map((f) => (
          <line key={f} x1={scale.xAt(f)} x2={scale.xAt(f)} y1={22} y2={RULER_HEIGHT} stroke="#c9c9c9" />
        ))}
        {marks.map((f) => (
          <g key={f}>
            <line x1={scale.xAt(f)} x2={scale.xAt(f)} y1={16} y2={RULER_HEIGHT} stroke="#8a8a8a" />
            <text x={scale.xAt(f) + 3} y={13} className="num" fill="#5a5a5a">
              {f} · {formatNumber(secondsAtFrame(f, rate), 2)}s
            </text>
          </g>
        ))}
        <rect x={flag - 17} y={2} width={34} height={15} rx={2} fill="#c8401a" />
        <text
          x={flag}
          y={13.5}
          textAnchor="middle"
          className="num"
          fill="#fff"
          fontWeight={700}
          data-testid="current-frame"
        >
          {frame}
        </text>
      </svg>
    </FrameSlider>
  );
}
