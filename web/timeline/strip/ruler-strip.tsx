import { deleteMarker, setMarker } from '@keen-ridge/core/edits/shot';
import { markersOf } from '@keen-ridge/core/scene/records';
import { secondsAtFrame, timecodeLabel } from '@keen-ridge/core/timing';
import { rationalToNumber } from '@keen-ridge/core/units';
import { Popover as Radix } from 'radix-ui';
import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import { usePreferences } from '../../session/choices/preferences.ts';
import { playRange, useShotView } from '../../session/choices/shot-view.ts';
import { useEachFrame } from '../../session/pace/use-frame.ts';
import { useSession, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { formatNumber } from '../../ui/format.ts';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import { FrameSlider } from '../frame-slider.tsx';
import { markStep, type TimeScale } from '../time-scale.ts';
import { RULER_HEIGHT } from './strip-sizes.ts';

const LEAST_MARK_PX = { seconds: 92, timecode: 104 } as const;
const TICKS_TOP = RULER_HEIGHT - 14;

interface RulerProps {
  scale: TimeScale;
  width: number;
}

/** Frames and seconds, markers, the range that plays, what is rendered ahead, and where the playhead stands. */
export function RulerStrip({ scale, width }: RulerProps) {
  const { lengthFrames, rate } = useShownScene();
  const labels = usePreferences((state) => state.rulerLabels);
  const step = markStep(rationalToNumber(rate), scale.pxPerFrame, LEAST_MARK_PX[labels]);
  const from = Math.max(0, Math.floor((scale.first - 1) / step));
  const to = Math.min(Math.floor((lengthFrames - 1) / step), Math.ceil((scale.last - 1) / step));
  const marks = Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => 1 + (from + i) * step);
  const firstSeen = Math.max(1, scale.first);
  const fine =
    scale.pxPerFrame >= 4
      ? Array.from(
          { length: Math.max(0, Math.min(lengthFrames, scale.last) - firstSeen + 1) },
          (_, i) => firstSeen + i,
        )
      : [];
  const label = (frame: number) =>
    labels === 'timecode'
      ? `${frame} · ${timecodeLabel(frame, rate, true).slice(3)}`
      : `${frame} · ${formatNumber(secondsAtFrame(frame, rate), 2)}s`;
  return (
    <>
      <FrameSlider className="absolute inset-0" frameAt={scale.frameAt}>
        <svg aria-hidden="true" width={width} height={RULER_HEIGHT} className="block">
          {fine.map((f) => (
            <line
              key={f}
              x1={scale.xAt(f)}
              x2={scale.xAt(f)}
              y1={TICKS_TOP + 8}
              y2={RULER_HEIGHT}
              stroke="var(--color-rule)"
            />
          ))}
          {marks.map((f) => (
            <g key={f}>
              <line
                x1={scale.xAt(f)}
                x2={scale.xAt(f)}
                y1={TICKS_TOP}
                y2={RULER_HEIGHT}
                stroke="var(--color-ink-3)"
              />
              <text x={scale.xAt(f) + 3} y={TICKS_TOP + 2} className="num" fill="var(--color-ink-2)">
                {label(f)}
              </text>
            </g>
          ))}
          <Ahead scale={scale} />
          <NowFlag scale={scale} width={width} />
        </svg>
      </FrameSlider>
      <RangeHandles scale={scale} />
      <Markers scale={scale} />
    </>
  );
}

function NowFlag({ scale, width }: RulerProps) {
  const [line, flag, text] = [
    useRef<SVGLineElement>(null),
    useRef<SVGGElement>(null),
    useRef<SVGTextElement>(null),
  ];
  useEachFrame((frame) => {
    const x = scale.xAt(frame);
    line.current?.setAttribute('transform', `translate(${x},0)`);
    flag.current?.setAttribute('transform', `translate(${Math.min(width - 22, Math.max(22, x))},0)`);
    if (text.current) text.current.textContent = `${frame}`;
  });
  return (
    <>
      <line ref={line} y1={16} y2={RULER_HEIGHT} stroke="var(--color-signal)" />
      <g ref={flag}>
        <rect x={-17} y={1} width={34} height={15} rx={2} fill="var(--color-signal)" />
        <text
          ref={text}
          y={12.5}
          textAnchor="middle"
          className="num"
          fill="var(--color-raised)"
          fontWeight={700}
          data-testid="current-frame"
        />
      </g>
    </>
  );
}

/** Frames that wait rendered, as a bar under the ruler: they play in real time. */
function Ahead({ scale }: { scale: TimeScale }) {
  const session = useSession();
  const frames = useStore(session.preroll, (state) => state.frames);
  const runs = runsOf([...frames].sort((p, q) => p - q));
  return runs.map(([first, last]) => (
    <rect
      key={first}
      x={scale.xAt(first - 0.5)}
      y={RULER_HEIGHT - 4}
      width={Math.max(1, (last - first + 1) * scale.pxPerFrame)}
      height={3}
      fill="var(--color-ink-3)"
      data-testid="ahead"
    />
  ));
}

