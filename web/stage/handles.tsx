import { frameToCarrier, setPlaneAnchor, setPlaneTransform } from '@keen-ridge/core/edits/planes';
import { applyAffine, invertAffine, type Point } from '@keen-ridge/core/geometry';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type HandleScale, scaledByHandle, turnedByHandle } from '@keen-ridge/core/stage';
import { posedPlane } from '@keen-ridge/core/staging';
import { factsOf } from '@keen-ridge/core/staging/content';
import { framePlan } from '@keen-ridge/core/staging/frame';
import type { PictureRoom } from '../picture/picture.tsx';
import { useRestingFrame } from '../session/pace/use-frame.ts';
import { useSessionState, useShownScene } from '../session/use-session.ts';
import { Grip, type HandleGrasp, Knob, turnKnobAt } from './handle-knob.tsx';
import { HandlesTogether } from './handles-together.tsx';

type Handle =
  | { readonly kind: 'size'; readonly how: HandleScale }
  | { readonly kind: 'turn' }
  | { readonly kind: 'anchor' };

const TURN_STEP_DEG = 15;

/** Handles of what is chosen. Of one plane: corners and sides size it about its anchor, the knob turns it, the cross is the anchor. */
export function Handles({ room }: { room: PictureRoom }) {
  const scene = useShownScene();
  const frame = useRestingFrame();
  const selection = useSessionState((state) => state.selection);
  const busy = useSessionState((state) => state.playing || state.rock !== null);
  const { fit } = room;
  const plane = selection.length === 1 ? planeOf(scene, selection[0]) : undefined;
  if (busy) return null;
  if (selection.length > 1) return <HandlesTogether fit={fit} />;
  if (!plane || plane.locked || plane.hidden) return null;
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
        if (handle.kind === 'anchor') return setPlaneAnchor(kept, plane.id, applyAffine(toArt, at), frame);
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
  const knob = turnKnobAt(middle, head);
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute inset-0 h-full w-full"
      data-testid="handles"
    >
      <line x1={head.x} y1={head.y} x2={knob.x} y2={knob.y} stroke="var(--color-select)" />
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
          stroke="var(--color-select)"
          strokeWidth={1.5}
        />
      </Grip>
    </svg>
  );
}
