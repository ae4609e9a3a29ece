import type { Scene } from '@keen-ridge/core/scene';
import { channelAt, channelRef } from '@keen-ridge/core/staging';
import { type RefObject, useMemo, useRef, useState } from 'react';
import { setPreferences, usePreferences } from '../../session/choices/preferences.ts';
import { playRange, useShotView } from '../../session/choices/shot-view.ts';
import { useEachFrame } from '../../session/pace/use-frame.ts';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import { useRoving } from '../../ui/pointer/roving.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { useWheel } from '../../viewport/use-wheel.ts';
import { EaseBar } from '../controls/ease-bar.tsx';
import { KeysPopover } from '../controls/keys-popover.tsx';
import { PinPopover } from '../controls/pin-popover.tsx';
import { PlayPopover } from '../controls/play-popover.tsx';
import { ShotLength } from '../controls/shot-length.tsx';
import { SpeedNotice } from '../controls/speed-notice.tsx';
import { useKeyCommands } from '../key-commands.ts';
import { slidWindow, timeScale, WHOLE_STRIP, zoomedWindow } from '../time-scale.ts';
import { PlayButton } from '../transport.tsx';
import { GroupLane, Lane } from './lane.tsx';
import { ChannelHead, GroupHead } from './row-head.tsx';
import { RulerStrip } from './ruler-strip.tsx';
import { type StripRow, stripRows } from './strip-rows.ts';
import { GROUP_HEIGHT, HEAD_WIDTH, ROW_HEIGHT, RULER_HEIGHT } from './strip-sizes.ts';

const HEIGHTS = { least: 120, most: 620, step: 30 };
/** Rows beyond the room that are drawn too, so that scrolling does not show a gap. */
const SPARE_PX = 160;

interface PlacedRow {
  readonly row: StripRow;
  readonly top: number;
  readonly height: number;
}

function placed(rows: readonly StripRow[]): PlacedRow[] {
  let top = 0;
  return rows.map((row) => {
    const height = row.kind === 'group' ? GROUP_HEIGHT : ROW_HEIGHT;
    const here = { row, top, height };
    top += height;
    return here;
  });
}

/** Time across, a row a channel: keys upright, spans filled with their speed. */
export function TimingStrip() {
  useKeyCommands();
  return (
    <section aria-label="Timing" className="relative shrink-0 border-t border-rule bg-bar">
      <HeightHandle />
      <div className="flex h-[34px] items-center gap-1.5 border-b border-rule px-3">
        <PlayButton />
        <LoopSwitch />
        <PlayPopover />
        <ShotLength />
        <PinPopover />
        <SpeedNotice />
        <span className="flex-1" />
        <EaseBar />
        <KeysPopover />
      </div>
      <Rows />
    </section>
  );
}

/** The upper edge of the strip: dragged, it gives the rows more room or less. */
function HeightHandle() {
  const height = usePreferences((state) => state.stripHeight);
  const to = (px: number) =>
    setPreferences({ stripHeight: Math.min(HEIGHTS.most, Math.max(HEIGHTS.least, Math.round(px))) });
  const drag = useDrag<HTMLDivElement>(
    () => ({ move: ({ dy }) => to(height - dy), drop: () => to(height) }),
    { slackPx: 1 },
  );
  return (
    // biome-ignore lint/a11y/useSemanticElements: a rule cannot be dragged
    <div
      role="separator"
      tabIndex={0}
      aria-label="Height of the timing strip"
      aria-orientation="horizontal"
      aria-valuemin={HEIGHTS.least}
      aria-valuemax={HEIGHTS.most}
      aria-valuenow={height}
      className="absolute inset-x-0 -top-1 z-30 h-2 cursor-ns-resize touch-none hover:bg-rule"
      onKeyDown={(event) => {
        const by = arrowStep(event);
        if (!by?.y) return;
        event.preventDefault();
        to(height - by.y * HEIGHTS.step);
      }}
      {...drag}
    />
  );
}

