import type { PlaneId } from '@keen-ridge/core/scene';
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { nudgeDepth, subjectOf, withDistanceRatio } from '../../edits/depth-edits.ts';
import { selectPlane } from '../../edits/select-plane.ts';
import { usePreferences } from '../../session/choices/preferences.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { CameraMark, CameraTab, HatchPattern, StandAxis } from './stand-axis.tsx';
import { BARS, COLUMN, StandBar, type StandBarProps } from './stand-bar.tsx';
import { StandLabel } from './stand-label.tsx';
import { type StandRow, standRows } from './stand-rows.ts';
import { type StandScale, snappedDepth, spreadLabels, standScale, trueScale } from './stand-scale.ts';

const TOP = 52;
const FOOT = 28;
/** Lower where there are many planes, so that more of them are seen at once. */
const LABEL_HEIGHTS = { few: 25, many: 21, manyFrom: 22 } as const;
const BAR_ROOM = 20;
const LABEL_RIGHT = 204;
export const STAND_WIDTH = 470;
const ZOOM = { most: 24, wheel: 0.002 } as const;

interface StandDrag {
  readonly y: number;
  readonly scale: StandScale;
  readonly ids: readonly PlaneId[];
  readonly primary: PlaneId;
  readonly from: number;
  readonly depthSpx: number;
  readonly add: boolean;
  moved: boolean;
}

const idUnder = (event: { target: EventTarget }): PlaneId | null => {
  const marked = event.target instanceof Element ? event.target.closest('[data-plane]') : null;
  return (marked?.getAttribute('data-plane') as PlaneId | null) ?? null;
};

/**
 * The view down the stage's depth, and the list of planes in one. Down: depth, log or true. Across: screen space, the
 * camera's view a column in the middle, each plane a bar from where its paint begins to where it ends, now.
 */
export function Stand({ zoom, onZoom }: { zoom: number; onZoom: (zoom: number) => void }) {
  const session = useSession();
  const scene = useShownScene();
  const kept = useSessionState((state) => state.scene);
  const frame = useSessionState((state) => state.frame);
  const selection = useSessionState((state) => state.selection);
  const axis = usePreferences((state) => state.standAxis);
  const room = useRef<HTMLDivElement>(null);
  const { height: roomHeight } = useElementSize(room);
  const drag = useRef<StandDrag | null>(null);
  const [snapY, setSnapY] = useState<number | null>(null);
  useWheelZoom(room, zoom, onZoom);

  const rows = useMemo(() => standRows(scene, frame), [scene, frame]);
  const labelHeight = rows.length >= LABEL_HEIGHTS.manyFrom ? LABEL_HEIGHTS.many : LABEL_HEIGHTS.few;
  const least = TOP + FOOT + rows.length * labelHeight + BAR_ROOM;
  const height = Math.round(Math.max(roomHeight, least) * zoom);
  const [top, bottom] = [TOP + 12, height - FOOT - 12];
  const keptRows = useMemo(() => standRows(kept, 1), [kept]);
  // The scale rests while a bar is dragged, or the bar would slip away from under the pointer.
  const scale = useMemo(() => {
    const depths = keptRows.map((row) => row.depthSpx);
    return (axis === 'log' ? standScale : trueScale)(depths, kept.homeDistanceSpx, top, bottom);
  }, [keptRows, kept.homeDistanceSpx, axis, top, bottom]);
  const yOf = (depthSpx: number) => Math.min(bottom, Math.max(top, scale.yAt(depthSpx)));
  const places = spreadLabels(
    rows.map(({ depthSpx }) => yOf(depthSpx) - labelHeight / 2),
    labelHeight,
    TOP - 6,
    bottom,
  );
  const labelAt = new Map(rows.map(({ plane }, i) => [plane.id, places[i] ?? 0]));
  // The elements keep their order while something is tried: moving them about in the page costs more than all the rest.
  const byId = new Map(rows.map((row) => [row.plane.id, row]));
  const drawn = keptRows.flatMap(({ plane }) => byId.get(plane.id) ?? []);

  const onDown = (event: PointerEvent<Element>) => {
    const id = idUnder(event);
    // A drag begins from what is kept, not from a spread that is only being tried.
    const row = keptRows.find(({ plane }) => plane.id === id);
    if (event.button !== 0 || !row || isControl(event.target)) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const add = event.shiftKey || event.ctrlKey || event.metaKey;
    const ids = selectPlane(session, row.plane.id, add);
    const from = yOf(row.depthSpx);
    const { depthSpx } = row;
    drag.current = { y: event.clientY, scale, ids, primary: row.plane.id, from, depthSpx, add, moved: false };
    session.setPlaying(false);
    session.show(null);
  };
  const onMove = (event: PointerEvent<Element>) => {
    const under = drag.current;
    if (!under || under.ids.length === 0) return;
    const by = event.clientY - under.y;
    if (!under.moved && Math.abs(by) < 3) return;
    under.moved = true;
    const goal = dragGoal(scene.homeDistanceSpx, keptRows, under, under.from + by, event.altKey);
    setSnapY(goal.snapped ? under.scale.yAt(goal.depthSpx) : null);
    session.show(
      withDistanceRatio(
        session.state.scene,
        under.ids,
        goal.ratio,
        frame,
        usePreferences.getState().holdPicture,
      ),
    );
  };
  const onUp = () => {
    const ended = drag.current;
    drag.current = null;
    setSnapY(null);
    if (ended?.moved) session.commit('set-depth', subjectOf(scene, ended.ids), session.shown);
    else if (ended && !ended.add) session.select([ended.primary]);
  };
  const onKeyDown = (event: KeyboardEvent<Element>) => {
    const id = idUnder(event);
    if (!id) return;
    // Delete means the plane that has the focus, not one that was chosen before.
    if (event.key === 'Delete' && !selection.includes(id)) session.select([id]);
    if ((event.key !== 'ArrowUp' && event.key !== 'ArrowDown') || event.altKey) return;
    event.preventDefault();
    const step = event.shiftKey ? 1.1 : 1.01;
    const ratio = event.key === 'ArrowUp' ? 1 / step : step;
    nudgeDepth(
      session,
      selection.includes(id) ? selection : [id],
      ratio,
      usePreferences.getState().holdPicture,
    );
  };

  const chosen = new Set(selection);
  return (
    <div
      ref={room}
      className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden"
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerCancel={onUp}
    >
      <div className="relative select-none" style={{ height, width: STAND_WIDTH }}>
        <svg width={STAND_WIDTH} height={height} className="absolute inset-0" aria-hidden="true">
          <HatchPattern />
          <StandAxis scale={scale} top={top} bottom={bottom} height={height} labelRight={LABEL_RIGHT} />
          <CameraMark scale={scale} top={top} bottom={bottom} />
          {snapY !== null && (
            <line x1={BARS.left} x2={BARS.right} y1={snapY} y2={snapY} stroke="#0b6e75" data-testid="snap" />
          )}
          {drawn.map((row) => (
            <StandBar
              key={row.plane.id}
              {...barOf(row, scene.frame.widthPx)}
              y={yOf(row.depthSpx)}
              labelY={(labelAt.get(row.plane.id) ?? 0) + labelHeight / 2}
              labelRight={LABEL_RIGHT}
              selected={chosen.has(row.plane.id)}
            />
          ))}
          <CameraTab width={STAND_WIDTH} />
        </svg>
        <ul aria-label="Planes, near to far" onKeyDown={onKeyDown}>
          {drawn.map((row) => (
            <StandLabel
              key={row.plane.id}
              plane={row.plane}
              depthSpx={row.depthSpx}
              root={row.root}
              top={labelAt.get(row.plane.id) ?? 0}
              height={labelHeight}
              width={LABEL_RIGHT - 6}
              selected={chosen.has(row.plane.id)}
            />
          ))}
        </ul>
      </div>
    </div>
  );
}

