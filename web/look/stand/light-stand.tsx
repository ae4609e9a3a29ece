import { setChannelValue } from '@keen-ridge/core/edits/keys';
import { hexOfPacked, transmissionAt } from '@keen-ridge/core/paint';
import type { Scene } from '@keen-ridge/core/scene';
import { shownValueAt } from '@keen-ridge/core/staging';
import { sharpBandAt } from '@keen-ridge/core/staging/frame';
import { shotLooksAt } from '@keen-ridge/core/staging/looks';
import { useMemo, useRef } from 'react';
import { cameraAction } from '../../edits/camera-edits.ts';
import { depthColour } from '../../planes/depth-colour.ts';
import { PlaneThumbnail } from '../../planes/plane-thumbnail.tsx';
import { type StandScale, spreadLabels, standScale } from '../../planes/stand-scale.ts';
import { usePreferences } from '../../session/choices/preferences.ts';
import { clickKeys, selectPlane } from '../../session/choices/selection.ts';
import { useCalmFrame, useCalmScene } from '../../session/pace/use-calm.ts';
import { sceneDrag } from '../../session/scene-trial.ts';
import type { Session } from '../../session/session.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { classes } from '../../ui/class-names.ts';
import { formatNumber } from '../../ui/format.ts';
import { useDrag } from '../../ui/pointer/drag.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { lookWords as say } from '../../words/look.ts';
import { type LightRow, lightRows, lightWords } from './light-rows.ts';

export const LIGHT_STAND_WIDTH = 400;
const TOP = 34;
const FOOT = 24;
const LABEL_HEIGHT = 24;
const LABEL_RIGHT = 126;
/** The camera's view, and how far bars may stick out of it. */
const COLUMN = { left: 180, width: 84 } as const;
const BARS = { left: 132, right: 300 } as const;
const BAR_HEIGHT = 9;
/** Softness of a bar, CSS px, for an output px of blur; more than the most would run into its neighbours. */
const SOFTNESS = { perPx: 0.22, most: 5 } as const;
/** What a bar keeps of its colour when nothing of its light is left. */
const PALEST = 0.18;
/** Places along the column at which the air is worked out. */
const AIR_STOPS = 12;

/**
 * The Stand as light: each bar as soft as its plane is out of focus and as pale as the air makes it, the band that is
 * sharp, the line of the focus to drag, and the numbers beside.
 */
