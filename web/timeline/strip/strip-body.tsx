import { type RefObject, useMemo, useRef, useState } from 'react';
import { usePreferences } from '../../session/choices/preferences.ts';
import { playRange, useShotView } from '../../session/choices/shot-view.ts';
import { useEachFrame } from '../../session/pace/use-frame.ts';
import type { SelectedKey } from '../../session/state/choice.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { useRoving } from '../../ui/pointer/roving.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { useWheel } from '../../viewport/use-wheel.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import { slidWindow, timeScale, WHOLE_STRIP, zoomedWindow } from '../time-scale.ts';
import { GroupLane } from './group-lane.tsx';
import { Lane } from './lane.tsx';
import { ChannelHead, GroupHead } from './row-head.tsx';
import { RulerStrip } from './ruler-strip.tsx';
import { SoundLane } from './sound-lane.tsx';
import { HEIGHT_OF } from './strip-height.tsx';
import { placedRows, type RowsOf, stripRows } from './strip-rows.ts';
import { HEAD_WIDTH, RULER_HEIGHT } from './strip-sizes.ts';
import { useBoxSelect } from './use-box-select.ts';

/** Rows beyond the room that are drawn too, so that scrolling does not show a gap. */
const SPARE_PX = 160;

/** The rows under the ruler: heads to the left, keys over time beside them. Only rows that are seen are drawn. */
export function StripBody({ of }: { of: RowsOf }) {
  const session = useSession();
  const scene = useShownScene();
  const [view] = useShotView();
  const scroller = useRef<HTMLDivElement>(null);
  const lanes = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(lanes);
  const [scrollTop, setScrollTop] = useState(0);
  const room = usePreferences((state) => state[HEIGHT_OF[of]]);
  const [strip, setStrip] = useState(WHOLE_STRIP);
  const { lengthFrames } = scene;
  const scale = useMemo(() => timeScale(lengthFrames, width, strip), [lengthFrames, width, strip]);
  const rows = useMemo(
    () => placedRows(stripRows(scene, view.pinned, view.folded, of)),
    [scene, view.pinned, view.folded, of],
  );
  const height = rows.reduce((sum, row) => sum + row.height, 0);
  const seen = rows.filter(
    ({ top, height: h }) => top + h > scrollTop - SPARE_PX && top < scrollTop + room + SPARE_PX,
  );
  const before = seen[0]?.top ?? 0;
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const selected = useSelectedFrames(selectedKeys);
  const both = useRef<HTMLDivElement>(null);
  const roving = useRoving(both);
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
            {strip.zoom > 1 ? say.timeValue(strip.zoom.toFixed(1)) : say.allFrames}
          </span>
          <Button
            tone="bare"
            icon
            aria-label={say.showMoreFrames}
            disabled={strip.zoom <= 1}
            onClick={() => zoom(1 / 1.6)}
          >
            −
          </Button>
          <Button tone="bare" icon aria-label={say.showFewerFramesLarger} onClick={() => zoom(1.6)}>
            +
          </Button>
          <Button tone="bare" disabled={strip.zoom === 1} onClick={() => setStrip(WHOLE_STRIP)}>
            {say.all}
          </Button>
        </div>
        <div className="relative min-w-0 flex-1 overflow-hidden">
          {width > 0 && <RulerStrip scale={scale} width={width} />}
        </div>
      </div>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: arrows go between the buttons and keys within */}
      <div
        ref={both}
        className="flex"
        style={{ height }}
        onKeyDown={roving.onKeyDown}
        data-testid="strip-rows"
      >
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
          aria-label={say.keysOverTime}
          onPointerDown={box.onPointerDown}
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
      {scene.sound && <SoundLane sound={scene.sound} rate={scene.rate} scale={scale} width={width} />}
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