function Rows() {
  const session = useSession();
  const scene = useShownScene();
  const [view] = useShotView();
  const scroller = useRef<HTMLDivElement>(null);
  const lanes = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(lanes);
  const [scrollTop, setScrollTop] = useState(0);
  const room = usePreferences((state) => state.stripHeight);
  const [strip, setStrip] = useState(WHOLE_STRIP);
  const { lengthFrames } = scene;
  const scale = useMemo(() => timeScale(lengthFrames, width, strip), [lengthFrames, width, strip]);
  const rows = useMemo(
    () => placed(stripRows(scene, view.pinned, view.folded)),
    [scene, view.pinned, view.folded],
  );
  const height = rows.reduce((sum, row) => sum + row.height, 0);
  const seen = rows.filter(
    ({ top, height: h }) => top + h > scrollTop - SPARE_PX && top < scrollTop + room + SPARE_PX,
  );
  const before = seen[0]?.top ?? 0;
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const selected = useSelectedFrames(selectedKeys);
  const roving = useRoving(lanes);
  const box = useBoxSelect(rows, scale, lanes);
  useStripWheel(scroller, lanes, (event, x) => {
    if (event.ctrlKey)
      setStrip((now) => zoomedWindow(now, lengthFrames, width, Math.exp(-event.deltaY * 0.004), x));
    else {
      const by = Math.abs(event.deltaX) > Math.abs(event.deltaY) ? event.deltaX : event.deltaY;
      setStrip((now) => slidWindow(now, lengthFrames, by / scale.pxPerFrame));
    }
  });
  const zoom = (factor: number) => {
    const middle = scale.xAt(session.state.frame);
    setStrip(
      zoomedWindow(strip, lengthFrames, width, factor, middle > 0 && middle < width ? middle : width / 2),
    );
  };
  return (
    <div
      ref={scroller}
      className="relative overflow-y-auto overflow-x-hidden"
      style={{ height: room }}
      onScroll={(event) => setScrollTop(event.currentTarget.scrollTop)}
    >
      <div className="sticky top-0 z-20 flex border-b border-rule bg-bar" style={{ height: RULER_HEIGHT }}>
        <div
          className="flex shrink-0 items-center gap-1 border-r border-rule px-3"
          style={{ width: HEAD_WIDTH }}
        >
          <span className="num flex-1 text-ink-2">
            {strip.zoom > 1 ? `time × ${strip.zoom.toFixed(1)}` : 'all frames'}
          </span>
          <Button
            tone="bare"
            icon
            aria-label="Show more frames"
            disabled={strip.zoom <= 1}
            onClick={() => zoom(1 / 1.6)}
          >
            −
          </Button>
          <Button tone="bare" icon aria-label="Show fewer frames, larger" onClick={() => zoom(1.6)}>
            +
          </Button>
          <Button tone="bare" disabled={strip.zoom === 1} onClick={() => setStrip(WHOLE_STRIP)}>
            All
          </Button>
        </div>
        <div className="relative min-w-0 flex-1 overflow-hidden">
          {width > 0 && <RulerStrip scale={scale} width={width} />}
        </div>
      </div>
      <div className="flex" style={{ height }}>
        <div className="shrink-0 border-r border-rule" style={{ width: HEAD_WIDTH, paddingTop: before }}>
          {seen.map(({ row }) =>
            row.kind === 'group' ? (
              <GroupHead key={`group-${row.id}`} row={row} />
            ) : (
              <ChannelHead key={row.id} channel={row.ref} />
            ),
          )}
        </div>
        <div
          ref={lanes}
          className="relative min-w-0 flex-1 touch-none select-none overflow-hidden"
          style={{ paddingTop: before }}
          data-testid="lanes"
          role="application"
          aria-label="Keys over time"
          onPointerDown={box.onPointerDown}
          onKeyDown={roving.onKeyDown}
        >
          {width > 0 &&
            seen.map(({ row }) =>
              row.kind === 'group' ? (
                <GroupLane
                  key={`group-${row.id}`}
                  row={row}
                  scale={scale}
                  width={width}
                  selected={selectedKeys}
                />
              ) : (
                <Lane
                  key={row.id}
                  row={row}
                  scene={scene}
                  scale={scale}
                  width={width}
                  selected={selected.get(row.id) ?? NONE}
                />
              ),
            )}
          <OutOfRange scale={scale} width={width} lengthFrames={lengthFrames} />
          <Playhead xAt={scale.xAt} />
          {box.rect && (
            <div
              className="pointer-events-none absolute border border-select bg-select-wash/50"
              style={{ left: box.rect.x, top: box.rect.y, width: box.rect.width, height: box.rect.height }}
            />
          )}
        </div>
      </div>
    </div>
  );
}

const NONE: ReadonlySet<number> = new Set();

