import {
  editTrack,
  makeTrack,
  movePathMark,
  type PathMark,
  pathMarks,
  pathOnFrame,
} from '@keen-ridge/core/edits/camera';
import type { Point } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { cameraPoseAt, type PathOwner, pathPlaceAt, trackOf, trackRefOf } from '@keen-ridge/core/staging';
import { addBend, type Place, removeBend } from '@keen-ridge/core/timing/moves';
import { extentOf } from '@keen-ridge/core/units';
import { type KeyboardEvent, useMemo } from 'react';
import type { PictureRoom } from '../../picture/picture.tsx';
import { usePreferences } from '../../session/choices/preferences.ts';
import { useRestingFrame } from '../../session/pace/use-frame.ts';
import { sceneDrag } from '../../session/scene-trial.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import { moveWords as say } from '../../words/move.ts';
import { ownerWord, usePathOwner } from './use-path-owner.ts';

/** Ticks closer than this are drawn one in so many. */
const MOST_TICKS = 1500;

/** The path of the camera or the chosen plane over a picture: a tick a frame, keys and bends to drag. */
export function PathLayer({ room }: { room: PictureRoom }) {
  const shown = usePreferences((state) => state.showPath);
  const playing = useSessionState((state) => state.playing);
  const hasTrack = useSessionState((state) => state.scene.move.track !== null);
  const owner = usePathOwner();
  // Through the camera its own path would always lie in the middle of the picture: only where there is one to bend.
  const inTheWay = owner.on === 'camera' && room.pose === undefined && !hasTrack;
  return shown && !playing && !inTheWay ? <ShownPath room={room} /> : null;
}

function ShownPath({ room }: { room: PictureRoom }) {
  const session = useSession();
  const scene = useShownScene();
  const frame = useRestingFrame();
  const owner = usePathOwner();
  const { fit, pose } = room;
  const map = useMemo(
    () => pathOnFrame(scene, owner, pose ?? cameraPoseAt(scene, frame), frame),
    [scene, owner, pose, frame],
  );
  const marks = useMemo(() => pathMarks(scene, owner), [scene, owner]);
  const screen = (place: Place): Point | null => {
    const at = map.toFrame(place);
    return at && { x: fit.left + at.x * fit.scale, y: fit.top + at.y * fit.scale };
  };
  const frames = marks.flatMap((mark) => (mark.frame === null ? [] : [mark.frame]));
  const [first, last] = extentOf(frames);
  const step = Math.max(1, Math.ceil((last - first) / MOST_TICKS));
  if (frames.length < 2) return null;
  const ticks: { frame: number; at: Point | null }[] = [];
  for (let f = first; f <= last; f += step)
    ticks.push({ frame: f, at: screen(pathPlaceAt(scene, owner, f)) });
  const line = ticks.flatMap(({ at }) => (at ? [`${at.x},${at.y}`] : [])).join(' ');
  const placeUnder = (
    event: { clientX: number; clientY: number; currentTarget: Element },
    near: Place,
  ): Place | null => {
    const box = event.currentTarget.closest('svg')?.getBoundingClientRect();
    const at = {
      x: (event.clientX - (box?.left ?? 0) - fit.left) / fit.scale,
      y: (event.clientY - (box?.top ?? 0) - fit.top) / fit.scale,
    };
    return map.fromFrame(at, near);
  };
  const bendAt = (event: { clientX: number; clientY: number; currentTarget: Element }) => {
    const near = placeUnder(event, pathPlaceAt(scene, owner, frame));
    const bent = near && withBend(session.state.scene, owner, near);
    if (!bent) return;
    session.selectKeys([]);
    session.commit('bend-track', ownerWord(scene, owner), bent);
  };
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full select-none" data-testid="path">
      <title>{say.pathOfOwnerWordDouble(ownerWord(scene, owner))}</title>
      <polyline points={line} fill="none" stroke="#1a1a1a" strokeOpacity={0.55} strokeWidth={3.5} />
      <polyline points={line} fill="none" stroke="#ff7a4a" strokeWidth={1.5} />
      <Ticks ticks={ticks} />
      {/* biome-ignore lint/a11y/noStaticElementInteractions: by keyboard a bend is added from Track */}
      <polyline
        points={line}
        fill="none"
        stroke="transparent"
        strokeWidth={14}
        pointerEvents="stroke"
        style={{ cursor: 'copy' }}
        data-testid="path-line"
        // The picture would take the pointer, and the double click with it.
        onPointerDown={(event) => event.button === 0 && event.stopPropagation()}
        onDoubleClick={bendAt}
      />
      {marks.map((mark, index) => (
        <Mark
          // biome-ignore lint/suspicious/noArrayIndexKey: a mark is known by its place in the order of the path
          key={index}
          mark={mark}
          index={index}
          owner={owner}
          at={screen(mark.at)}
          placeUnder={placeUnder}
          pxToPlace={(by) => {
            const from = map.toFrame(mark.at);
            return from && map.fromFrame({ x: from.x + by.x, y: from.y + by.y }, mark.at);
          }}
        />
      ))}
    </svg>
  );
}

