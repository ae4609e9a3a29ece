import { cameraPoseAt, type Scene, setCamera, stageFrameOf } from '@keen-ridge/core/document';
import type { Point } from '@keen-ridge/core/geometry';
import { frameOnPlane } from '@keen-ridge/core/stage';
import { type PointerEvent, useRef } from 'react';
import { Picture, type PictureRoom } from '../picture/picture.tsx';
import { usePreferences } from '../state/preferences.ts';
import { useSession, useSessionState, useShownScene } from '../state/use-session.ts';

/** The whole painting as it stands at home, with the camera's frames drawn on the datum. */
export function FieldingView() {
  const session = useSession();
  return (
    <Picture
      margin={0.05}
      look="fielding"
      label="Fielding: the whole painting, with the first and the last frame to drag and size."
      cursor="default"
      onDown={({ planesUnder }) => {
        const [plane] = planesUnder();
        session.select(plane ? [plane.id] : []);
      }}
      over={(room) => <Fields room={room} />}
    />
  );
}

interface FieldDrag {
  readonly frame: number;
  readonly kind: 'move' | 'size';
  readonly from: Point;
  readonly centre: Point;
  readonly kept: Scene;
}

function Fields({ room }: { room: PictureRoom }) {
  const scene = useShownScene();
  const now = useSessionState((state) => state.frame);
  const { lengthFrames } = scene;
  const frames = [...new Set([1, lengthFrames, now])];
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute inset-0 h-full w-full"
      data-testid="fields"
    >
      {frames.map((frame) => (
        <Field
          key={frame}
          room={room}
          frame={frame}
          word={
            frame === 1 ? 'first · 1' : frame === lengthFrames ? `last · ${lengthFrames}` : `now · ${frame}`
          }
          isNow={frame === now}
        />
      ))}
    </svg>
  );
}

/** One frame of the move as a rectangle on the datum: its edge drags it, its corners size it. */
function Field({
  room,
  frame,
  word,
  isNow,
}: {
  room: PictureRoom;
  frame: number;
  word: string;
  isNow: boolean;
}) {
  const session = useSession();
  const scene = useShownScene();
  const drag = useRef<FieldDrag | null>(null);
  const { fit } = room;
  const { widthPx, heightPx } = scene.frame;
  const corners = frameOnPlane(stageFrameOf(scene), cameraPoseAt(scene, frame), 0);
  if (!corners) return null;
  const screen = corners.map(({ x, y }) => ({
    x: fit.left + (x + widthPx / 2) * fit.scale,
    y: fit.top + (y + heightPx / 2) * fit.scale,
  }));
  const onStage = (event: PointerEvent<Element>): Point => {
    const box = event.currentTarget.closest('svg')?.getBoundingClientRect();
    return {
      x: (event.clientX - (box?.left ?? 0) - fit.left) / fit.scale - widthPx / 2,
      y: (event.clientY - (box?.top ?? 0) - fit.top) / fit.scale - heightPx / 2,
    };
  };
  const changed = (event: PointerEvent<Element>): Scene | null => {
    const under = drag.current;
    if (!under) return null;
    const { keying } = usePreferences.getState();
    const at = onStage(event);
    const pose = cameraPoseAt(under.kept, frame);
    if (under.kind === 'move') {
      const values = { panX: pose.xSpx + at.x - under.from.x, panY: pose.ySpx + at.y - under.from.y };
      return setCamera(under.kept, values, { frame, keying });
    }
    const reach = (p: Point) => Math.hypot(p.x - under.centre.x, p.y - under.centre.y);
    const zoom = pose.zoom * (reach(under.from) / Math.max(1e-3, reach(at)));
    return setCamera(under.kept, { zoom: Math.min(1000, Math.max(0.01, zoom)) }, { frame, keying });
  };
  const handlers = (kind: FieldDrag['kind']) => ({
    onPointerDown: (event: PointerEvent<Element>) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      session.setPlaying(false);
      const pose = cameraPoseAt(scene, frame);
      drag.current = {
        frame,
        kind,
        from: onStage(event),
        centre: { x: pose.xSpx, y: pose.ySpx },
        kept: session.state.scene,
      };
    },
    onPointerMove: (event: PointerEvent<Element>) => {
      const next = changed(event);
      if (next) session.show(next);
    },
    onPointerUp: (event: PointerEvent<Element>) => {
      const next = changed(event);
      const kind = drag.current?.kind;
      drag.current = null;
      if (!next) return;
      const { keying } = usePreferences.getState();
      session.commit(
        keying ? 'key-camera' : 'shift-camera',
        `${kind === 'size' ? 'zoom' : 'pan'} at ${frame}`,
        next,
      );
    },
    onPointerCancel: () => {
      drag.current = null;
      session.show(null);
    },
  });
  const d = `M${screen.map(({ x, y }) => `${x},${y}`).join('L')}Z`;
  const ink = isNow ? '#c8401a' : '#1a1a1a';
  const label = screen[0] ?? { x: 0, y: 0 };
  return (
    <g data-testid={`field-${frame}`}>
      <path d={d} fill="none" stroke="#fff" strokeOpacity={0.9} strokeWidth={4} />
      <path d={d} fill="none" stroke={ink} strokeWidth={2} />
      <path
        d={d}
        fill="none"
        stroke="transparent"
        strokeWidth={14}
        pointerEvents="stroke"
        style={{ cursor: 'move', touchAction: 'none' }}
        {...handlers('move')}
      />
      {screen.map(({ x, y }, i) => (
        <rect
          // biome-ignore lint/suspicious/noArrayIndexKey: the four corners are always the same four
          key={i}
          x={x - 5}
          y={y - 5}
          width={10}
          height={10}
          fill="#fff"
          stroke={ink}
          strokeWidth={1.5}
          className="pointer-events-auto"
          style={{ cursor: i % 2 === 0 ? 'nwse-resize' : 'nesw-resize', touchAction: 'none' }}
          data-testid={`field-${frame}-corner-${i}`}
          {...handlers('size')}
        />
      ))}
      <g
        transform={`translate(${label.x + 8},${label.y + (isNow ? 8 : 30)})`}
        className="pointer-events-auto"
        style={{ cursor: 'move', touchAction: 'none' }}
        data-testid={`field-${frame}-label`}
        {...handlers('move')}
      >
        <rect width={word.length * 7 + 12} height={18} rx={2} fill={ink} />
        <text x={6} y={13} fill="#fff" className="num">
          {word}
        </text>
      </g>
    </g>
  );
}