/** Frames in order as [first, last] of every unbroken run. */
export function runsOf(frames: readonly number[]): [number, number][] {
  const runs: [number, number][] = [];
  for (const frame of frames) {
    const run = runs.at(-1);
    if (run && frame === run[1] + 1) run[1] = frame;
    else runs.push([frame, frame]);
  }
  return runs;
}

/** In and out, where they are set: dragged along the ruler. */
function RangeHandles({ scale }: { scale: TimeScale }) {
  const [view] = useShotView();
  if (!view.range) return null;
  return (
    <>
      <RangeHandle side="in" scale={scale} />
      <RangeHandle side="out" scale={scale} />
    </>
  );
}

function RangeHandle({ side, scale }: { side: 'in' | 'out'; scale: TimeScale }) {
  const [view, setView] = useShotView();
  const { lengthFrames } = useShownScene();
  const { start, end } = playRange(view.range, lengthFrames);
  const frame = side === 'in' ? start : end - 1;
  const to = (wanted: number) => {
    const at = Math.min(lengthFrames, Math.max(1, wanted));
    setView({
      range: side === 'in' ? { start: Math.min(at, end - 1), end } : { start, end: Math.max(at, start) + 1 },
    });
  };
  const drag = useDrag<HTMLDivElement>(
    (down) => {
      const left = down.currentTarget.parentElement?.getBoundingClientRect().left ?? 0;
      const { range } = view;
      return { move: ({ clientX }) => to(scale.frameAt(clientX - left)), drop: () => setView({ range }) };
    },
    { slackPx: 1 },
  );
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={side === 'in' ? say.inFirstFrameThatPlays : say.outLastFrameThatPlays}
      aria-valuemin={1}
      aria-valuemax={lengthFrames}
      aria-valuenow={frame}
      className={`absolute bottom-0 h-4 w-2 cursor-ew-resize touch-none bg-ink ${side === 'in' ? 'rounded-l-[3px]' : 'rounded-r-[3px]'}`}
      style={{ left: scale.xAt(frame) - (side === 'in' ? 8 : 0) }}
      onKeyDown={(event) => {
        const by = arrowStep(event);
        if (!by?.x) return;
        event.preventDefault();
        to(frame + by.x);
      }}
      {...drag}
    />
  );
}

function Markers({ scale }: { scale: TimeScale }) {
  const markers = markersOf(useShownScene());
  return markers
    .filter(({ frame }) => frame >= scale.first && frame <= scale.last)
    .map((marker) => <MarkerFlag key={marker.frame} {...marker} x={scale.xAt(marker.frame)} />);
}

/** A marker and its note: a click goes there and opens it. */
function MarkerFlag({ frame, note, x }: { frame: number; note: string; x: number }) {
  const session = useSession();
  const [draft, setDraft] = useState<string | null>(null);
  const keep = () => {
    if (draft !== null && draft !== note)
      session.commit('set-marker', `${frame}`, setMarker(session.state.scene, frame, draft));
    setDraft(null);
  };
  // The popover closes by Escape, which gives the note up, and by a press elsewhere, which keeps it.
  const dropped = useRef(false);
  return (
    <Radix.Root
      open={draft !== null}
      onOpenChange={(open) => {
        if (open) {
          session.goTo(frame);
          dropped.current = false;
          setDraft(note);
        } else if (dropped.current) setDraft(null);
        else keep();
      }}
    >
      <Radix.Trigger asChild>
        <button
          type="button"
          aria-label={say.markerAtFrameFrameValue(frame, note ? `: ${note}` : '')}
          title={note || say.markerAtFrame(frame)}
          className="narrow absolute top-[15px] flex h-[13px] cursor-pointer items-center border-l-2 border-select bg-select-wash px-1 text-[11px] leading-none"
          style={{ left: x - 1, maxWidth: 120 }}
        >
          <span className="truncate">{note || '·'}</span>
        </button>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          side="top"
          align="start"
          sideOffset={4}
          className="z-50 w-64 rounded-[3px] border border-rule bg-raised p-3 shadow-lg"
          onEscapeKeyDown={() => {
            dropped.current = true;
          }}
        >
          <TextField
            label={say.noteAtFrameFrame(frame)}
            value={draft ?? ''}
            maxLength={500}
            onChange={(event) => setDraft(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter') keep();
            }}
          />
          <div className="mt-2 flex justify-end">
            <Button
              tone="danger"
              onClick={() => {
                setDraft(null);
                session.commit('delete-marker', `${frame}`, deleteMarker(session.state.scene, frame));
              }}
            >
              {say.deleteIt}
            </Button>
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
