import { cameraPoseAt } from '@keen-ridge/core/staging';
import { memo } from 'react';
import { type StandScale, speedTicks } from '../../planes/stand-scale.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { useSessionState } from '../../session/use-session.ts';
import { formatNumber } from '../../ui/format.ts';
import { stageWords as say } from '../../words/stage.ts';
import { BARS, COLUMN } from './stand-bar.tsx';

const DEPTH_RIGHT = 423;
const SPEED_LEFT = 429;

export function HatchPattern() {
  return (
    <pattern id="gap-hatch" width={5} height={5} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width={5} height={5} fill="var(--color-raised)" />
      <rect width={2.4} height={5} fill="var(--color-fault)" />
    </pattern>
  );
}

interface StandAxisProps {
  scale: StandScale;
  top: number;
  bottom: number;
  height: number;
  labelRight: number;
}

/** The column of the frame, the datum, and the two scales: depth and speed. */
export const StandAxis = memo(function StandAxis({ scale, top, bottom, height, labelRight }: StandAxisProps) {
  const home = useSessionState((state) => state.scene.homeDistanceSpx);
  const datum = scale.yAt(0);
  return (
    <>
      <rect
        x={COLUMN.left}
        y={top - 18}
        width={COLUMN.width}
        height={height - 28 - top + 18}
        fill="var(--color-raised)"
        stroke="var(--color-ink-2)"
        strokeWidth={1.5}
      />
      <text x={20} y={34} fontSize={11} fill="var(--color-ink-2)">
        {say.near}
      </text>
      <text x={labelRight - 12} y={34} fontSize={11} fill="var(--color-ink-2)" textAnchor="end">
        {say.depthPx}
      </text>
      <text x={DEPTH_RIGHT} y={34} fontSize={11} fill="var(--color-ink-2)" textAnchor="end">
        {say.depth2}
      </text>
      <text x={SPEED_LEFT} y={34} fontSize={11} fill="var(--color-ink-2)">
        {say.speed2}
      </text>
      <text x={20} y={height - 10} fontSize={11} fill="var(--color-ink-2)">
        {say.far}
      </text>
      <line
        x1={BARS.left}
        x2={BARS.right}
        y1={datum}
        y2={datum}
        stroke="var(--color-ink)"
        strokeDasharray="1.5 3"
      />
      {speedTicks(scale, home, top, bottom).map(({ speed, depthSpx, y }) => (
        <g
          key={speed}
          fill={speed === 1 ? 'var(--color-ink)' : 'var(--color-ink-2)'}
          fontWeight={speed === 1 ? 700 : 400}
        >
          <line x1={BARS.right - 5} x2={BARS.right - 1} y1={y} y2={y} stroke="var(--color-ink-3)" />
          <text x={DEPTH_RIGHT} y={y + 4} className="num" textAnchor="end" style={{ fontSize: 10 }}>
            {shortDepth(depthSpx)}
          </text>
          <text x={SPEED_LEFT} y={y + 4} className="num" style={{ fontSize: 10 }}>
            {Math.round(speed * 100)} %
          </text>
        </g>
      ))}
    </>
  );
});

const shortDepth = (depthSpx: number): string =>
  Math.abs(depthSpx) >= 10_000
    ? `${formatNumber(depthSpx / 1000, 0, true)}k`
    : formatNumber(Math.round(depthSpx), 0, depthSpx !== 0);

/** The camera as it is shown; a plane that is dragged does not change it. */
function useShownCamera() {
  const camera = useSessionState((state) => (state.preview ?? state.scene).camera);
  const kept = useSessionState((state) => state.scene);
  const frame = useCalmFrame();
  return {
    pose: cameraPoseAt({ ...kept, camera }, frame),
    home: kept.homeDistanceSpx,
    widthPx: kept.frame.widthPx,
  };
}

/** Where the camera stands on the axis once it has trucked in: what lies above it has been passed. */
export const CameraMark = memo(function CameraMark({
  scale,
  top,
  bottom,
}: {
  scale: StandScale;
  top: number;
  bottom: number;
}) {
  const { pose, home } = useShownCamera();
  const { zSpx } = pose;
  if (zSpx <= -home) return null;
  const y = scale.yAt(zSpx);
  if (!(y > top && y < bottom)) return null;
  return (
    <g data-testid="camera-mark">
      <rect
        x={BARS.left}
        y={top - 6}
        width={BARS.right - BARS.left}
        height={y - top + 6}
        fill="var(--color-signal)"
        fillOpacity={0.07}
      />
      <line x1={BARS.left} x2={BARS.right} y1={y} y2={y} stroke="var(--color-signal)" strokeWidth={1.5} />
      <text x={BARS.right - 2} y={y - 4} textAnchor="end" fontSize={10} fill="var(--color-signal)">
        {say.cameraAboveItIsPassed}
      </text>
    </g>
  );
});

/** The camera at the head of the column; it slides as the camera pans. */
export const CameraTab = memo(function CameraTab({ width }: { width: number }) {
  const { pose, widthPx } = useShownCamera();
  const fields = pose.xSpx / widthPx;
  const centre = COLUMN.left + COLUMN.width / 2;
  const x = Math.min(width - 48, Math.max(48, centre + fields * COLUMN.width));
  const words =
    Math.abs(fields) < 0.005
      ? 'at home'
      : `${fields > 0 ? 'E' : 'W'} ${formatNumber(Math.abs(fields), 2)} field`;
  return (
    <g transform={`translate(${x},0)`} fill="var(--color-signal)">
      <rect x={-44} y={16} width={88} height={15} rx={2} />
      <path d="M-7,31 H7 L11,42 H-11 Z" />
      <text
        x={0}
        y={27}
        textAnchor="middle"
        fill="var(--color-raised)"
        className="num"
        style={{ fontSize: 10 }}
      >
        {words}
      </text>
    </g>
  );
});
