import { setCameraHere, sizeField } from '@keen-ridge/core/edits/camera';
import type { Point } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { frameOnPlane } from '@keen-ridge/core/stage';
import { cameraPoseAt, channelAt, keyedChannels, stageFrameOf, steadyPoseAt } from '@keen-ridge/core/staging';
import type { KeyboardEvent, PointerEvent, ReactNode } from 'react';
import { cameraAction } from '../edits/camera-edits.ts';
import { useChoosing } from '../picture/choosing.tsx';
import { Picture, type PictureRoom } from '../picture/picture.tsx';
import { usePreferences } from '../session/choices/preferences.ts';
import { sceneDrag } from '../session/scene-trial.ts';
import { useSession, useSessionState, useShownScene } from '../session/use-session.ts';
import { type Drag, useDrag } from '../ui/pointer/drag.ts';
import { viewsWords as say } from '../words/views.ts';

/** More keys than this would cover the painting: only the first, the last and those near the playhead are fields then. */
const MOST_FIELDS = 14;

/** The whole painting as it stands at home, with the camera's frames drawn on the datum. */
export function FieldingView({ over }: { over?: (room: PictureRoom) => ReactNode }) {
  const choosing = useChoosing();
  return (
    <Picture
      margin={0.05}
      look="fielding"
      label={say.fieldingTheWholePaintingWith}
      cursor="default"
      grasp={choosing.press}
      over={(room) => (
        <>
          {over?.(room)}
          {choosing.draw(room)}
          <Fields room={room} />
        </>
      )}
    />
  );
}

/** First, last, now, and every frame on which the camera has a key. */
function fieldFrames(scene: Scene, now: number): number[] {
  const keys = keyedChannels(scene)
    .filter((ref) => ref.on === 'camera')
    .flatMap((ref) => channelAt(scene, ref)?.keys.map((key) => key.frame) ?? [])
    .filter((frame) => frame >= 1 && frame <= scene.lengthFrames);
  const between = [...new Set(keys)]
    .sort((p, q) => Math.abs(p - now) - Math.abs(q - now))
    .slice(0, MOST_FIELDS);
  return [...new Set([1, scene.lengthFrames, ...between, now])];
}

const LABEL = { height: 18, row: 22, inset: 8, perSign: 7, around: 12 };

/** How far down each field's label stands from its corner, so that none lies on another. Screen px. */
function labelOffsets(
  scene: Scene,
  frames: readonly number[],
  words: readonly string[],
  scale: number,
): number[] {
  const stage = stageFrameOf(scene);
  const taken: { x0: number; x1: number; y: number }[] = [];
  return frames.map((frame, i) => {
    const corner = frameOnPlane(stage, cameraPoseAt(scene, frame), 0)?.[0];
    if (!corner) return LABEL.inset;
    const x0 = corner.x * scale + LABEL.inset;
    const x1 = x0 + (words[i]?.length ?? 0) * LABEL.perSign + LABEL.around;
    let offset = LABEL.inset;
    const y = () => corner.y * scale + offset;
    while (taken.some((box) => box.x0 < x1 && x0 < box.x1 && Math.abs(box.y - y()) < LABEL.row))
      offset += LABEL.row;
    taken.push({ x0, x1, y: y() });
    return offset;
  });
}

function Fields({ room }: { room: PictureRoom }) {
  const scene = useShownScene();
  const now = useSessionState((state) => state.frame);
  const { lengthFrames } = scene;
  const word = (frame: number) =>
    frame === 1
      ? 'first · 1'
      : frame === lengthFrames
        ? `last · ${lengthFrames}`
        : frame === now
          ? `now · ${now}`
          : `${frame}`;
  const frames = fieldFrames(scene, now);
  const words = frames.map(word);
  const offsets = labelOffsets(scene, frames, words, room.fit.scale);
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full select-none" data-testid="fields">
      <title>{say.framesOfTheMove}</title>
      {frames.map((frame, i) => (
        <Field
          key={frame}
          room={room}
          frame={frame}
          labelAt={offsets[i] ?? LABEL.inset}
          word={words[i] ?? ''}
          isNow={frame === now}
        />
      ))}
    </svg>
  );
}

type Grip = 'move' | 'size' | 'turn';

