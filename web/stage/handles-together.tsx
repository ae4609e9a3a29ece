import { boxesOnFrame, boxRound, sizePlanesOnFrame, turnPlanesOnFrame } from '@keen-ridge/core/edits/planes';
import type { Point } from '@keen-ridge/core/geometry';
import { subjectOf } from '../edits/depth-edits.ts';
import type { PictureRoom } from '../picture/picture.tsx';
import { useRestingFrame } from '../session/pace/use-frame.ts';
import { useSessionState, useShownScene } from '../session/use-session.ts';
import { type HandleGrasp, Knob, turnKnobAt } from './handle-knob.tsx';

const TURN_STEP_DEG = 15;
const LEAST_RATIO = 1e-3;

/** Degrees, clockwise, from one place to another as seen from `middle`: the short way. */
export function turnBetween(middle: Point, from: Point, to: Point): number {
  const angle = (p: Point) => (Math.atan2(p.y - middle.y, p.x - middle.x) * 180) / Math.PI;
  return ((((angle(to) - angle(from) + 180) % 360) + 360) % 360) - 180;
}

/** How much larger something gets whose corner is pulled from one place to another: as far as the pull goes along the diagonal. */
export function ratioBetween(middle: Point, from: Point, to: Point): number {
  const [px, py] = [from.x - middle.x, from.y - middle.y];
  const ratio = (px * (to.x - middle.x) + py * (to.y - middle.y)) / (px * px + py * py || 1);
  return Math.max(LEAST_RATIO, ratio);
}

/** Handles of several chosen planes: a corner sizes them all about their middle, the knob turns them all about it. */
export function HandlesTogether({ fit }: { fit: PictureRoom['fit'] }) {
  const scene = useShownScene();
  const frame = useRestingFrame();
  const selection = useSessionState((state) => state.selection);
  const ids = new Set(selection);
  const box = boxRound(boxesOnFrame(scene, ids, frame).map((one) => one.box));
  if (!box) return null;
  const middle = { x: (box.x0 + box.x1) / 2, y: (box.y0 + box.y1) / 2 };
  const onScreen = ({ x, y }: Point): Point => ({ x: fit.left + x * fit.scale, y: fit.top + y * fit.scale });
  const corners = [
    { x: box.x0, y: box.y0 },
    { x: box.x1, y: box.y0 },
    { x: box.x1, y: box.y1 },
    { x: box.x0, y: box.y1 },
  ];
  const [first, , third] = corners.map(onScreen);
  const head = onScreen({ x: middle.x, y: box.y0 });
  const knob = turnKnobAt(onScreen(middle), head);
  // The middle is that of the press: while they are turned the box round them changes.
  const grasp = (change: HandleGrasp['change']): HandleGrasp => ({
    fit,
    subject: subjectOf(scene, selection),
    change,
  });
  const size = () =>
    grasp((kept, from, at) => sizePlanesOnFrame(kept, ids, middle, ratioBetween(middle, from, at), frame));
  const turn = () =>
    grasp((kept, from, at, inSteps) => {
      const deg = turnBetween(middle, from, at);
      const rounded = inSteps ? Math.round(deg / TURN_STEP_DEG) * TURN_STEP_DEG : deg;
      return turnPlanesOnFrame(kept, ids, middle, rounded, frame);
    });
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute inset-0 h-full w-full"
      data-testid="handles"
    >
      <rect
        x={first!.x}
        y={first!.y}
        width={third!.x - first!.x}
        height={third!.y - first!.y}
        fill="none"
        stroke="var(--color-select)"
        strokeDasharray="4 3"
      />
      <line x1={head.x} y1={head.y} x2={knob.x} y2={knob.y} stroke="var(--color-select)" />
      <Knob at={knob} round testId="handle-turn" cursor="grab" grasp={turn} />
      {corners.map((corner, i) => (
        <Knob
          // biome-ignore lint/suspicious/noArrayIndexKey: the four corners are always the same four
          key={i}
          at={onScreen(corner)}
          testId={`handle-corner-${i}`}
          cursor={i % 2 === 0 ? 'nwse-resize' : 'nesw-resize'}
          grasp={size}
        />
      ))}
    </svg>
  );
}
