import type { Plane, PlaneId, Repeat, Scene } from '../scene/index.ts';
import { channelOf, planeOf, planesOf } from '../scene/records/index.ts';
import {
  type Carrier,
  carrierFor,
  ON_CAMERA,
  ON_STAGE,
  type Standing,
  speedAtDepth,
  standPlane,
} from '../stage/index.ts';
import { cyclePhase, runDistance } from '../timing/moves/index.ts';
import { memo, memoLast } from '../units/index.ts';
import { factsOf } from './content/index.ts';
import { isMoving, posedPlane } from './plane-at.ts';

export const repeatsAcross = (repeat: Repeat): boolean => repeat === 'across' || repeat === 'both';
export const repeatsDown = (repeat: Repeat): boolean => repeat === 'down' || repeat === 'both';

type Planes = readonly Pick<Plane, 'id' | 'mount' | 'name'>[];

/** Why the mounts of these planes do not hold, or null: every plane must end on the stage or the camera. */
export function mountFault(planes: Planes): string | null {
  const byId = new Map(planes.map((plane) => [plane.id, plane]));
  for (const plane of planes) {
    const ridden = new Set<PlaneId>();
    for (let under: Planes[number] | undefined = plane; under?.mount.on === 'plane'; ) {
      ridden.add(under.id);
      const next = byId.get(under.mount.plane);
      if (!next) return `${under.name} rides on a plane that is not there`;
      if (ridden.has(next.id)) return `${plane.name} rides on itself, by way of ${under.name}`;
      under = next;
    }
  }
  return null;
}

/** Why this set-up cannot stand, or null: mounts that do not hold, or a plane at or behind the home camera. */
export function stageFault(scene: Staged): string | null {
  const fault = mountFault(planesOf(scene));
  if (fault) return fault;
  const standings = standingsAt(scene, 1);
  const behind = planesOf(scene).find(({ id }) => !(standings.get(id)!.depthSpx > -scene.homeDistanceSpx));
  return behind ? `${behind.name} would stand at or behind the home camera` : null;
}

/** Whether the plane rides on the camera in the end. Mounts must hold. */
export function ridesOnCamera(scene: Pick<Scene, 'planes'>, plane: Pick<Plane, 'mount'>): boolean {
  let under: Pick<Plane, 'mount'> | undefined = plane;
  while (under?.mount.on === 'plane') {
    const { plane: id }: { plane: PlaneId } = under.mount;
    under = planeOf(scene, id);
  }
  return under?.mount.on === 'camera';
}

export type Staged = Pick<Scene, 'planes' | 'order' | 'homeDistanceSpx'>;

interface Stood {
  readonly standing: Standing;
  /** What rides on the plane. */
  readonly asCarrier: Carrier;
}

type Standings = ReadonlyMap<PlaneId, Standing>;
/** Where every plane stands at `frame`, with all that it rides on. Mounts must hold (`mountFault`). */
export const standingsAt = ({ planes, order, homeDistanceSpx }: Staged, frame: number): Standings =>
  lastStandings(planes, frame, homeDistanceSpx)(order);

/** Standings of some planes: who stands where does not hang on their order, which is only gone through. */
const lastStandings = memoLast((planes: Staged['planes'], frame: number, homeDistanceSpx: number) =>
  memo((order: Staged['order']): Standings => standAll({ planes, order, homeDistanceSpx }, frame)),
);

/** Where one plane stands; it need not be the scene's own version of it. */
export function standingAt(scene: Staged, plane: Plane, frame: number): Standing {
  return standOn(scene, plane, carrierOf(scene, plane, frame), frame).standing;
}

/** What a plane rides on at `frame`. */
export function carrierOf(scene: Staged, { mount }: Pick<Plane, 'mount'>, frame: number): Carrier {
  if (mount.on !== 'plane') return mount.on === 'stage' ? ON_STAGE : ON_CAMERA;
  const plane = planeOf(scene, mount.plane);
  if (!plane) throw new RangeError(`No plane ${mount.plane} to ride on`);
  return standOn(scene, plane, carrierOf(scene, plane, frame), frame).asCarrier;
}

