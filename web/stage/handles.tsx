import { frameToCarrier, setPlaneAnchor, setPlaneTransform } from '@keen-ridge/core/edits/planes';
import { type Affine, applyAffine, invertAffine, type Point } from '@keen-ridge/core/geometry';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type HandleScale, scaledByHandle, turnedByHandle } from '@keen-ridge/core/stage';
import { posedPlane } from '@keen-ridge/core/staging';
import { factsOf } from '@keen-ridge/core/staging/content';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { type PointerEvent, useRef } from 'react';
import type { PictureRoom } from '../picture/picture.tsx';
import { useSession, useSessionState, useShownScene } from '../session/use-session.ts';

type Handle =
  | { readonly kind: 'size'; readonly how: HandleScale }
  | { readonly kind: 'turn' }
  | { readonly kind: 'anchor' };

interface HandleDrag {
  readonly handle: Handle;
  readonly plane: Plane;
  /** From output px of the frame, as the plane stood when it was grasped. */
  readonly toCarrier: Affine;
  readonly toArt: Affine;
  readonly from: Point;
}

const TURN_STEP_DEG = 15;
const TURN_ARM_PX = 26;

/** Handles of the one chosen plane: corners and sides size it about its anchor, the knob turns it, the cross is the anchor. */
export function Handles({ room }: { room: PictureRoom }) {
  const session = useSession();
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const selection = useSessionState((state) => state.selection);
  const busy = useSessionState((state) => state.playing || state.rock !== null);
  const drag = useRef<HandleDrag | null>(null);
  const { fit } = room;
  const plane = selection.length === 1 ? planeOf(scene, selection[0]) : undefined;
  if (!plane || plane.locked || plane.hidden || busy) return null;
  const artToFrame = framePlan(scene, frame).planes.find(({ planeId }) => planeId === plane.id)?.artToFrame;
  const { painted } = factsOf(plane.content);
  if (!artToFrame || !painted) return null;

  const onFrame = (event: PointerEvent<Element>): Point => {
    const box = event.currentTarget.closest('svg')?.getBoundingClientRect();
    return {
      x: (event.clientX - (box?.left ?? 0) - fit.left) / fit.scale,
      y: (event.clientY - (box?.top ?? 0) - fit.top) / fit.scale,
    };
  };
  const changed = (event: PointerEvent<Element>): Scene | null => {
    const under = drag.current;
    if (!under) return null;
    const at = onFrame(event);
    if (under.handle.kind === 'anchor')
      return setPlaneAnchor(session.state.scene, plane.id, applyAffine(under.toArt, at));
    const [from, to] = [under.from, at].map((p) => applyAffine(under.toCarrier, p)) as [Point, Point];
    const { transform } = posedPlane(under.plane, frame);
    const next =
      under.handle.kind === 'turn'
        ? turnedByHandle(transform, from, to, event.shiftKey ? TURN_STEP_DEG : 0)
        : scaledByHandle(
            transform,
            from,
            to,
            under.handle.how === 'even' && event.shiftKey ? 'free' : under.handle.how,
          );
    return setPlaneTransform(session.state.scene, plane.id, next, frame);
  };
  const handlers = (handle: Handle) => ({
    onPointerDown: (event: PointerEvent<Element>) => {
      const toCarrier = frameToCarrier(scene, plane, frame);
      const toArt = invertAffine(artToFrame);
      if (event.button !== 0 || !toCarrier || !toArt) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { handle, plane, toCarrier, toArt, from: onFrame(event) };
    },
    onPointerMove: (event: PointerEvent<Element>) => {
      const next = changed(event);
      if (next) session.show(next);
    },
    onPointerUp: (event: PointerEvent<Element>) => {
      const next = changed(event);
      drag.current = null;
      if (next) session.commit('place-plane', plane.name, next);
    },
    onPointerCancel: () => {
      drag.current = null;
      session.show(null);
    },
  });

  const screen = (x: number, y: number): Point => {
    const p = applyAffine(artToFrame, { x, y });
    return { x: fit.left + p.x * fit.scale, y: fit.top + p.y * fit.scale };
  };
  const { x0, y0, x1, y1 } = painted;
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const corners = [screen(x0, y0), screen(x1, y0), screen(x1, y1), screen(x0, y1)];
  const sides = [
    { at: screen(x0, cy), how: 'x' as const },
    { at: screen(x1, cy), how: 'x' as const },
    { at: screen(cx, y0), how: 'y' as const },
    { at: screen(cx, y1), how: 'y' as const },
  ];
  const anchor = screen(plane.transform.anchorXArtPx, plane.transform.anchorYArtPx);
  const head = screen(cx, y0);
  const middle = screen(cx, cy);
  const length = Math.hypot(head.x - middle.x, head.y - middle.y) || 1;
  const knob = {
    x: head.x + ((head.x - middle.x) / length) * TURN_ARM_PX,
    y: head.y + ((head.y - middle.y) / length) * TURN_ARM_PX,
  };
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute inset-0 h-full w-full"
      data-testid="handles"
    >
      <line x1={head.x} y1={head.y} x2={knob.x} y2={knob.y} stroke="#0b6e75" />
      <Knob at={knob} round testId="handle-turn" cursor="grab" {...handlers({ kind: 'turn' })} />
      {corners.map((at, i) => (
        <Knob
          // biome-ignore lint/suspicious/noArrayIndexKey: the four corners are always the same four
          key={i}
          at={at}
          testId={`handle-corner-${i}`}
          cursor={i % 2 === 0 ? 'nwse-resize' : 'nesw-resize'}
          {...handlers({ kind: 'size', how: 'even' })}
        />
      ))}
      {sides.map(({ at, how }, i) => (
        <Knob
          // biome-ignore lint/suspicious/noArrayIndexKey: the four sides are always the same four
          key={i}
          at={at}
          small
          testId={`handle-side-${i}`}
          cursor={how === 'x' ? 'ew-resize' : 'ns-resize'}
          {...handlers({ kind: 'size', how })}
        />
      ))}
      <g
        className="pointer-events-auto"
        style={{ cursor: 'move', touchAction: 'none' }}
        data-testid="handle-anchor"
        {...handlers({ kind: 'anchor' })}
      >
        <circle cx={anchor.x} cy={anchor.y} r={8} fill="transparent" />
        <path
          d={`M${anchor.x - 7},${anchor.y}h14M${anchor.x},${anchor.y - 7}v14`}
          stroke="#fff"
          strokeWidth={3.5}
        />
        <path
          d={`M${anchor.x - 7},${anchor.y}h14M${anchor.x},${anchor.y - 7}v14`}
          stroke="#0b6e75"
          strokeWidth={1.5}
        />
      </g>
    </svg>
  );
}

interface KnobProps {
  at: Point;
  cursor: string;
  testId: string;
  round?: boolean;
  small?: boolean;
  onPointerDown: (event: PointerEvent<Element>) => void;
  onPointerMove: (event: PointerEvent<Element>) => void;
  onPointerUp: (event: PointerEvent<Element>) => void;
  onPointerCancel: () => void;
}

function Knob({ at, cursor, testId, round, small, ...handlers }: KnobProps) {
  const half = small ? 3.5 : 4.5;
  return (
    <rect
      x={at.x - half}
      y={at.y - half}
      width={2 * half}
      height={2 * half}
      rx={round ? half : 0}
      fill="#fff"
      stroke="#0b6e75"
      strokeWidth={1.5}
      className="pointer-events-auto"
      style={{ cursor, touchAction: 'none' }}
      data-testid={testId}
      {...handlers}
    />
  );
}
