import { movePathMark, pathMarks } from '@keen-ridge/core/edits/camera';
import { mapBox } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { focalPx } from '@keen-ridge/core/stage';
import { cameraPoseAt, pathPlaceAt, stageFrameOf, standingsAt } from '@keen-ridge/core/staging';
import { factsOf } from '@keen-ridge/core/staging/content';
import type { Place } from '@keen-ridge/core/timing/moves';
import { extentOf } from '@keen-ridge/core/units';
import { type KeyboardEvent, useMemo, useRef } from 'react';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { sceneDrag } from '../../session/scene-trial.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import { type ElementSize, useElementSize } from '../../ui/use-element-size.ts';
import { moveWords as say } from '../../words/move.ts';
import { ownerWord, usePathOwner } from './use-path-owner.ts';

interface Plan {
  readonly x: (spx: number) => number;
  /** Depth from the datum to px: far is up. */
  readonly z: (spx: number) => number;
  readonly spxPerPx: number;
}

const MARGIN = 28;

/** What lies farther behind the datum than this share of the home distance is drawn at the upper edge. */
const FARTHEST = 1.2;
const NAME_ROOM = 150;

/** East to the right, far up: from the nearest place of the camera to a good way behind the datum. */
function planOf(scene: Scene, size: ElementSize, places: readonly Place[]): Plan {
  const home = scene.homeDistanceSpx;
  const depths = [...standingsAt(scene, 1).values()]
    .filter(({ root }) => root === 'stage')
    .map((s) => s.depthSpx);
  const reached = [-home, ...places.map((p) => p[2] - home)];
  const [near, farthest] = extentOf(reached);
  const far = Math.min(home * FARTHEST, Math.max(0, ...depths)) || home * 0.2;
  const wide = scene.frame.widthPx * 0.6;
  const xs = [...places.map((p) => p[0]), -wide, wide];
  const [west, east] = extentOf(xs);
  const scale = Math.min(
    (size.width - MARGIN - NAME_ROOM) / (east - west),
    (size.height - 2 * MARGIN) / (Math.max(far, farthest) - near),
  );
  const midX = (west + east) / 2;
  return {
    x: (spx) => (size.width - NAME_ROOM) / 2 + (spx - midX) * scale,
    z: (spx) => Math.max(14, size.height - MARGIN - (spx - near) * scale),
    spxPerPx: 1 / scale,
  };
}

/** Names that stand at their planes, moved down where they would lie on one another. */
function spacedNames(wanted: readonly number[]): number[] {
  const order = wanted.map((y, i) => ({ y, i })).sort((p, q) => p.y - q.y);
  const at: number[] = [];
  let last = Number.NEGATIVE_INFINITY;
  for (const { y, i } of order) {
    last = Math.max(y, last + 12);
    at[i] = last;
  }
  return at;
}