function standAll(scene: Staged, frame: number): Standings {
  const standings = new Map<PlaneId, Standing>();
  const carriers = new Map<PlaneId, Carrier>();
  const carrierUnder = ({ mount }: Plane): Carrier => {
    if (mount.on !== 'plane') return mount.on === 'camera' ? ON_CAMERA : ON_STAGE;
    const known = carriers.get(mount.plane);
    if (known) return known;
    const under = planeOf(scene, mount.plane);
    const carrier = under ? standOn(scene, under, carrierUnder(under), frame).asCarrier : ON_STAGE;
    carriers.set(mount.plane, carrier);
    return carrier;
  };
  for (const plane of planesOf(scene))
    standings.set(plane.id, standOn(scene, plane, carrierUnder(plane), frame).standing);
  return standings;
}

function standOn(scene: Staged, resting: Plane, carrier: Carrier, frame: number): Stood {
  if (resting.mount.on !== 'plane' && !resting.run && !isMoving(resting)) return stoodAtRest(resting);
  const plane = posedPlane(resting, frame);
  return plane.run ? standRunning(scene, plane, carrier, frame) : stoodOn(plane, carrier);
}

const stoodOn = (plane: Plane, carrier: Carrier): Stood => ({
  standing: standPlane(carrier, plane),
  get asCarrier() {
    return carrierFor(carrier, plane);
  },
});

/** Planes that neither move, run nor ride on others stand the same on every frame of every scene. */
const stoodAtRest = memo(
  (plane: Plane): Stood => stoodOn(plane, plane.mount.on === 'camera' ? ON_CAMERA : ON_STAGE),
);

function standRunning(scene: Staged, plane: Plane, carrier: Carrier, frame: number): Stood {
  const { widthPx, heightPx } = factsOf(plane.content);
  const slide = slideArtPx(scene, plane, carrier, frame);
  const tiled = {
    x: repeatsAcross(plane.repeat) ? wrapped(slide.phaseX ?? slide.x / widthPx) * widthPx : slide.x,
    y: repeatsDown(plane.repeat) ? wrapped(slide.phaseY ?? slide.y / heightPx) * heightPx : slide.y,
  };
  return {
    standing: standPlane(carrier, plane, tiled),
    // What stands on a running plane goes with it and does not come round again.
    get asCarrier() {
      return carrierFor(carrier, plane, slide);
    },
  };
}

/** Phases closer than this are the same: what a sum of speeds loses to rounding. */
const PHASE_STEPS = 2 ** 40;
const wrapped = (phase: number): number => {
  const snapped = Math.round((phase - Math.floor(phase)) * PHASE_STEPS) / PHASE_STEPS;
  return snapped === 1 ? 0 : snapped;
};

interface Slide {
  /** Art px, along the art's own axes. */
  readonly x: number;
  readonly y: number;
  /** Exact phases of a cycle, in widths and heights; absent for what runs by speed. */
  readonly phaseX?: number;
  readonly phaseY?: number;
}

/** How far the art of a running plane, posed, has slid along its own axes at `frame`, art px. */
export function slideArtPx(scene: Staged, plane: Plane, carrier: Carrier, frame: number): Slide {
  const { run, transform, content } = plane;
  if (!run) return { x: 0, y: 0 };
  const [turnX, turnY] = [Math.sign(transform.scaleX), Math.sign(transform.scaleY)];
  if (run.kind === 'cycle') {
    const { widthPx, heightPx } = factsOf(content);
    const turns = (frame - 1) / run.frames;
    return {
      x: turnX * run.timesX * turns * widthPx,
      y: turnY * run.timesY * turns * heightPx,
      phaseX: turnX * cyclePhase(run.timesX, run.frames, frame),
      phaseY: turnY * cyclePhase(run.timesY, run.frames, frame),
    };
  }
  const perSpx = spxPerRunPx(scene, plane, carrier) / carrier.depthScale;
  return {
    x: (runDistance(channelOf(run.x), frame) * perSpx) / transform.scaleX,
    y: (runDistance(channelOf(run.y), frame) * perSpx) / transform.scaleY,
  };
}

/** Stage px on the plane for one px of its run speed. */
function spxPerRunPx(scene: Staged, plane: Plane, carrier: Carrier): number {
  if (plane.run?.kind !== 'speed' || plane.run.unit === 'datum') return 1;
  const depthSpx = carrier.depthSpx + carrier.depthScale * plane.depthSpx;
  return 1 / speedAtDepth(depthSpx, scene.homeDistanceSpx);
}
