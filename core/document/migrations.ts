import { fail, ok, type Result } from '../units/index.ts';
import type { SceneFault } from './read-scene.ts';
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
const mountFrom2 = (mount: unknown): unknown => (typeof mount === 'string' ? { on: mount } : mount);
const transformFrom2 = (transform: unknown): unknown =>
  isData(transform) && !('skew' in transform) ? { ...transform, skew: 0 } : transform;

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
];

/**
 * A patch as the newest version means it: patches of the history were made on older scenes. What they say of planes is
 * told apart by its shape, so newer patches stay as they are.
 */
export const migratePatch = <P extends readonly { readonly op: string; readonly path: string }[]>(
  patch: P,
): P =>
  patch.map((step) => {
    const path = step.path.replace(/^(\/planes\/\d+)\/art(\/|$)/, '$1/content/art$2');
    const value = 'value' in step ? valueAt(path) : undefined;
    return value && 'value' in step ? { ...step, path, value: value(step.value) } : { ...step, path };
  }) as unknown as P;

/** How a value that is put at `path` of a scene has changed since version 1. */
function valueAt(path: string): ((value: unknown) => unknown) | undefined {
  if (/^\/planes\/(\d+|-)$/.test(path))
    return (plane) => planeFrom4(planeFrom3(planeFrom2(planeFrom1(plane))));
  if (/^\/planes\/\d+\/mount$/.test(path)) return mountFrom2;
  return /^\/planes\/\d+\/transform$/.test(path) ? transformFrom2 : undefined;
}

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
