import type { Box, Point } from '@keen-ridge/core/geometry';
import type { PlaneId } from '@keen-ridge/core/scene';
import { type Finding, faultOn } from '@keen-ridge/core/survey';
import type { PictureRoom } from '../picture/picture.tsx';
import { useRestingFrame } from '../session/pace/use-frame.ts';
import { useShownScene } from '../session/use-session.ts';
import { formatNumber } from '../ui/format.ts';

interface FaultOverlayProps {
  room: PictureRoom;
  finding: Finding;
  bare: ReadonlyMap<PlaneId, readonly Box[]>;
}

/** The fault that is looked at, hatched and measured in the picture. */
export function FaultOverlay({ room: { fit }, finding, bare }: FaultOverlayProps) {
  const scene = useShownScene();
  const frame = useRestingFrame();
  const polygons = faultOn(scene, frame, finding, bare);
  const [first] = polygons;
  if (!first) return null;
  const screen = ({ x, y }: Point) => `${fit.left + x * fit.scale},${fit.top + y * fit.scale}`;
  const all = polygons.flat();
  const [x, y] = [Math.max(...all.map((p) => p.x)), Math.min(...all.map((p) => p.y))];
  const label = labelOf(finding, frame);
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute inset-0 h-full w-full"
      data-testid="fault"
    >
      <defs>
        <pattern
          id="fault-hatch"
          width={7}
          height={7}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width={7} height={7} fill="#fff" fillOpacity={0.25} />
          <rect width={3.5} height={7} fill="#b3261e" />
        </pattern>
      </defs>
      {polygons.map((polygon, i) => (
        <polygon
          // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a fault have no name
          key={i}
          points={polygon.map(screen).join(' ')}
          fill="url(#fault-hatch)"
          stroke={polygons.length > 40 ? 'none' : '#fff'}
        />
      ))}
      {label && (
        <g transform={`translate(${fit.left + x * fit.scale},${fit.top + y * fit.scale - 12})`}>
          <rect x={-92} y={-15} width={92} height={20} rx={2} fill="#1a1a1a" fillOpacity={0.85} />
          <text x={-46} textAnchor="middle" fill="#fff" className="num">
            {label}
          </text>
        </g>
      )}
    </svg>
  );
}

function labelOf(finding: Finding, frame: number): string | null {
  const at = `f ${frame}`;
  if (finding.code === 'edge')
    return frame === finding.worstFrame ? `${formatNumber(finding.measured)} px, ${at}` : at;
  if (finding.code === 'hole' || finding.code === 'reveal') return `${formatNumber(finding.measured)} px`;
  return null;
}
