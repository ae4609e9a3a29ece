import { SIDES, type Side } from '@keen-ridge/core/image';
import type { PlaneId } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { Finding } from '@keen-ridge/core/survey';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useMemo, useRef } from 'react';
import { depthColour } from '../planes/depth-colour.ts';
import { useEachFrame } from '../session/pace/use-frame.ts';
import type { PlaneRibbon } from '../session/survey/survey-messages.ts';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { FrameSlider } from '../timeline/frame-slider.tsx';
import { useElementSize } from '../ui/use-element-size.ts';
import { surveyWords as say } from '../words/survey.ts';

const ROW_HEIGHT = 30;
const HEAD_WIDTH = 170;
const HALF = ROW_HEIGHT / 2 - 2;
/** Sides of the frame whose margins stand over the line, and under it. */
const ABOVE: readonly Side[] = ['left', 'top'];
const BELOW: readonly Side[] = ['right', 'bottom'];
const ROWS_READY = 6;
/** Spare px that fill a ribbon's half height, as a share of the frame's width. */
const FULL = 0.5;

/** What is spare beyond the frame, plane by plane, over the shot: to the west or north above the line, to the east or south below it. */
export function Ribbons({ finding }: { finding: Finding | null }) {
  const session = useSession();
  const { answer, isOld } = useSurvey();
  const scene = useSessionState((state) => state.scene);
  const lanes = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(lanes);
  const line = useRef<HTMLDivElement>(null);
  const { lengthFrames } = scene;
  const xAt = (frame: number) => ((frame - 0.5) / lengthFrames) * width;
  useEachFrame((frame) => {
    if (line.current) line.current.style.left = `${xAt(frame)}px`;
  });
  const byId = useMemo(() => new Map(answer?.ribbons.map((one) => [one.planeId, one])), [answer]);
  const planes = planesOf(scene).filter(({ id }) => byId.has(id));
  const faults = useMemo(() => faultySides(answer?.findings ?? []), [answer]);
  const chosen = finding && 'planeId' in finding ? finding.planeId : null;
  const scroll = useRef<HTMLElement>(null);
  const virtual = useVirtualizer({
    count: planes.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: ROWS_READY,
  });
  const rows = virtual.getVirtualItems().map(({ index, start }) => ({ plane: planes[index]!, start }));
  return (
    <section
      ref={scroll}
      aria-label={say.clearance}
      className={`max-h-[300px] shrink-0 overflow-y-auto border-t border-rule bg-bar ${isOld ? 'opacity-60' : ''}`}
    >
      {planes.length === 0 && <p className="px-3.5 py-4 text-ink-2">{say.whatIsSpareBeyondThe}</p>}
      <div className="flex" style={{ height: virtual.getTotalSize() }}>
        <div className="relative shrink-0 border-r border-rule" style={{ width: HEAD_WIDTH }}>
          {rows.map(({ plane: { id, name }, start }) => (
            <button
              key={id}
              type="button"
              className={`narrow absolute inset-x-0 cursor-pointer truncate px-3 text-left ${id === chosen ? 'font-semibold' : ''}`}
              style={{ height: ROW_HEIGHT, top: start }}
              onClick={() => session.select([id])}
            >
              {name}
            </button>
          ))}
        </div>
        <div ref={lanes} className="relative min-w-0 flex-1">
          <FrameSlider
            className="relative h-full"
            frameAt={(x, wide) => Math.ceil((x / Math.max(1, wide)) * lengthFrames)}
          >
            {width > 0 &&
              rows.map(({ plane: { id, depthSpx }, start }) => (
                <Ribbon
                  key={id}
                  top={start}
                  ribbon={byId.get(id)!}
                  faults={faults.get(id) ?? ''}
                  colour={depthColour(scene.homeDistanceSpx / (scene.homeDistanceSpx + depthSpx) || 0.05)}
                  width={width}
                  full={scene.frame.widthPx * FULL}
                />
              ))}
          </FrameSlider>
          <div ref={line} className="pointer-events-none absolute inset-y-0 w-px bg-signal" />
        </div>
      </div>
    </section>
  );
}

/** Sides of the arts that run out somewhere in the shot, by plane. */
function faultySides(findings: readonly Finding[]): ReadonlyMap<PlaneId, string> {
  const sides = new Map<PlaneId, string>();
  for (const one of findings)
    if (one.code === 'edge') sides.set(one.planeId, `${sides.get(one.planeId) ?? ''} ${one.artSide}`);
  return sides;
}

interface RibbonProps {
  ribbon: PlaneRibbon;
  /** Sides of its art that are found to run out. */
  faults: string;
  colour: string;
  width: number;
  top: number;
  /** Spare px that fill half the height. */
  full: number;
}

/** One plane: spare above and below the line, hatched where a side stands in the frame. */
const Ribbon = memo(function Ribbon({ ribbon, faults, colour, width, top, full }: RibbonProps) {
  const count = ribbon.seenPx.length;
  const step = Math.max(1, Math.floor(count / Math.max(1, width / 2)));
  const frames = Array.from({ length: Math.ceil(count / step) }, (_, i) => i * step);
  const x = (i: number) => ((i + 0.5) / count) * width;
  const middle = ROW_HEIGHT / 2;
  const half = (name: string, looks: readonly Side[], sign: 1 | -1) => {
    const spare = frames.map((i) => [i, spareAt(ribbon, faults, looks, i)] as const);
    const high = (px: number) => Math.min(HALF, (Math.max(0, px) / full) * HALF + (px > 0 ? 1 : 0));
    const area = spare.map(([i, px]) => `${x(i)},${middle - sign * (px === null ? 0 : high(px))}`);
    const gaps = spare.filter(([, px]) => px !== null && px < 0);
    return (
      <g key={name}>
        <polygon
          points={`${x(0)},${middle} ${area.join(' ')} ${x(count - 1)},${middle}`}
          fill={colour}
          fillOpacity={0.45}
        />
        {gaps.map(([i]) => (
          <rect
            key={i}
            x={x(i) - (width / count) * step * 0.5}
            y={sign === 1 ? middle - HALF * 0.7 : middle}
            width={Math.max(1, (width / count) * step)}
            height={HALF * 0.7}
            fill="var(--color-fault)"
            fillOpacity={0.75}
          />
        ))}
      </g>
    );
  };
  return (
    <svg
      width={width}
      height={ROW_HEIGHT}
      className="absolute left-0 border-b border-rule-light"
      style={{ top }}
      aria-hidden="true"
    >
      {half('above', ABOVE, 1)}
      {half('below', BELOW, -1)}
      <line x1={0} x2={width} y1={middle} y2={middle} stroke="var(--color-ink-3)" />
    </svg>
  );
});

/**
 * The least that is spare on the sides of the plane that look there, output px; null where it has no end there. A side
 * that stands in the frame and is no fault (a horizon, what nearer planes hide) has nothing to spare and nothing amiss.
 */
function spareAt(
  { inside, looksTo }: PlaneRibbon,
  faults: string,
  looks: readonly Side[],
  i: number,
): number | null {
  let least: number | null = null;
  for (const side of SIDES) {
    const value = inside[side][i]!;
    if (Number.isNaN(value) || !looks.includes(SIDES[looksTo[side][i]!]!)) continue;
    if (value > 0 && !faults.includes(side)) continue;
    if (least === null || -value < least) least = -value;
  }
  return least;
}