export function LightStand() {
  const session = useSession();
  // Bars, blurs and numbers cost more than a picture: while something is dragged they come after it.
  const scene = useCalmScene();
  const kept = useSessionState((state) => state.scene);
  const frame = useCalmFrame();
  const selection = useSessionState((state) => state.selection);
  const room = useRef<HTMLDivElement>(null);
  const { height: roomHeight } = useElementSize(room);
  const rows = useMemo(() => lightRows(scene, frame), [scene, frame]);
  const height = Math.max(roomHeight, TOP + FOOT + rows.length * LABEL_HEIGHT + 16);
  const [top, bottom] = [TOP + 8, height - FOOT - 8];
  const depths = useMemo(() => lightRows(kept, 1).map(({ depthSpx }) => depthSpx), [kept]);
  // It rests while the focus is dragged.
  const scale = useMemo(
    () => standScale(depths, kept.homeDistanceSpx, top, bottom),
    [depths, kept.homeDistanceSpx, top, bottom],
  );
  const yOf = (depthSpx: number) => Math.min(bottom, Math.max(top, scale.yAt(depthSpx)));
  const places = spreadLabels(
    rows.map(({ depthSpx }) => yOf(depthSpx) - LABEL_HEIGHT / 2),
    LABEL_HEIGHT,
    TOP - 4,
    height - FOOT,
  );
  const order = rows.map(({ plane }) => plane.id);
  return (
    <div ref={room} data-place="planes" className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden">
      <div className="relative select-none" style={{ height, width: LIGHT_STAND_WIDTH }}>
        <svg width={LIGHT_STAND_WIDTH} height={height} className="absolute inset-0" aria-hidden="true">
          <AirColumn scene={scene} frame={frame} scale={scale} top={TOP - 10} bottom={height - FOOT + 4} />
          <SharpWash scene={scene} frame={frame} yOf={yOf} />
          <text x={12} y={22} fontSize={11} fill="var(--color-ink-2)">
            {say.near}
          </text>
          <text x={12} y={height - 8} fontSize={11} fill="var(--color-ink-2)">
            {say.far}
          </text>
          {rows.map((row, i) => (
            <LightBar
              key={row.plane.id}
              row={row}
              widthPx={scene.frame.widthPx}
              y={yOf(row.depthSpx)}
              labelY={places[i]! + LABEL_HEIGHT / 2}
              chosen={selection.includes(row.plane.id)}
            />
          ))}
        </svg>
        <ul aria-label={say.planesNearToFar} data-place="stand">
          {rows.map((row, i) => (
            <li
              key={row.plane.id}
              data-plane={row.plane.id}
              className={classes(
                'absolute left-0 flex items-center',
                selection.includes(row.plane.id) && 'bg-select-wash',
              )}
              style={{ top: places[i], height: LABEL_HEIGHT, width: LABEL_RIGHT }}
            >
              <button
                type="button"
                data-row
                aria-pressed={selection.includes(row.plane.id)}
                aria-label={say.nameItsLight(row.plane.name, lightWords(row) || say.sharp)}
                className={classes(
                  'flex h-full min-w-0 flex-1 cursor-pointer items-center gap-1.5 pl-2 text-left',
                  row.plane.hidden && 'opacity-50',
                )}
                onClick={(event) => selectPlane(session, order, row.plane.id, clickKeys(event))}
              >
                <PlaneThumbnail content={row.plane.content} className="h-[16px] w-6 shrink-0" />
                <span
                  className={classes(
                    'narrow min-w-0 flex-1 truncate',
                    selection.includes(row.plane.id) && 'font-semibold',
                  )}
                >
                  {row.plane.name}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <FocusLine session={session} frame={frame} scale={scale} top={top} bottom={bottom} />
      </div>
    </div>
  );
}

/** The column of the frame, as light as the air leaves it: white where it is clear, down to the colour of the air. */
function AirColumn({
  scene,
  frame,
  scale,
  top,
  bottom,
}: {
  scene: Scene;
  frame: number;
  scale: StandScale;
  top: number;
  bottom: number;
}) {
  const { air } = shotLooksAt(scene, frame);
  const home = scene.homeDistanceSpx;
  const stops = air
    ? Array.from({ length: AIR_STOPS + 1 }, (_, i) => {
        const depth = scale.depthAt(top + ((bottom - top) * i) / AIR_STOPS);
        return { at: i / AIR_STOPS, opacity: 1 - transmissionAt(air, home + depth, home) };
      })
    : [];
  return (
    <>
      <rect x={COLUMN.left} y={top} width={COLUMN.width} height={bottom - top} fill="var(--color-raised)" />
      {air && (
        <>
          <linearGradient id="air-of-the-column" x1="0" x2="0" y1="0" y2="1">
            {stops.map(({ at, opacity }) => (
              <stop key={at} offset={at} stopColor={hexOfPacked(air.colour)} stopOpacity={opacity} />
            ))}
          </linearGradient>
          <rect
            x={COLUMN.left}
            y={top}
            width={COLUMN.width}
            height={bottom - top}
            fill="url(#air-of-the-column)"
            data-testid="air-of-the-column"
          />
        </>
      )}
      <rect
        x={COLUMN.left}
        y={top}
        width={COLUMN.width}
        height={bottom - top}
        fill="none"
        stroke="var(--color-ink-2)"
        strokeWidth={1.25}
      />
    </>
  );
}

/** The band of depths that is sharp. */
function SharpWash({ scene, frame, yOf }: { scene: Scene; frame: number; yOf: (depth: number) => number }) {
  const band = sharpBandAt(scene, frame);
  if (!band) return null;
  const [near, far] = [yOf(band.nearSpx), yOf(Number.isFinite(band.farSpx) ? band.farSpx : 1e12)];
  const words = (depth: number) => (Number.isFinite(depth) ? formatNumber(depth, 0, true) : `${say.endless}`);
  return (
    <g data-testid="sharp-band">
      <rect
        x={COLUMN.left - 10}
        y={near}
        width={COLUMN.width + 20}
        height={Math.max(2, far - near)}
        fill="var(--color-signal)"
        fillOpacity={0.14}
      />
      <text
        x={BARS.right + 2}
        y={near - 2}
        className="num"
        style={{ fontSize: 9.5 }}
        fill="var(--color-ink-2)"
      >
        {words(band.nearSpx)}
      </text>
      <text
        x={BARS.right + 2}
        y={far + 9}
        className="num"
        style={{ fontSize: 9.5 }}
        fill="var(--color-ink-2)"
      >
        {words(band.farSpx)}
      </text>
    </g>
  );
}

interface LightBarProps {
  row: LightRow;
  widthPx: number;
  y: number;
  labelY: number;
  chosen: boolean;
}

function LightBar({ row, widthPx, y, labelY, chosen }: LightBarProps) {
  const xOf = (px: number) =>
    Math.min(BARS.right, Math.max(BARS.left, COLUMN.left + (px / widthPx) * COLUMN.width));
  const { onScreen, blurPx, lightLeft, plane, speed } = row;
  const [left, right] = onScreen ? [xOf(onScreen.left), xOf(onScreen.right)] : [COLUMN.left, COLUMN.left];
  const soft = Math.min(SOFTNESS.most, blurPx * SOFTNESS.perPx);
  const id = `soft-${plane.id}`;
  return (
    <g data-testid={`light-${plane.name}`} opacity={plane.hidden ? 0.35 : 1}>
      <path
        d={`M${LABEL_RIGHT},${labelY} L${BARS.left},${y} H${Math.max(BARS.left, left)}`}
        fill="none"
        stroke={chosen ? 'var(--color-select)' : 'var(--color-ink-3)'}
        strokeWidth={chosen ? 1.5 : 0.75}
      />
      {soft > 0.1 && (
        <filter id={id} x="-10%" width="120%" y="-200%" height="500%">
          <feGaussianBlur stdDeviation={soft / 2} />
        </filter>
      )}
      {right > left && (
        <rect
          x={left}
          y={y - BAR_HEIGHT / 2}
          width={right - left}
          height={BAR_HEIGHT}
          fill={depthColour(speed || 0.05)}
          fillOpacity={PALEST + (1 - PALEST) * lightLeft}
          filter={soft > 0.1 ? `url(#${id})` : undefined}
        />
      )}
      {chosen && right > left && (
        <rect
          x={left - 2}
          y={y - BAR_HEIGHT / 2 - 2}
          width={right - left + 4}
          height={BAR_HEIGHT + 4}
          fill="none"
          stroke="var(--color-select)"
          strokeWidth={1.5}
        />
      )}
      <text
        x={LIGHT_STAND_WIDTH - 10}
        y={labelY + 4}
        textAnchor="end"
        className="num"
        style={{ fontSize: 10 }}
        fill="var(--color-ink-2)"
      >
        {lightWords(row)}
      </text>
    </g>
  );
}

/** Ratio of distance of one step of the focus by the keyboard. */
const STEP = { plain: 1.01, far: 1.1 } as const;

/** The depth that is sharp: a line across the column to drag, or to step with the arrow keys. */
function FocusLine({
  session,
  frame,
  scale,
  top,
  bottom,
}: {
  session: Session;
  frame: number;
  scale: StandScale;
  top: number;
  bottom: number;
}) {
  const scene = useShownScene();
  const iris = shownValueAt(scene, { on: 'camera', name: 'iris' }, frame);
  const depth = shownValueAt(scene, { on: 'camera', name: 'focus' }, frame);
  const y = Math.min(bottom, Math.max(top, scale.yAt(depth)));
  const home = scene.homeDistanceSpx;
  const change = (base: Scene, to: number) =>
    setChannelValue(base, { on: 'camera', name: 'focus' }, Math.max(-0.98 * home, to), {
      frame: session.state.frame,
      keying: usePreferences.getState().keying,
    });
  const drag = useDrag<HTMLDivElement>(() => {
    session.setPlaying(false);
    return sceneDrag(session, {
      action: cameraAction(),
      subject: say.focus,
      change: (base, to) => change(base, Math.round(scale.depthAt(y + to.dy))),
    });
  });
  const step = (ratio: number) =>
    session.commit(cameraAction(), say.focus, change(session.state.scene, (home + depth) * ratio - home));
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={say.focusDepth}
      aria-orientation="vertical"
      aria-valuenow={Math.round(depth)}
      aria-valuetext={`${formatNumber(depth, 0, true)} px`}
      data-testid="focus-line"
      className={classes('absolute cursor-ns-resize touch-none', iris > 0 ? '' : 'opacity-40')}
      style={{ top: y - 7, left: COLUMN.left - 20, width: COLUMN.width + 46, height: 14 }}
      onKeyDown={(event) => {
        if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
        event.preventDefault();
        event.stopPropagation();
        const by = event.shiftKey ? STEP.far : STEP.plain;
        step(event.key === 'ArrowUp' ? 1 / by : by);
      }}
      {...drag}
    >
      <span className="absolute top-[6px] right-3 left-0 h-[2px] bg-signal" />
      <span className="absolute top-[3px] right-0 h-2 w-4 rounded-[2px] bg-signal" />
    </div>
  );
}