/** A bend near a place; without a track there is one from here on. Null where there is no path. */
export function withBend(scene: Scene, owner: PathOwner, near: Place): Scene | null {
  const tracked = trackOf(scene, trackRefOf(owner)) ? scene : makeTrack(scene, owner);
  return tracked && editTrack(tracked, owner, (track) => addBend(track, near)?.track ?? track);
}

/** One tick a frame, across the path: crowding is slowness. */
function Ticks({ ticks }: { ticks: readonly { frame: number; at: Point | null }[] }) {
  const d = ticks.flatMap(({ at }, i) => {
    const [before, after] = [ticks[i - 1]?.at ?? at, ticks[i + 1]?.at ?? at];
    if (!at || !before || !after) return [];
    const [dx, dy] = [after.x - before.x, after.y - before.y];
    const length = Math.hypot(dx, dy);
    const [nx, ny] = length < 1e-6 ? [0, 1] : [-dy / length, dx / length];
    return [`M${at.x - nx * 4},${at.y - ny * 4}L${at.x + nx * 4},${at.y + ny * 4}`];
  });
  const [first, last] = [ticks[0]?.at, ticks.at(-1)?.at];
  const crowded = first && last ? Math.hypot(last.x - first.x, last.y - first.y) / ticks.length < 4 : false;
  return (
    <>
      {!crowded && <path d={d.join('')} stroke="#1a1a1a" strokeOpacity={0.5} strokeWidth={2.5} fill="none" />}
      <path
        d={d.join('')}
        stroke="#fff"
        strokeOpacity={crowded ? 0.6 : 1}
        strokeWidth={crowded ? 0.75 : 1}
        fill="none"
        data-testid="path-ticks"
      />
    </>
  );
}

interface MarkProps {
  mark: PathMark;
  index: number;
  owner: PathOwner;
  at: Point | null;
  placeUnder: (
    event: { clientX: number; clientY: number; currentTarget: Element },
    near: Place,
  ) => Place | null;
  pxToPlace: (by: Point) => Place | null;
}

function Mark({ mark, index, owner, at, placeUnder, pxToPlace }: MarkProps) {
  const session = useSession();
  const scene = useShownScene();
  const word = mark.frame === null ? say.bendOfThePath(index) : say.pathKeyAtFrame(mark.frame);
  const action = mark.kind === 'bend' ? 'bend-track' : owner.on === 'camera' ? 'key-camera' : 'key-plane';
  const name = ownerWord(scene, owner);
  const drag = useDrag<SVGGElement>(
    (down) => {
      const svg = down.currentTarget.closest('svg');
      const press = placeUnder(down, mark.at);
      if (!press || !svg) return null;
      return sceneDrag(session, {
        action,
        subject: name,
        change: (kept, to) => {
          const place = placeUnder({ ...to, currentTarget: svg }, mark.at);
          if (!place) return kept;
          const [x, y, z] = mark.at;
          return movePathMark(kept, owner, index, [x + place[0] - press[0], y + place[1] - press[1], z]);
        },
        click: () => {
          if (mark.frame !== null) session.goTo(mark.frame);
        },
      });
    },
    { slackPx: 2 },
  );
  if (!at) return null;
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowStep(event);
    if (by) {
      const place = pxToPlace(by);
      if (place) session.commit(action, name, movePathMark(session.state.scene, owner, index, place));
    } else if (mark.kind === 'bend' && (event.key === 'Delete' || event.key === 'Backspace')) takeAway();
    else if (event.key === 'Enter' && mark.frame !== null) session.goTo(mark.frame);
    else return;
    event.preventDefault();
  };
  const takeAway = () =>
    session.commit(
      'bend-track',
      name,
      editTrack(session.state.scene, owner, (track) => removeBend(track, index)),
    );
  return (
    // biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own
    <g
      role="button"
      tabIndex={0}
      aria-label={word}
      className="pointer-events-auto cursor-move touch-none"
      {...drag}
      onDoubleClick={(event) => {
        event.stopPropagation();
        if (mark.kind === 'bend') takeAway();
      }}
      onKeyDown={onKeyDown}
    >
      <title>{mark.kind === 'bend' ? say.dragToBendDoubleClick : say.wordDragToPlace(word)}</title>
      <circle cx={at.x} cy={at.y} r={11} fill="transparent" />
      {mark.kind === 'bend' ? (
        <circle cx={at.x} cy={at.y} r={5} fill="#fff" stroke="var(--color-select)" strokeWidth={2.5} />
      ) : (
        <rect
          x={at.x - 3}
          y={at.y - 9}
          width={6}
          height={18}
          rx={3}
          fill="var(--color-signal)"
          stroke="#fff"
          strokeWidth={1.5}
        />
      )}
    </g>
  );
}
