import type { ChannelRecord, Plane } from '../scene/index.ts';
import { channelOf, recordOf } from '../scene/records/index.ts';
import { channelValueAt, type Interpolation, mapValues } from '../timing/index.ts';
import { trackPlaceAt } from '../timing/moves/index.ts';

/** What a plane can do by itself over time. */
export const PLANE_MOVES = ['x', 'y', 'depth', 'scale', 'rotation', 'opacity', 'blur'] as const;
export type PlaneMove = (typeof PLANE_MOVES)[number];
/** How far a plane is from how it stands: place, depth, rotation and blur are added, size and opacity multiply. */
export type Moved = Readonly<Record<PlaneMove, number>>;

type Movable = Pick<Plane, 'moves' | 'track'>;

export const isMoving = ({ moves, track }: Movable): boolean => {
  if (track) return true;
  for (const _ in moves) return true;
  return false;
};

/** How far a plane is from how it stands at `frame` (may be fractional). */
export function movedAt({ moves, track }: Movable, frame: number): Moved {
  const value = (record: ChannelRecord | undefined, rest: number, interpolation: Interpolation = 'linear') =>
    record ? channelValueAt(channelOf(record), frame, interpolation) : rest;
  const path = track && !track.muted ? trackPlaceAt(track, frame) : null;
  return {
    x: path ? path[0] : value(moves.x, 0),
    y: path ? path[1] : value(moves.y, 0),
    depth: path ? path[2] : value(moves.depth, 0),
    scale: value(moves.scale, 1, 'log'),
    rotation: value(moves.rotation, 0),
    opacity: value(moves.opacity, 1),
    blur: Math.max(0, value(moves.blur, 0)),
  };
}

/** The plane as it stands at `frame`; itself where it does not move. Its moves come along; opacity and blur stay. */
export function posedPlane<P extends Plane>(plane: P, frame: number): P {
  return isMoving(plane) ? withMoved(plane, movedAt(plane, frame), 1) : plane;
}

/**
 * The plane at rest that stands as `posed` does at `frame`: undoes `posedPlane` after an edit of what was seen there.
 * Its other frames are shifted alike.
 */
export function restOf<P extends Plane>(posed: P, frame: number): P {
  return isMoving(posed) ? withMoved(posed, movedAt(posed, frame), -1) : posed;
}

function withMoved<P extends Plane>(plane: P, moved: Moved, way: 1 | -1): P {
  const { transform: t } = plane;
  const size = moved.scale ** way;
  return {
    ...plane,
    depthSpx: plane.depthSpx + way * moved.depth,
    transform: {
      ...t,
      xSpx: t.xSpx + way * moved.x,
      ySpx: t.ySpx + way * moved.y,
      scaleX: t.scaleX * size,
      scaleY: t.scaleY * size,
      rotationDeg: t.rotationDeg + way * moved.rotation,
    },
  };
}

/** Moves in px of the plane's carrier by a factor, for a plane that has been re-scaled with its place. */
export function withMovesScaled<P extends Plane>(plane: P, factor: number): P {
  if (!isMoving(plane) || factor === 1) return plane;
  const moves = { ...plane.moves };
  for (const name of ['x', 'y', 'depth'] as const) {
    const record = moves[name];
    if (record) moves[name] = recordOf(mapValues(channelOf(record), (value) => value * factor));
  }
  const track = plane.track && {
    ...plane.track,
    points: plane.track.points.map((point) => ({ ...point, at: scaled(point.at, factor) })),
  };
  return { ...plane, moves, track };
}

const scaled = ([x, y, z]: readonly [number, number, number], k: number): [number, number, number] => [
  x * k,
  y * k,
  z * k,
];
