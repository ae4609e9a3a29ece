import type { Plane, PlaneId, Scene, SetId, SetLink } from '../../scene/index.ts';
import { planesOf, withPlaneList } from '../../scene/records/index.ts';
import { pastePlanes, planesToCarry } from '../planes/index.ts';

/** Staged planes under a name that several shots follow; ids are the set's own. */
export interface PlanesOfSet {
  readonly id: SetId;
  readonly planes: readonly Plane[];
}

/**
 * What a set says of a plane. The rest is the shot's: its id, name, group, order and whether it is hidden or locked.
 */
const SHARED = [
  'content',
  'origin',
  'mount',
  'depthSpx',
  'transform',
  'repeat',
  'run',
  'opacity',
  'grade',
  'mode',
  'flicker',
  'pins',
  'moves',
  'track',
  'passing',
] as const satisfies readonly (keyof Plane)[];

type Linked = Plane & { readonly ofSet: SetLink };
const isOf =
  (set: SetId) =>
  (plane: Plane): plane is Linked =>
    plane.ofSet?.set === set;

/** Ids of the planes that are as the set has them. */
export const followersOf = (scene: Scene, set: SetId): PlaneId[] =>
  planesOf(scene)
    .filter((plane) => isOf(set)(plane) && plane.ofSet.follows)
    .map(({ id }) => id);

/** Planes as a new set would hold them: under the ids that they have here, and of no other set. */
export const planesForSet = (scene: Scene, ids: ReadonlySet<PlaneId>, frame: number): Plane[] =>
  planesToCarry(scene, ids, frame).map((plane) => ({ ...without(plane), locked: false }));

function without({ ofSet: _, ...plane }: Plane): Plane {
  return plane;
}

/** The planes that became a set follow it from now on. */
export const followingSet = (scene: Scene, { id: set, planes }: PlanesOfSet): Scene => {
  const inSet = new Set(planes.map(({ id }) => id));
  return withPlaneList(
    scene,
    planesOf(scene).map((plane) =>
      inSet.has(plane.id) ? { ...plane, ofSet: { set, plane: plane.id, follows: true } } : plane,
    ),
  );
};

/** Puts those planes of a set into a scene that it does not use yet, in front of all; they follow it. */
export function withSet(
  scene: Scene,
  { id: set, planes }: PlanesOfSet,
  idOf: (index: number) => PlaneId,
): { readonly scene: Scene; readonly ids: PlaneId[] } {
  const used = new Set(
    planesOf(scene)
      .filter(isOf(set))
      .map(({ ofSet }) => ofSet.plane),
  );
  const wanted = planes.filter(({ id }) => !used.has(id));
  const pasted = pastePlanes(scene, wanted, idOf, null);
  const setPlane = new Map(pasted.ids.map((id, i) => [id, wanted[i]!.id]));
  const linked = withPlaneList(
    pasted.scene,
    planesOf(pasted.scene).map((plane) => {
      const of = setPlane.get(plane.id);
      return of === undefined ? plane : { ...plane, ofSet: { set, plane: of, follows: true } };
    }),
  );
  return { scene: takenOn(linked, { id: set, planes }, new Set(pasted.ids)), ids: pasted.ids };
}

/**
 * The scene after its set changed: planes that follow are as the set has them now. What the set no longer holds stays
 * as it is and belongs to the shot.
 */
export const followSet = (scene: Scene, set: PlanesOfSet): Scene =>
  takenOn(scene, set, new Set(followersOf(scene, set.id)));

/** Own copies among `ids` are as the set has them again, and follow it. */
export function followAgain(scene: Scene, set: PlanesOfSet, ids: ReadonlySet<PlaneId>): Scene {
  const mine = planesOf(scene).filter((plane) => isOf(set.id)(plane) && ids.has(plane.id));
  return takenOn(scene, set, new Set(mine.map(({ id }) => id)));
}

