import { type Affine, applyAffine, type Box, type Point } from '@keen-ridge/core/geometry';
import type { PlaneId } from '@keen-ridge/core/scene';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { type Finding, stripBeyond } from '@keen-ridge/core/survey';
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
  const polygons = faultOf(scene, frame, finding, bare);
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

/** Where a fault lies at a frame, as polygons in output px. */
function faultOf(
  scene: Parameters<typeof framePlan>[0],
  frame: number,
  finding: Finding,
  bare: FaultOverlayProps['bare'],
): Point[][] {
  if (finding.code === 'hole') return [cornersOf(finding.box)];
  if (!('planeId' in finding)) return [];
  const plan = framePlan(scene, frame).planes.find(({ planeId }) => planeId === finding.planeId);
  if (plan?.state !== 'drawn') return [];
  const facts = plan.shown.kind === 'image' ? plan.shown.art : plan.shown.facts;
  const onFrame = (m: Affine, points: readonly Point[]) => points.map((p) => applyAffine(m, p));
  if (finding.code === 'edge') {
    const strip = stripBeyond({ map: facts, artToFrame: plan.artToFrame }, finding.artSide, scene.frame);
    return strip.length < 3 ? [] : [onFrame(plan.artToFrame, strip)];
  }
  if (finding.code === 'reveal')
    return (bare.get(finding.planeId) ?? []).map((box) => onFrame(plan.artToFrame, cornersOf(box)));
  return [];
}

const cornersOf = ({ x0, y0, x1, y1 }: Box): Point[] => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];
