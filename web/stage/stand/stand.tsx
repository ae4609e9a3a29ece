import type { PlaneId } from '@keen-ridge/core/scene';
import { useMemo, useRef, useState } from 'react';
import { subjectOf, withDistanceRatio } from '../../edits/depth-edits.ts';
import { type RunsOut, type StandRow, standRows } from '../../planes/stand-rows.ts';
import {
  type StandScale,
  snappedDepth,
  spreadLabels,
  standScale,
  trueScale,
} from '../../planes/stand-scale.ts';
import { usePreferences } from '../../session/choices/preferences.ts';
import { clickKeys, selectPlane } from '../../session/choices/selection.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { sceneDrag } from '../../session/scene-trial.ts';
import { useSurvey } from '../../session/survey/use-survey.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { useDrag } from '../../ui/pointer/drag.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { useSeenBand } from '../../viewport/use-seen-band.ts';
import { useWheel } from '../../viewport/use-wheel.ts';
import { stageWords as say } from '../../words/stage.ts';
import { CameraMark, CameraTab, HatchPattern, StandAxis } from './stand-axis.tsx';
import { BARS, COLUMN, StandBar, type StandBarProps } from './stand-bar.tsx';
import { StandLabel } from './stand-label.tsx';

const TOP = 52;
const FOOT = 28;
/** Lower where there are many planes, so that more of them are seen at once. */
const LABEL_HEIGHTS = { few: 25, many: 21, manyFrom: 22 } as const;
const BAR_ROOM = 20;
const LABEL_RIGHT = 204;
export const STAND_WIDTH = 470;
const ZOOM = { most: 24, wheel: 0.002 } as const;

interface StandDrag {
  readonly scale: StandScale;
  readonly ids: readonly PlaneId[];
  readonly from: number;
  readonly depthSpx: number;
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
  const frame = useCalmFrame();
  const selection = useSessionState((state) => state.selection);
  const axis = usePreferences((state) => state.standAxis);
  const room = useRef<HTMLDivElement>(null);
  const { height: roomHeight } = useElementSize(room);
  const [snapY, setSnapY] = useState<number | null>(null);
  useWheelZoom(room, zoom, onZoom);

  const runsOut = useRunsOut(frame);
  const rows = useMemo(() => standRows(scene, frame, runsOut), [scene, frame, runsOut]);
  const labelHeight = rows.length >= LABEL_HEIGHTS.manyFrom ? LABEL_HEIGHTS.many : LABEL_HEIGHTS.few;
  const least = TOP + FOOT + rows.length * labelHeight + BAR_ROOM;
  const height = Math.round(Math.max(roomHeight, least) * zoom);
  const [top, bottom] = [TOP + 12, height - FOOT - 12];
  const keptRows = useMemo(() => standRows(kept, 1), [kept]);
  const order = useMemo(() => keptRows.map(({ plane }) => plane.id), [keptRows]);
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
  const chosen = new Set(selection);
  const seen = useSeenBand(room);
  // What was chosen last has the focus, or can take it: it stays while others are looked at.
  const drawn = keptRows.flatMap(({ plane }) => {
    const row = byId.get(plane.id);
    const [label, y] = [labelAt.get(plane.id) ?? 0, row ? yOf(row.depthSpx) : 0];
    const shows = Math.max(label, y) >= seen.from && Math.min(label, y) < seen.to;
    return row && (shows || plane.id === selection.at(-1)) ? [row] : [];
  });

  const drag = useDrag<HTMLDivElement>(
    (event) => {
      const id = idUnder(event);
      const row = keptRows.find(({ plane }) => plane.id === id);
      if (!row || isControl(event.target)) return null;
      session.drop();
      session.setPlaying(false);
      const keys = clickKeys(event);
      const ids = selectPlane(session, order, row.plane.id, keys);
      const grasped: StandDrag = { scale, ids, from: yOf(row.depthSpx), depthSpx: row.depthSpx };
      const { holdPicture } = usePreferences.getState();
      const end = () => setSnapY(null);
      return sceneDrag(session, {
        action: 'set-depth',
        subject: subjectOf(kept, ids),
        change: (base, to) => {
          if (ids.length === 0) return base;
          const goal = dragGoal(base.homeDistanceSpx, keptRows, grasped, grasped.from + to.dy, to.altKey);
          setSnapY(goal.snapped ? grasped.scale.yAt(goal.depthSpx) : null);
          return withDistanceRatio(base, ids, goal.ratio, frame, holdPicture);
        },
        click: () => {
          if (!keys.shift && !keys.add) session.select([row.plane.id]);
        },
        kept: end,
        drop: end,
      });
    },
    { keepsFocus: true },
  );
  return (
    <div
      ref={room}
      data-place="planes"
      className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden"
      {...drag}
    >
      <div className="relative select-none" style={{ height, width: STAND_WIDTH }}>
        <svg width={STAND_WIDTH} height={height} className="absolute inset-0" aria-hidden="true">
          <HatchPattern />
          <StandAxis scale={scale} top={top} bottom={bottom} height={height} labelRight={LABEL_RIGHT} />
          <CameraMark scale={scale} top={top} bottom={bottom} />
          {snapY !== null && (
            <line
              x1={BARS.left}
              x2={BARS.right}
              y1={snapY}
              y2={snapY}
              stroke="var(--color-select)"
              data-testid="snap"
            />
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
        <ul aria-label={say.planesNearToFar} data-place="stand">
          {drawn.map((row) => (
            <StandLabel
              key={row.plane.id}
              plane={row.plane}
              order={order}
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

/** Where planes run out at a frame, by the survey. */
function useRunsOut(frame: number): RunsOut {
  const { answer, isOld } = useSurvey();
  return useMemo(() => {
    const edges = (isOld ? [] : (answer?.findings ?? [])).filter((finding) => finding.code === 'edge');
    return (id, side) =>
      edges.some(
        (edge) =>
          edge.planeId === id && edge.side === side && frame >= edge.firstFrame && frame <= edge.lastFrame,
      );
  }, [answer, isOld, frame]);
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
  useWheel(room, (event) => {
    const element = room.current;
    if (!element || (!event.ctrlKey && !event.metaKey)) return;
    event.preventDefault();
    const next = Math.min(ZOOM.most, Math.max(1, zoom * Math.exp(-event.deltaY * ZOOM.wheel)));
    const y = event.clientY - element.getBoundingClientRect().top;
    const at = (element.scrollTop + y) / zoom;
    onZoom(next);
    requestAnimationFrame(() => {
      element.scrollTop = at * next - y;
    });
  });
}
