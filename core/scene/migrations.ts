import { fail, ok, type Result } from '../units/index.ts';
import type { SceneFault } from './fault.ts';
import { SCENE_VERSION } from './scene.ts';

/** One step from version `from` to `from + 1`. Written once, never changed after it has shipped. */
export interface Migration {
  readonly from: number;
  readonly name: string;
  readonly up: (scene: Record<string, unknown>) => Record<string, unknown>;
}

type Data = Record<string, unknown>;
const isData = (value: unknown): value is Data =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A plane of version 1 held one image as `art`; since version 2 an image is one of several kinds of content. */
function planeFrom1(plane: unknown): unknown {
  if (!isData(plane) || !('art' in plane)) return plane;
  const { art, ...rest } = plane;
  return { ...rest, group: null, content: { kind: 'still', art, made: null }, origin: null, locked: false };
}

/** Since version 3 a plane may ride on another one, run, repeat and be skewed by what it rides on. */
function planeFrom2(plane: unknown): unknown {
  if (!isData(plane)) return plane;
  return {
    ...plane,
    mount: mountFrom2(plane.mount),
    transform: transformFrom2(plane.transform),
    repeat: plane.repeat ?? 'none',
    run: plane.run ?? null,
  };
}
/** Since version 4 a plane moves by itself, along a track if it likes, and says what it does when it is passed. */
function planeFrom3(plane: unknown): unknown {
  if (!isData(plane)) return plane;
  return { ...plane, moves: plane.moves ?? {}, track: plane.track ?? null, passing: plane.passing ?? null };
}
/** Since version 5 a plane has a grade of its own. */
function planeFrom4(plane: unknown): unknown {
  return isData(plane) ? { ...plane, grade: plane.grade ?? null } : plane;
}
/** A plane of any version up to 5, whole, as version 5 has it. */
export const planeTo5 = (plane: unknown): unknown => planeFrom4(planeFrom3(planeFrom2(planeFrom1(plane))));
export const mountFrom2 = (mount: unknown): unknown => (typeof mount === 'string' ? { on: mount } : mount);
export const transformFrom2 = (transform: unknown): unknown =>
  isData(transform) && !('skew' in transform) ? { ...transform, skew: 0 } : transform;

/** Since version 6 planes and markers are kept by id, keys by frame, and the order of the planes beside them. */
function recordsById(scene: Data): Data {
  const { camera, planes, markers } = scene;
  const listed = Array.isArray(planes) ? planes.filter(isData) : [];
  return {
    ...scene,
    camera: isData(camera) ? withEach(camera, channelFrom5) : camera,
    planes: Array.isArray(planes) ? byName(listed, ({ id }) => id, planeFrom5) : planes,
    order: listed.map(({ id }) => id),
    markers: Array.isArray(markers)
      ? byName(
          markers.filter(isData),
          ({ frame }) => `at-${frame}`,
          (marker) => marker,
        )
      : markers,
  };
}

function planeFrom5(plane: Data): Data {
  const { moves, run } = plane;
  return {
    ...plane,
    moves: isData(moves) ? withEach(renamed(moves), channelFrom5) : moves,
    run:
      isData(run) && run.kind === 'speed' ? { ...run, x: channelFrom5(run.x), y: channelFrom5(run.y) } : run,
  };
}

/** What was called a turn among the moves was called a rotation everywhere else. */
function renamed({ turn, ...moves }: Data): Data {
  return turn === undefined ? moves : { ...moves, rotation: turn };
}

function channelFrom5(channel: unknown): unknown {
  if (!isData(channel) || !Array.isArray(channel.keys)) return channel;
  const keys = channel.keys.filter(isData);
  // Two keys on one frame were never valid: left as they are, so that the check says so.
  if (new Set(keys.map(({ frame }) => frame)).size < keys.length) return channel;
  return {
    ...channel,
    keys: byName(
      keys,
      ({ frame }) => frame,
      ({ frame: _, ...key }) => key,
    ),
  };
}

const withEach = (data: Data, change: (value: unknown) => unknown): Data =>
  Object.fromEntries(Object.entries(data).map(([name, value]) => [name, change(value)]));

const byName = (
  list: readonly Data[],
  name: (item: Data) => unknown,
  change: (item: Data) => unknown,
): Data => Object.fromEntries(list.map((item) => [String(name(item)), change(item)]));

/** In order, without gaps, ending at the current version. */
export const MIGRATIONS: readonly Migration[] = [
  {
    from: 1,
    name: 'planes hold content',
    up: (scene) => ({
      ...scene,
      planes: Array.isArray(scene.planes) ? scene.planes.map(planeFrom1) : scene.planes,
    }),
  },
  {
    from: 2,
    name: 'planes ride, run and repeat',
    up: (scene) => ({
      ...scene,
      planes: Array.isArray(scene.planes) ? scene.planes.map(planeFrom2) : scene.planes,
    }),
  },
  {
    from: 3,
    name: 'tracks, sway, markers, moving planes',
    up: (scene) => ({
      ...scene,
      move: scene.move ?? {
        track: null,
        sway: null,
        zoomSteps: 'even',
        truckSteps: 'plain',
        keepSize: null,
      },
      markers: scene.markers ?? [],
      planes: Array.isArray(scene.planes) ? scene.planes.map(planeFrom3) : scene.planes,
    }),
  },
  {
    from: 4,
    name: 'grade, air, lens and filter',
    up: (scene) => ({
      ...scene,
      camera: isData(scene.camera)
        ? { focus: { value: 0, keys: [] }, iris: { value: 0, keys: [] }, ...scene.camera }
        : scene.camera,
      air: scene.air ?? null,
      filter: scene.filter ?? null,
      planes: Array.isArray(scene.planes) ? scene.planes.map(planeFrom4) : scene.planes,
    }),
  },
  { from: 5, name: 'records by id', up: recordsById },
  // What may be there from now on; a program before would not know it.
  { from: 6, name: 'what is left so, tracks beyond their keys', up: (scene) => scene },
  { from: 7, name: 'keyed looks, blend modes, soft edges, flicker, focus on planes', up: (scene) => scene },
  { from: 8, name: 'pins', up: (scene) => scene },
  { from: 9, name: 'planes of sets, a sound', up: (scene) => scene },
];

/** Brings a scene of any known version to the newest one that `migrations` lead to. */
export function migrate(
  data: unknown,
  migrations: readonly Migration[],
  newest: number = SCENE_VERSION,
): Result<unknown, SceneFault> {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    return fail({ code: 'not-a-scene', detail: 'the whole: is not an object' });
  }
  let scene: Record<string, unknown> = { ...data };
  let version = scene.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return fail({
      code: 'not-a-scene',
      detail: `version: ${JSON.stringify(version)} is not a whole number from 1`,
    });
  }
  if (version > newest) return fail({ code: 'newer-than-program', version, newestKnown: newest });
  for (; version < newest; version++) {
    const step = migrations.find((migration) => migration.from === version);
    if (!step) throw new Error(`No migration from scene version ${version}`);
    scene = { ...step.up(scene), version: version + 1 };
  }
  return ok(scene);
}