const isControl = (target: EventTarget): boolean =>
  target instanceof Element && target.closest('input, [data-control]') !== null;

/** Where a drag sends the planes: as a ratio of their distances, so that the one that is held goes to `y`. */
function dragGoal(home: number, rows: readonly StandRow[], drag: StandDrag, y: number, free: boolean) {
  const others = rows.filter(({ plane }) => !drag.ids.includes(plane.id)).map(({ depthSpx }) => depthSpx);
  const goal = free
    ? { depthSpx: drag.scale.depthAt(y), snapped: false }
    : snappedDepth(drag.scale, y, [...others, 0]);
  return { ...goal, ratio: (home + goal.depthSpx) / (home + drag.depthSpx) };
}

/** What of a row is drawn as its bar, as plain values, so that a bar that stays the same is not drawn again. */
function barOf(
  row: StandRow,
  widthPx: number,
): Omit<StandBarProps, 'y' | 'labelY' | 'labelRight' | 'selected'> {
  const xOf = (px: number) =>
    Math.min(BARS.right, Math.max(BARS.left, COLUMN.left + (px / widthPx) * COLUMN.width));
  const { plane, onScreen, speed, gapLeft, gapRight, passed } = row;
  return {
    id: plane.id,
    name: plane.name,
    hidden: plane.hidden,
    speed,
    left: onScreen ? xOf(onScreen.left) : null,
    right: onScreen ? xOf(onScreen.right) : null,
    gapLeft,
    gapRight,
    passed,
  };
}

/** Ctrl and the wheel stretch the Stand about the pointer; the wheel alone scrolls it. */
function useWheelZoom(
  room: React.RefObject<HTMLDivElement | null>,
  zoom: number,
  onZoom: (zoom: number) => void,
): void {
  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      const next = Math.min(ZOOM.most, Math.max(1, zoom * Math.exp(-event.deltaY * ZOOM.wheel)));
      const y = event.clientY - element.getBoundingClientRect().top;
      const at = (element.scrollTop + y) / zoom;
      onZoom(next);
      requestAnimationFrame(() => {
        element.scrollTop = at * next - y;
      });
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [room, zoom, onZoom]);
}