const degAt = (p: Point, centre: Point): number =>
  (Math.atan2(p.y - centre.y, p.x - centre.x) * 180) / Math.PI;
/** Px of the painting that an arrow key pans by, the share that + and − size by, and the degrees that [ and ] turn by. */
const STEP = { pan: 8, size: 1.02, turn: 0.5 };

/** One frame of the move as a rectangle on the datum: its edge pans it, its corners size it, its knob turns it. */
function Field({
  room,
  frame,
  labelAt,
  word,
  isNow,
}: {
  room: PictureRoom;
  frame: number;
  labelAt: number;
  word: string;
  isNow: boolean;
}) {
  const session = useSession();
  const scene = useShownScene();
  const { fit } = room;
  const { widthPx, heightPx } = scene.frame;
  const corners = frameOnPlane(stageFrameOf(scene), cameraPoseAt(scene, frame), 0);
  if (!corners) return null;
  const screen = corners.map(({ x, y }) => ({
    x: fit.left + (x + widthPx / 2) * fit.scale,
    y: fit.top + (y + heightPx / 2) * fit.scale,
  }));
  const pose = cameraPoseAt(scene, frame);
  const centre = { x: pose.xSpx, y: pose.ySpx };
  const change = () => ({ frame, keying: usePreferences.getState().keying });
  const panned = (kept: Scene, x: number, y: number): Scene => {
    const pose = steadyPoseAt(kept, frame);
    return setCameraHere(
      kept,
      { ...(x ? { panX: pose.xSpx + x } : {}), ...(y ? { panY: pose.ySpx + y } : {}) },
      change(),
    );
  };
  const turned = (kept: Scene, byDeg: number): Scene =>
    setCameraHere(kept, { roll: steadyPoseAt(kept, frame).rollDeg + byDeg }, change());
  const sized = (kept: Scene, factor: number): Scene =>
    sizeField(kept, factor, usePreferences.getState().sizing, change());
  /** The field pulled by one of its grips from one place of the stage to another. */
  const pulled = (kept: Scene, kind: Grip, from: Point, at: Point, inSteps: boolean): Scene => {
    if (kind === 'move') return panned(kept, at.x - from.x, at.y - from.y);
    if (kind === 'turn') {
      const by = degAt(at, centre) - degAt(from, centre);
      const nearest = by - 360 * Math.round(by / 360);
      return turned(kept, inSteps ? Math.round(nearest / 5) * 5 : nearest);
    }
    const reach = (p: Point) => Math.max(1e-3, Math.hypot(p.x - centre.x, p.y - centre.y));
    return sized(kept, Math.min(100, Math.max(0.01, reach(at) / reach(from))));
  };
  const subjectOfGrip = (kind: Grip): string =>
    `${{ move: 'pan', size: usePreferences.getState().sizing, turn: 'roll' }[kind]} at ${frame}`;
  const keep = (kind: Grip, next: Scene) => session.commit(cameraAction(), subjectOfGrip(kind), next);
  const grips = (kind: Grip) => ({
    grasp: (down: PointerEvent<Element>): Drag => {
      session.setPlaying(false);
      const box = down.currentTarget.closest('svg')?.getBoundingClientRect();
      const onStage = (p: { clientX: number; clientY: number }): Point => ({
        x: (p.clientX - (box?.left ?? 0) - fit.left) / fit.scale - widthPx / 2,
        y: (p.clientY - (box?.top ?? 0) - fit.top) / fit.scale - heightPx / 2,
      });
      const from = onStage(down);
      return sceneDrag(session, {
        action: cameraAction(),
        subject: subjectOfGrip(kind),
        change: (kept, to) => pulled(kept, kind, from, onStage(to), to.shiftKey),
        click: () => session.goTo(frame),
      });
    },
  });
  const onKeyDown = (event: KeyboardEvent) => {
    const { scene: kept } = session.state;
    const often = event.shiftKey ? 10 : 1;
    const pans: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const pan = pans[event.key];
    if (pan) keep('move', panned(kept, pan[0] * STEP.pan * often, pan[1] * STEP.pan * often));
    else if (event.key === '+' || event.key === '=') keep('size', sized(kept, STEP.size));
    else if (event.key === '-') keep('size', sized(kept, 1 / STEP.size));
    else if (event.key === '[' || event.key === ']')
      keep('turn', turned(kept, event.key === ']' ? STEP.turn : -STEP.turn));
    else if (event.key === 'Enter') session.goTo(frame);
    else return;
    event.preventDefault();
  };
  const d = `M${screen.map(({ x, y }) => `${x},${y}`).join('L')}Z`;
  const ink = isNow ? 'var(--color-signal)' : '#1a1a1a';
  const [a, b, c] = screen as [Point, Point, Point];
  const top = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const side = Math.max(1, Math.hypot(b.x - c.x, b.y - c.y));
  const knob = { x: top.x + ((b.x - c.x) / side) * 22, y: top.y + ((b.y - c.y) / side) * 22 };
  const isEnd = frame === 1 || frame === scene.lengthFrames;
  return (
    <g data-testid={`field-${frame}`} opacity={isNow || isEnd ? 1 : 0.75}>
      <path d={d} fill="none" stroke="#fff" strokeOpacity={0.9} strokeWidth={isEnd || isNow ? 4 : 3} />
      <path
        d={d}
        fill="none"
        stroke={ink}
        strokeWidth={isEnd || isNow ? 2 : 1}
        strokeDasharray={frame === scene.lengthFrames && !isNow ? '8 5' : undefined}
      />
      <FieldGrip cursor="move" {...grips('move')}>
        <path d={d} fill="none" stroke="transparent" strokeWidth={14} pointerEvents="stroke" />
      </FieldGrip>
      {screen.map(({ x, y }, i) => (
        <FieldGrip
          // biome-ignore lint/suspicious/noArrayIndexKey: the four corners are always the same four
          key={i}
          cursor={i % 2 === 0 ? 'nwse-resize' : 'nesw-resize'}
          testId={`field-${frame}-corner-${i}`}
          {...grips('size')}
        >
          <rect x={x - 12} y={y - 12} width={24} height={24} fill="transparent" pointerEvents="all" />
          <rect
            x={x - 5}
            y={y - 5}
            width={10}
            height={10}
            fill="#fff"
            stroke={ink}
            strokeWidth={1.5}
            pointerEvents="all"
          />
        </FieldGrip>
      ))}
      {(isNow || isEnd) && (
        <>
          <line x1={top.x} y1={top.y} x2={knob.x} y2={knob.y} stroke={ink} strokeWidth={1.5} />
          <FieldGrip cursor="grab" testId={`field-${frame}-turn`} {...grips('turn')}>
            <circle cx={knob.x} cy={knob.y} r={12} fill="transparent" pointerEvents="all" />
            <circle
              cx={knob.x}
              cy={knob.y}
              r={6}
              fill="#fff"
              stroke={ink}
              strokeWidth={1.5}
              pointerEvents="all"
            />
          </FieldGrip>
        </>
      )}
      <FieldGrip
        cursor="move"
        testId={`field-${frame}-label`}
        label={say.fieldAtFrameFrameArrows(frame)}
        transform={`translate(${a.x + LABEL.inset},${a.y + labelAt})`}
        onKeyDown={onKeyDown}
        {...grips('move')}
      >
        <rect
          width={word.length * LABEL.perSign + LABEL.around}
          height={LABEL.height}
          rx={2}
          fill={ink}
          pointerEvents="all"
        />
        <text x={6} y={13} fill="#fff" className="num">
          {word}
        </text>
      </FieldGrip>
    </g>
  );
}

interface FieldGripProps {
  cursor: string;
  grasp: (down: PointerEvent<Element>) => Drag;
  children: ReactNode;
  testId?: string;
  /** Of the grip that can be reached by keyboard. */
  label?: string;
  transform?: string;
  onKeyDown?: (event: KeyboardEvent) => void;
}

/** What is held of a field. */
function FieldGrip({ cursor, grasp, children, testId, label, transform, onKeyDown }: FieldGripProps) {
  const drag = useDrag<SVGGElement>(grasp, { slackPx: 2 });
  const button = label ? { role: 'button', tabIndex: 0, 'aria-label': label } : {};
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the label of a field is its button; its grips are for the pointer
    <g
      {...button}
      transform={transform}
      style={{ cursor, touchAction: 'none' }}
      data-testid={testId}
      onKeyDown={onKeyDown}
      {...drag}
    >
      {children}
    </g>
  );
}