function takenOn(scene: Scene, { id: set, planes }: PlanesOfSet, ids: ReadonlySet<PlaneId>): Scene {
  const inSet = new Map(planes.map((plane) => [plane.id, plane]));
  const here = new Map(
    planesOf(scene)
      .filter(isOf(set))
      .map(({ id, ofSet }) => [ofSet.plane, id]),
  );
  return withPlaneList(
    scene,
    planesOf(scene).map((plane) => {
      if (!ids.has(plane.id) || !isOf(set)(plane)) return plane;
      const model = inSet.get(plane.ofSet.plane);
      if (!model) return without(plane);
      return {
        ...(sharedOf(model, plane) as Plane),
        ofSet: { ...plane.ofSet, follows: true },
        mount: mountHere(model, here),
      };
    }),
  );
}

/** A plane of the shot with all that the set says; what the set does not say at all is not there either. */
function sharedOf(model: Plane, plane: Plane): Partial<Plane> {
  const next: Record<string, unknown> = { ...plane };
  for (const field of SHARED) {
    if (model[field] === undefined) delete next[field];
    else next[field] = model[field];
  }
  return next;
}

/** What a plane of the set rides on, in this shot; on the stage where the shot has deleted that plane. */
function mountHere({ mount }: Plane, here: ReadonlyMap<PlaneId, PlaneId>): Plane['mount'] {
  if (mount.on !== 'plane') return mount;
  const carrier = here.get(mount.plane);
  return carrier ? { on: 'plane', plane: carrier } : { on: 'stage' };
}

/** The set with its planes as this shot has them: those of `ids`, all others as they were. */
export function setAsHere(
  scene: Scene,
  { id: set, planes }: PlanesOfSet,
  ids: ReadonlySet<PlaneId>,
): Plane[] {
  const members = planesOf(scene).filter(isOf(set));
  const setIdOf = new Map(members.map(({ id, ofSet }) => [id, ofSet.plane]));
  const given = new Map(members.filter(({ id }) => ids.has(id)).map((plane) => [plane.ofSet.plane, plane]));
  return planes.map((model) => {
    const plane = given.get(model.id);
    if (!plane) return model;
    const { mount } = plane;
    const carrier = mount.on === 'plane' ? setIdOf.get(mount.plane) : undefined;
    return {
      ...(sharedOf(plane, model) as Plane),
      // What rides on a plane that is not of the set cannot ride on it in other shots.
      mount: mount.on !== 'plane' ? mount : carrier ? { on: 'plane', plane: carrier } : model.mount,
    };
  });
}

/** Ids of the planes of a set that are not as they were, or gone: a shot that follows one of them changes with it. */
export function changedIn({ planes: before }: PlanesOfSet, after: readonly Plane[]): Set<PlaneId> {
  const now = new Map(after.map((plane) => [plane.id, plane]));
  const isChanged = (was: Plane): boolean => {
    const plane = now.get(was.id);
    return !plane || SHARED.some((field) => !isSame(was[field], plane[field]));
  };
  return new Set(before.filter(isChanged).map(({ id }) => id));
}

/** A shot's edit of planes that follow a set takes own copies of them: they no longer follow. */
export function withOwnCopies(before: Scene, after: Scene): Scene {
  if (before.planes === after.planes) return after;
  const isTaken = (plane: Plane): boolean => {
    const was = before.planes[plane.id];
    if (!was || was === plane || !plane.ofSet?.follows || !was.ofSet?.follows) return false;
    return was.ofSet.set === plane.ofSet.set && SHARED.some((field) => !isSame(was[field], plane[field]));
  };
  const planes = planesOf(after);
  if (!planes.some(isTaken)) return after;
  return withPlaneList(
    after,
    planes.map((plane) =>
      isTaken(plane) && plane.ofSet ? { ...plane, ofSet: { ...plane.ofSet, follows: false } } : plane,
    ),
  );
}

const isSame = (one: unknown, other: unknown): boolean =>
  one === other || JSON.stringify(one) === JSON.stringify(other);

/** A scene with the ids of its sets changed; planes of sets that `idOf` does not know belong to the shot. */
export const withSetIds = (scene: Scene, idOf: (set: SetId) => SetId | null): Scene =>
  withPlaneList(
    scene,
    planesOf(scene).map((plane) => {
      if (!plane.ofSet) return plane;
      const set = idOf(plane.ofSet.set);
      return set ? { ...plane, ofSet: { ...plane.ofSet, set } } : without(plane);
    }),
  );
