import { cameraPoseAt, type PlaneId } from '@keen-ridge/core/document';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { useElementSize } from '../picture/use-element-size.ts';
import { usePreferences } from '../state/preferences.ts';
import { useSession, useSessionState, useShownScene } from '../state/use-session.ts';
import { formatNumber } from '../ui/format.ts';
import { depthColour } from './depth-colour.ts';
import { nudgeDepth, subjectOf, withDistanceRatio } from './depth-edits.ts';
import { StandLabel } from './stand-label.tsx';
import { type StandRow, standRows } from './stand-rows.ts';
import { type StandScale, speedTicks, spreadLabels, standScale } from './stand-scale.ts';

const TOP = 52;
const FOOT = 28;
const LABEL_HEIGHT = 25;
const BAR_HEIGHT = 8;
/** The camera's view: a straight column, this wide whatever the frame. */
const COLUMN = { left: 279, width: 88 } as const;
const BARS = { left: 214, right: 424 } as const;
const LABEL_RIGHT = 208;
const SPEED_LEFT = 426;
export const STAND_WIDTH = 470;

/**
 * The view down the stage's depth, and the list of planes in one. Down: log distance. Across: screen space, the
 * camera's view a column in the middle, each plane a bar from where its paint begins to where it ends, now.
 */
export function Stand() {
  const session = useSession();
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const selection = useSessionState((state) => state.selection);
  const holdPicture = usePreferences((state) => state.holdPicture);
  const room = useRef<HTMLDivElement>(null);
  const { height: roomHeight } = useElementSize(room);
  const drag = useRef<{
    y: number;
    scale: StandScale;
    ids: readonly PlaneId[];
    from: number;
    moved: boolean;
  } | null>(null);

  const rows = standRows(scene, frame);
  const height = Math.max(roomHeight, TOP + FOOT + rows.length * LABEL_HEIGHT + 20);
  const [top, bottom] = [TOP + 12, height - FOOT - 12];
  // The scale rests while a bar is dragged, or the bar would slip away from under the pointer.
  const kept = session.state.scene.planes.map((plane) => plane.depthSpx);
  const scale = drag.current?.scale ?? standScale(kept, scene.homeDistanceSpx, top, bottom);
  const yOf = (row: StandRow) => Math.min(bottom, Math.max(top, scale.yAt(row.plane.depthSpx)));
  const labels = spreadLabels(
    rows.map(yOf).map((y) => y - LABEL_HEIGHT / 2),
    LABEL_HEIGHT,
    TOP - 6,
    bottom,
  );

  const select = (id: PlaneId, add: boolean): readonly PlaneId[] => {
    const there = session.state.selection;
    const next = !add
      ? there.includes(id)
        ? there
        : [id]
      : there.includes(id)
        ? there.filter((s) => s !== id)
        : [...there, id];
    session.select(next);
    return next;
  };
  const onDown = (event: PointerEvent<Element>, row: StandRow) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const ids = select(row.plane.id, event.shiftKey || event.ctrlKey || event.metaKey);
    drag.current = { y: event.clientY, scale, ids, from: yOf(row), moved: false };
    session.setPlaying(false);
  };
  const onMove = (event: PointerEvent<Element>) => {
    const under = drag.current;
    if (!under || under.ids.length === 0) return;
    const by = event.clientY - under.y;
    if (!under.moved && Math.abs(by) < 3) return;
    under.moved = true;
    const home = scene.homeDistanceSpx;
    const ratio = (home + under.scale.depthAt(under.from + by)) / (home + under.scale.depthAt(under.from));
    session.show(withDistanceRatio(session.state.scene, under.ids, ratio, frame, holdPicture));
  };
  const onUp = (event: PointerEvent<Element>, row: StandRow) => {
    const ended = drag.current;
    drag.current = null;
    if (ended?.moved) session.commit('set-depth', subjectOf(scene, ended.ids), session.shown);
    else if (ended && !(event.shiftKey || event.ctrlKey || event.metaKey)) session.select([row.plane.id]);
  };
  const onKeyDown = (event: KeyboardEvent<Element>, row: StandRow) => {
    // Delete means the plane that has the focus, not one that was chosen before.
    if (event.key === 'Delete' && !selection.includes(row.plane.id)) session.select([row.plane.id]);
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    const ids = selection.includes(row.plane.id) ? selection : [row.plane.id];
    const step = event.shiftKey ? 1.1 : 1.01;
    nudgeDepth(session, ids, event.key === 'ArrowUp' ? 1 / step : step, holdPicture);
  };
  const handlers = (row: StandRow) => ({
    onPointerDown: (event: PointerEvent<Element>) => onDown(event, row),
    onPointerMove: onMove,
    onPointerUp: (event: PointerEvent<Element>) => onUp(event, row),
    onPointerCancel: (event: PointerEvent<Element>) => onUp(event, row),
  });

  return (
    <div ref={room} className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden">
      <div className="relative select-none" style={{ height, width: STAND_WIDTH }}>
        <svg width={STAND_WIDTH} height={height} className="absolute inset-0" aria-hidden="true">
          <HatchPattern />
          <Axis scale={scale} top={top} bottom={bottom} height={height} />
          <CameraTab />
          {rows.map((row, i) => (
            <Bar
              key={row.plane.id}
              row={row}
              y={yOf(row)}
              labelY={(labels[i] ?? 0) + LABEL_HEIGHT / 2}
              frameWidthPx={scene.frame.widthPx}
              selected={selection.includes(row.plane.id)}
              handlers={handlers(row)}
            />
          ))}
        </svg>
        <ul aria-label="Planes, near to far">
          {rows.map((row, i) => (
            <StandLabel
              key={row.plane.id}
              row={row}
              top={labels[i] ?? 0}
              height={LABEL_HEIGHT}
              width={LABEL_RIGHT - 6}
              selected={selection.includes(row.plane.id)}
              onKeyDown={(event) => onKeyDown(event, row)}
              onSelect={(add) => select(row.plane.id, add)}
              handlers={handlers(row)}
            />
          ))}
        </ul>
      </div>
    </div>
  );
}