/** The stage from above: planes edge on, the camera with its view, and its path, to drag across and in depth. */
export function AboveView() {
  const scene = useShownScene();
  const frame = useCalmFrame();
  const selection = useSessionState((state) => state.selection);
  const owner = usePathOwner();
  const room = useRef<HTMLDivElement>(null);
  const size = useElementSize(room);
  const marks = useMemo(() => pathMarks(scene, owner), [scene, owner]);
  const plan = planOf(scene, size, owner.on === 'camera' ? marks.map((mark) => mark.at) : []);
  const pose = cameraPoseAt(scene, frame);
  const standings = standingsAt(scene, frame);
  const rest = restIn(scene, owner);
  const depthOf = (place: Place) =>
    owner.on === 'camera' ? place[2] - scene.homeDistanceSpx : place[2] + rest.z;
  const frames = marks.flatMap((mark) => (mark.frame === null ? [] : [mark.frame]));
  const ticks = frames.length < 2 ? [] : everyFrame(Math.min(...frames), Math.max(...frames));
  const dots = ticks.map((f) => pathPlaceAt(scene, owner, f));
  const shelves = planesOf(scene).flatMap((plane) => {
    const standing = standings.get(plane.id);
    const { painted } = factsOf(plane.content);
    if (standing?.root !== 'stage' || !painted || plane.hidden) return [];
    return [{ plane, box: mapBox(standing.artToStage, painted), depthSpx: standing.depthSpx }];
  });
  const names = spacedNames(shelves.map(({ depthSpx }) => plan.z(depthSpx)));
  const reach = scene.frame.widthPx / 2 / focalPx(stageFrameOf(scene), pose);
  const far = scene.homeDistanceSpx * FARTHEST;
  const [cx, cz] = [plan.x(pose.xSpx), plan.z(pose.zSpx)];
  return (
    <div ref={room} className="relative min-h-0 min-w-0 flex-1 overflow-hidden bg-panel" data-testid="above">
      {size.width > 0 && (
        <svg width={size.width} height={size.height} className="block">
          <title>{say.theStageFromAbove}</title>
          <line
            x1={0}
            x2={size.width - NAME_ROOM}
            y1={plan.z(0)}
            y2={plan.z(0)}
            stroke="var(--color-ink-3)"
            strokeDasharray="6 4"
          />
          <text x={8} y={plan.z(0) - 5} fill="var(--color-ink-2)" fontSize={11}>
            {say.datum}
          </text>
          {shelves.map(({ plane, box, depthSpx }, i) => {
            const chosen = selection.includes(plane.id);
            return (
              <g key={plane.id}>
                <line
                  x1={Math.max(0, plan.x(box.x0))}
                  x2={Math.min(size.width - NAME_ROOM, plan.x(box.x1))}
                  y1={plan.z(depthSpx)}
                  y2={plan.z(depthSpx)}
                  stroke={chosen ? 'var(--color-select)' : 'var(--color-ink-2)'}
                  strokeWidth={chosen ? 3 : 1.5}
                />
                <text
                  x={size.width - NAME_ROOM + 8}
                  y={(names[i] ?? 0) + 4}
                  fill="var(--color-ink-2)"
                  fontSize={11}
                >
                  {plane.name}
                </text>
              </g>
            );
          })}
          <path
            d={`M${cx},${cz}L${plan.x(pose.xSpx - reach * (far - pose.zSpx))},${plan.z(far)}M${cx},${cz}L${plan.x(pose.xSpx + reach * (far - pose.zSpx))},${plan.z(far)}`}
            stroke="var(--color-signal)"
            strokeOpacity={0.6}
            fill="none"
          />
          <rect x={cx - 8} y={cz - 6} width={16} height={12} rx={2} fill="var(--color-signal)" />
          <polyline
            points={dots.map((p) => `${plan.x(p[0] + rest.x)},${plan.z(depthOf(p))}`).join(' ')}
            fill="none"
            stroke="var(--color-signal-bright)"
            strokeWidth={2}
          />
          {dots.map((p, i) => (
            <circle
              // biome-ignore lint/suspicious/noArrayIndexKey: a tick is known by its frame
              key={i}
              cx={plan.x(p[0] + rest.x)}
              cy={plan.z(depthOf(p))}
              r={1.6}
              fill="var(--color-ink)"
            />
          ))}
          {marks.map((mark, index) => (
            <AboveMark
              // biome-ignore lint/suspicious/noArrayIndexKey: a mark is known by its place in the order of the path
              key={index}
              index={index}
              word={mark.frame === null ? say.bendFromAbove(index) : say.pathKeyFromAbove(mark.frame)}
              isBend={mark.kind === 'bend'}
              x={plan.x(mark.at[0] + rest.x)}
              y={plan.z(depthOf(mark.at))}
              at={mark.at}
              spxPerPx={plan.spxPerPx}
            />
          ))}
        </svg>
      )}
    </div>
  );
}

const everyFrame = (first: number, last: number): number[] => {
  const step = Math.max(1, Math.ceil((last - first) / 600));
  return Array.from({ length: Math.floor((last - first) / step) + 1 }, (_, i) => first + i * step);
};

function restIn(scene: Scene, owner: ReturnType<typeof usePathOwner>): { x: number; z: number } {
  const plane = owner.on === 'plane' ? planeOf(scene, owner.plane) : undefined;
  return plane ? { x: plane.transform.xSpx, z: plane.depthSpx } : { x: 0, z: 0 };
}

interface AboveMarkProps {
  index: number;
  word: string;
  isBend: boolean;
  x: number;
  y: number;
  at: Place;
  spxPerPx: number;
}

function AboveMark({ index, word, isBend, x, y, at, spxPerPx }: AboveMarkProps) {
  const session = useSession();
  const scene = useShownScene();
  const owner = usePathOwner();
  const action = isBend ? 'bend-track' : owner.on === 'camera' ? 'key-camera' : 'key-plane';
  const subject = ownerWord(scene, owner);
  const moved = (kept: Scene, dx: number, dy: number): Scene =>
    movePathMark(kept, owner, index, [at[0] + dx * spxPerPx, at[1], at[2] - dy * spxPerPx]);
  const drag = useDrag<SVGGElement>(
    () => sceneDrag(session, { action, subject, change: (kept, { dx, dy }) => moved(kept, dx, dy) }),
    { slackPx: 2 },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowStep(event);
    if (!by) return;
    event.preventDefault();
    session.commit(action, subject, moved(session.state.scene, by.x, by.y));
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: SVG has no button of its own
    <g
      role="button"
      tabIndex={0}
      aria-label={word}
      className="cursor-move touch-none"
      {...drag}
      onKeyDown={onKeyDown}
    >
      <title>{say.wordAcrossPansUpAnd(word)}</title>
      <circle cx={x} cy={y} r={10} fill="transparent" />
      {isBend ? (
        <circle
          cx={x}
          cy={y}
          r={5}
          fill="var(--color-raised)"
          stroke="var(--color-select)"
          strokeWidth={2.5}
        />
      ) : (
        <rect
          x={x - 3}
          y={y - 8}
          width={6}
          height={16}
          rx={3}
          fill="var(--color-signal)"
          stroke="var(--color-raised)"
        />
      )}
    </g>
  );
}
