import type { Point } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import type { ReactNode } from 'react';
import type { PictureRoom } from '../picture/picture.tsx';
import { sceneDrag } from '../session/scene-trial.ts';
import { useSession } from '../session/use-session.ts';
import { useDrag } from '../ui/pointer/drag.ts';

/** What a press on a handle has taken hold of. */
export interface HandleGrasp {
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
export function Grip({ testId, cursor, grasp, children }: GripProps) {
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

/** A small square or disc to pull: a target of 24 px round a mark that hides little. */
export function Knob({ at, round, small, ...grip }: KnobProps) {
  const half = small ? 3.5 : 4.5;
  return (
    <Grip {...grip}>
      <rect x={at.x - 12} y={at.y - 12} width={24} height={24} fill="transparent" />
      <rect
        x={at.x - half}
        y={at.y - half}
        width={2 * half}
        height={2 * half}
        rx={round ? half : 0}
        fill="#fff"
        stroke="var(--color-select)"
        strokeWidth={1.5}
      />
    </Grip>
  );
}

/** How far the knob that turns stands from what it turns, CSS px. */
const TURN_ARM_PX = 26;

/** Where the knob that turns stands: beyond `head`, as seen from `middle`. */
export function turnKnobAt(middle: Point, head: Point): Point {
  const length = Math.hypot(head.x - middle.x, head.y - middle.y) || 1;
  return {
    x: head.x + ((head.x - middle.x) / length) * TURN_ARM_PX,
    y: head.y + ((head.y - middle.y) / length) * TURN_ARM_PX,
  };
}