function HatchPattern() {
  return (
    <pattern id="gap-hatch" width={5} height={5} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width={5} height={5} fill="#fff" />
      <rect width={2.4} height={5} fill="#b3261e" />
    </pattern>
  );
}

function Axis({
  scale,
  top,
  bottom,
  height,
}: {
  scale: StandScale;
  top: number;
  bottom: number;
  height: number;
}) {
  const scene = useShownScene();
  const datum = scale.yAt(0);
  return (
    <>
      <rect
        x={COLUMN.left}
        y={TOP - 6}
        width={COLUMN.width}
        height={height - FOOT - TOP + 6}
        fill="#fff"
        stroke="#5a5a5a"
        strokeWidth={1.5}
      />
      <text x={20} y={34} fontSize={11} fill="#5a5a5a">
        near
      </text>
      <text x={LABEL_RIGHT - 26} y={34} fontSize={11} fill="#5a5a5a" textAnchor="end">
        depth px
      </text>
      <text x={SPEED_LEFT} y={34} fontSize={11} fill="#5a5a5a">
        speed
      </text>
      <text x={20} y={height - 10} fontSize={11} fill="#5a5a5a">
        far
      </text>
      <line
        x1={BARS.left}
        x2={SPEED_LEFT - 10}
        y1={datum}
        y2={datum}
        stroke="#1a1a1a"
        strokeDasharray="1.5 3"
      />
      {speedTicks(scale, scene.homeDistanceSpx, top, bottom).map(({ speed, y }) => (
        <g key={speed}>
          <line x1={SPEED_LEFT - 8} x2={SPEED_LEFT - 2} y1={y} y2={y} stroke="#8a8a8a" />
          <text
            x={SPEED_LEFT + 2}
            y={y + 4}
            className="num"
            fill={speed === 1 ? '#1a1a1a' : '#5a5a5a'}
            fontWeight={speed === 1 ? 700 : 400}
          >
            {Math.round(speed * 100)}%
          </text>
        </g>
      ))}
    </>
  );
}

