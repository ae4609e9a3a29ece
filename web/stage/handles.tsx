import { frameToCarrier, setPlaneAnchor, setPlaneTransform } from '@keen-ridge/core/edits/planes';
import { applyAffine, invertAffine, type Point } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type HandleScale, scaledByHandle, turnedByHandle } from '@keen-ridge/core/stage';
import { posedPlane } from '@keen-ridge/core/staging';
import { factsOf } from '@keen-ridge/core/staging/content';
import { framePlan } from '@keen-ridge/core/staging/frame';
import type { ReactNode } from 'react';
import type { PictureRoom } from '../picture/picture.tsx';
import { sceneDrag } from '../session/scene-trial.ts';
import { useSession, useSessionState, useShownScene } from '../session/use-session.ts';
import { useDrag } from '../ui/pointer/drag.ts';

type Handle =
  | { readonly kind: 'size'; readonly how: HandleScale }
  | { readonly kind: 'turn' }
  | { readonly kind: 'anchor' };

const TURN_STEP_DEG = 15;
const TURN_ARM_PX = 26;

/** Handles of the one chosen plane: corners and sides size it about its anchor, the knob turns it, the cross is the anchor. */
export function Handles({ room }: { room: PictureRoom }) {
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const selection = useSessionState((state) => state.selection);
  const busy = useSessionState((state) => state.playing || state.rock !== null);
  const { fit } = room;
  const plane = selection.length === 1 ? planeOf(scene, selection[0]) : undefined;
  if (!plane || plane.locked || plane.hidden || busy) return null;
  const artToFrame = framePlan(scene, frame).planes.find(({ planeId }) => planeId === plane.id)?.artToFrame;
  const { painted } = factsOf(plane.content);
  if (!artToFrame || !painted) return null;

  const handlers = (handle: Handle) => ({ grasp: () => grasp(handle) });
  /** A handle as it is pressed: the plane, and the maps from the frame to its carrier and its art, are those of now. */
  const grasp = (handle: Handle): HandleGrasp | null => {
    const toCarrier = frameToCarrier(scene, plane, frame);
    const toArt = invertAffine(artToFrame);
    if (!toCarrier || !toArt) return null;
    const { transform } = posedPlane(plane, frame);
    return {
      fit,
      subject: plane.name,
      change: (kept, from, at, free) => {
        if (handle.kind === 'anchor') return setPlaneAnchor(kept, plane.id, applyAffine(toArt, at));
        const [a, b] = [applyAffine(toCarrier, from), applyAffine(toCarrier, at)];
        const next =
          handle.kind === 'turn'
            ? turnedByHandle(transform, a, b, free ? TURN_STEP_DEG : 0)
            : scaledByHandle(transform, a, b, handle.how === 'even' && free ? 'free' : handle.how);
        return setPlaneTransform(kept, plane.id, next, frame);
      },
    };
  };

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
      <Grip testId="handle-anchor" cursor="move" {...handlers({ kind: 'anchor' })}>
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
      </Grip>
    </svg>
  );
}

interface HandleGrasp {
  readonly fit: PictureRoom['fit'];
  readonly subject: string;
  /** The scene with the handle pulled from one place of the frame to another; `free` while Shift is held. */
  readonly change: (kept: Scene, from: Point, at: Point, free: boolean) => Scene;
}

interface GripProps {
  testId: string;
  cursor: string;
  grasp: () => HandleGrasp | null;
  children: ReactNode;
}

/** What is held of a handle: pulled with the pointer. */
function Grip({ testId, cursor, grasp, children }: GripProps) {
  const session = useSession();
  const drag = useDrag<SVGGElement>(
    (down) => {
      const grasped = grasp();
      if (!grasped) return null;
      const { fit, subject, change } = grasped;
      const box = down.currentTarget.closest('svg')?.getBoundingClientRect();
      const onFrame = (at: { clientX: number; clientY: number }): Point => ({
        x: (at.clientX - (box?.left ?? 0) - fit.left) / fit.scale,
        y: (at.clientY - (box?.top ?? 0) - fit.top) / fit.scale,
      });
      const from = onFrame(down);
      return sceneDrag(session, {
        action: 'place-plane',
        subject,
        change: (kept, to) => change(kept, from, onFrame(to), to.shiftKey),
      });
    },
    { slackPx: 1 },
  );
  return (
    <g className="pointer-events-auto" style={{ cursor, touchAction: 'none' }} data-testid={testId} {...drag}>
      {children}
    </g>
  );
}

interface KnobProps extends Omit<GripProps, 'children'> {
  at: Point;
  round?: boolean;
  small?: boolean;
}

function Knob({ at, round, small, ...grip }: KnobProps) {
  const half = small ? 3.5 : 4.5;
  return (
    <Grip {...grip}>
      {/* A target of 24 px round a mark that hides little. */}
      <rect x={at.x - 12} y={at.y - 12} width={24} height={24} fill="transparent" />
      <rect
        x={at.x - half}
        y={at.y - half}
        width={2 * half}
        height={2 * half}
        rx={round ? half : 0}
        fill="#fff"
        stroke="#0b6e75"
        strokeWidth={1.5}
      />
    </Grip>
  );
}