/** Frames of the chosen keys by channel; a channel whose choice stays keeps its set, so that its lane is not drawn anew. */
function useSelectedFrames(keys: readonly SelectedKey[]): ReadonlyMap<string, ReadonlySet<number>> {
  const last = useRef<ReadonlyMap<string, ReadonlySet<number>>>(new Map());
  return useMemo(() => {
    const next = new Map<string, Set<number>>();
    for (const { channel, frame } of keys) next.set(channel, (next.get(channel) ?? new Set()).add(frame));
    const kept = new Map(
      [...next].map(([channel, frames]) => {
        const was = last.current.get(channel);
        const same = was?.size === frames.size && [...frames].every((frame) => was.has(frame));
        return [channel, same && was ? was : frames] as const;
      }),
    );
    last.current = kept;
    return kept;
  }, [keys]);
}

/** The wheel scrolls rows; with Shift or sideways it scrolls time, with Ctrl it zooms it at the pointer. */
function useStripWheel(
  scroller: RefObject<HTMLElement | null>,
  lanes: RefObject<HTMLElement | null>,
  onTime: (event: WheelEvent, x: number) => void,
): void {
  useWheel(scroller, (event) => {
    const sideways = event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY);
    if (!event.ctrlKey && !sideways) return;
    event.preventDefault();
    onTime(event, event.clientX - (lanes.current?.getBoundingClientRect().left ?? 0));
  });
}

interface Rect {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A drag over the lanes chooses the keys in it; with Shift or Ctrl as well. A click on nothing chooses nothing. */
function useBoxSelect(
  rows: readonly PlacedRow[],
  scale: ReturnType<typeof timeScale>,
  lanes: RefObject<HTMLElement | null>,
) {
  const session = useSession();
  const [rect, setRect] = useState<Rect | null>(null);
  const drag = useDrag<HTMLDivElement>((down) => {
    const area = lanes.current;
    if (!area) return null;
    const bounds = area.getBoundingClientRect();
    const from = { x: down.clientX - bounds.left, y: down.clientY - bounds.top };
    const before = session.state.selectedKeys;
    const kept = down.shiftKey || down.ctrlKey || down.metaKey ? before : [];
    session.selectKeys(kept);
    return {
      move: ({ clientX, clientY }) => {
        const to = { x: clientX - bounds.left, y: clientY - bounds.top };
        const box = {
          x: Math.min(from.x, to.x),
          y: Math.min(from.y, to.y),
          width: Math.abs(to.x - from.x),
          height: Math.abs(to.y - from.y),
        };
        setRect(box);
        const inside = keysIn(session.state.scene, rows, scale, box);
        const known = new Set(inside.map(({ channel, frame }) => `${channel}@${frame}`));
        session.selectKeys([
          ...kept.filter(({ channel, frame }) => !known.has(`${channel}@${frame}`)),
          ...inside,
        ]);
      },
      keep: () => setRect(null),
      drop: () => {
        setRect(null);
        session.selectKeys(before);
      },
    };
  });
  return { rect, ...drag };
}

/** Keys that lie in a box over the lanes. */
const keysIn = (
  scene: Scene,
  rows: readonly PlacedRow[],
  scale: ReturnType<typeof timeScale>,
  box: Rect,
): SelectedKey[] =>
  rows.flatMap(({ row, top, height }) => {
    if (row.kind !== 'channel' || top + height <= box.y || top >= box.y + box.height) return [];
    const keys = channelAt(scene, channelRef(row.id))?.keys ?? [];
    return keys
      .filter(({ frame }) => scale.xAt(frame) >= box.x && scale.xAt(frame) <= box.x + box.width)
      .map(({ frame }) => ({ channel: row.id, frame }));
  });

function Playhead({ xAt }: { xAt: (frame: number) => number }) {
  const line = useRef<HTMLDivElement>(null);
  useEachFrame((frame) => {
    if (line.current) line.current.style.left = `${xAt(frame)}px`;
  });
  return <div ref={line} className="pointer-events-none absolute inset-y-0 z-10 w-px bg-signal" />;
}

/** Frames that do not play are veiled. */
function OutOfRange({
  scale,
  width,
  lengthFrames,
}: {
  scale: ReturnType<typeof timeScale>;
  width: number;
  lengthFrames: number;
}) {
  const [view] = useShotView();
  if (!view.range) return null;
  const { start, end } = playRange(view.range, lengthFrames);
  const [left, right] = [scale.xAt(start), scale.xAt(end - 1)];
  const veil = 'pointer-events-none absolute inset-y-0 bg-rule/40';
  return (
    <>
      <div className={veil} style={{ left: 0, width: Math.max(0, left) }} />
      <div className={veil} style={{ left: Math.max(0, right), width: Math.max(0, width - right) }} />
    </>
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