/** The camera at the head of the column; it slides as the camera pans. */
function CameraTab() {
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const fields = cameraPoseAt(scene, frame).xSpx / scene.frame.widthPx;
  const centre = COLUMN.left + COLUMN.width / 2;
  const x = Math.min(STAND_WIDTH - 48, Math.max(48, centre + fields * COLUMN.width));
  const words =
    Math.abs(fields) < 0.005
      ? 'at home'
      : `${fields > 0 ? 'E' : 'W'} ${formatNumber(Math.abs(fields), 2)} field`;
  return (
    <g transform={`translate(${x},0)`} fill="#c8401a">
      <rect x={-44} y={16} width={88} height={15} rx={2} />
      <path d="M-7,31 H7 L11,42 H-11 Z" />
      <text
        x={0}
        y={27}
        textAnchor="middle"
        fill="#fff"
        fontSize={10}
        className="num"
        style={{ fontSize: 10 }}
      >
        {words}
      </text>
    </g>
  );
}

interface BarProps {
  row: StandRow;
  y: number;
  labelY: number;
  frameWidthPx: number;
  selected: boolean;
  handlers: Record<string, (event: PointerEvent<Element>) => void>;
}

function Bar({ row, y, labelY, frameWidthPx, selected, handlers }: BarProps) {
  const { plane, onScreen } = row;
  const xOf = (px: number) =>
    Math.min(BARS.right, Math.max(BARS.left, COLUMN.left + (px / frameWidthPx) * COLUMN.width));
  const colour = depthColour(row.speed || 0.05);
  const ink = selected ? '#0b6e75' : '#a9a9a9';
  const [left, right] = onScreen ? [xOf(onScreen.left), xOf(onScreen.right)] : [COLUMN.left, COLUMN.left];
  const columnRight = COLUMN.left + COLUMN.width;
  const [solidLeft, solidRight] = [Math.max(left, COLUMN.left), Math.min(right, columnRight)];
  const strip = (x0: number, x1: number, fill: string, opacity = 1) =>
    x1 > x0 ? (
      <rect
        x={x0}
        y={y - BAR_HEIGHT / 2}
        width={x1 - x0}
        height={BAR_HEIGHT}
        fill={fill}
        fillOpacity={opacity}
      />
    ) : null;
  return (
    <g
      {...handlers}
      style={{ cursor: 'ns-resize', touchAction: 'none' }}
      opacity={plane.hidden ? 0.35 : 1}
      data-testid={`bar-${plane.name}`}
    >
      <path
        d={`M${LABEL_RIGHT},${labelY} L${LABEL_RIGHT + 9},${y} H${Math.max(LABEL_RIGHT + 9, left)}`}
        fill="none"
        stroke={ink}
      />
      <rect x={BARS.left} y={y - 9} width={BARS.right - BARS.left} height={18} fill="transparent" />
      {row.passed ? (
        <text x={COLUMN.left + COLUMN.width / 2} y={y + 4} textAnchor="middle" fontSize={11} fill="#5a5a5a">
          passed
        </text>
      ) : (
        <>
          {strip(left, right, colour, 0.45)}
          {strip(solidLeft, solidRight, colour)}
          {row.gapLeft && strip(COLUMN.left, Math.min(left, columnRight), 'url(#gap-hatch)')}
          {row.gapRight && strip(Math.max(right, COLUMN.left), columnRight, 'url(#gap-hatch)')}
          {selected && (
            <rect
              x={left - 2}
              y={y - BAR_HEIGHT / 2 - 2}
              width={right - left + 4}
              height={BAR_HEIGHT + 4}
              fill="none"
              stroke="#0b6e75"
              strokeWidth={2}
            />
          )}
        </>
      )}
    </g>
  );
}
