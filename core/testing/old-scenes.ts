import type { ChannelRecord, Plane, Scene } from '../scene/index.ts';
import { keysOf, markersOf, planesOf } from '../scene/records/index.ts';

type Data = Record<string, unknown>;

const channel = (record: ChannelRecord) => ({ ...record, keys: keysOf(record) });
const each = (channels: Readonly<Record<string, ChannelRecord>>): Data =>
  Object.fromEntries(Object.entries(channels).map(([name, record]) => [name, channel(record)]));

export type OldPlane = Omit<Plane, 'moves' | 'run'> & { moves: Data; run: unknown };

/** Version 5 called the rotation a turn. */
function oldMoves({ moves: { rotation, ...moves } }: Plane): Readonly<Record<string, ChannelRecord>> {
  return { ...moves, ...(rotation ? { turn: rotation } : {}) } as Readonly<Record<string, ChannelRecord>>;
}

function plane(now: Plane): OldPlane {
  const { run } = now;
  return {
    ...now,
    moves: each(oldMoves(now)),
    run: run?.kind === 'speed' ? { ...run, x: channel(run.x), y: channel(run.y) } : run,
  };
}

/** The scene as version 5 stored it: planes, markers and keys in lists. */
export function asVersion5(scene: Scene) {
  const { order: _, ...rest } = scene;
  return {
    ...rest,
    version: 5,
    camera: each(scene.camera),
    markers: markersOf(scene).map(({ frame, note }) => ({ frame, note })),
    planes: planesOf(scene).map(plane),
  };
}
