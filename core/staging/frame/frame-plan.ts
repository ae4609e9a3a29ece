import type { Affine } from '../../geometry/index.ts';
import {
  type BlendMode,
  type ColourMatrix,
  gradeMatrix,
  type Triple,
  transmissionAt,
  unpackColour,
} from '../../paint/index.ts';
import type { PlaneId, Repeat, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { type CameraPose, drawingOrder, placePlane } from '../../stage/index.ts';
import { memoLast } from '../../units/index.ts';
import { type Shown, shownAt } from '../content/index.ts';
import { appearanceAt, cameraPoseAt, lensAt, stageFrameOf, standingsAt } from '../index.ts';
import { type GradeNow, gradeAt, type ShotLooks, shotLooksAt } from '../looks/index.ts';

export const PLANE_STATES = ['drawn', 'hidden', 'passed'] as const;
/** `hidden` by the artist; `passed` by the camera. */
export type PlaneState = (typeof PLANE_STATES)[number];

/** The share of a plane's own light that comes through the air, 0 to 1, and the colour of the rest, sRGB in [0, 1]. */
export interface Haze {
  readonly transmission: number;
  readonly colour: Triple;
  /** What the camera's filter then makes of red, green and blue: factors. */
  readonly gain: Triple;
}

/** What happens to the colours of a plane, in this order. Null leaves them alone. */
export interface PlaneLook {
  readonly matrix: ColourMatrix | null;
  readonly air: Haze | null;
  /** The camera's own filter lies over it: not over what rides on the camera. */
  readonly filtered: boolean;
}

interface PlaneFacts {
  readonly planeId: PlaneId;
  readonly shown: Shown;
  readonly distanceSpx: number;
  readonly speed: number;
  /** As it is at this frame: its own, faded while it is passed. */
  readonly opacity: number;
  /** Its own blur, diameter in output px, as a Gaussian. */
  readonly blurPx: number;
  /** Out of focus, diameter in output px, as a disc. */
  readonly defocusPx: number;
  readonly look: PlaneLook;
  /** How it is laid over what is behind it. */
  readonly mode: BlendMode;
  /** Art px over which it comes in from its border; 0 leaves it as painted. */
  readonly softEdgePx: number;
  /** Along which of its own axes its art is tiled. */
  readonly repeat: Repeat;
}

export type PlanePlan =
  | (PlaneFacts & { readonly state: 'drawn'; readonly artToFrame: Affine })
  | (PlaneFacts & { readonly state: 'hidden'; readonly artToFrame: Affine | null })
  | (PlaneFacts & { readonly state: 'passed'; readonly artToFrame: null });

/** One frame with every number resolved: all that a renderer or a survey needs. */
export interface FramePlan {
  readonly frame: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly pose: CameraPose;
  /** Over what is `filtered`: how dark the corners are, and how far bright places glow, both 0 to 1. */
  readonly vignette: number;
  readonly glow: number;
  /**
   * What the filter makes of red, green and blue of all that it lies over, as one picture: factors. Null where each plane
   * has it in its own look, which is the same but where planes are laid over one another by light.
   */
  readonly light: Triple | null;
  /** In drawing order, far to near. */
  readonly planes: readonly PlanePlan[];
}

/**
 * Resolves a scene at `frame` (from 1; fractions allowed for sub-frame sampling), through the shot's own camera or
 * another `pose` that looks at it.
 */
export function framePlan(scene: Scene, frame: number, pose?: CameraPose): FramePlan {
  return pose ? planThrough(scene, frame, pose) : ownPlan(scene, frame);
}

/** The plan of a scene through its own camera: all that shows a scene asks for the same one. */
const ownPlan = memoLast(
  (scene: Scene, frame: number): FramePlan => planThrough(scene, frame, cameraPoseAt(scene, frame)),
);

function planThrough(scene: Scene, frame: number, pose: CameraPose): FramePlan {
  const stage = stageFrameOf(scene);
  const standings = standingsAt(scene, frame);
  const placements = planesOf(scene).map((plane) => placePlane(stage, pose, standings.get(plane.id)!));
  const lens = lensAt(scene, frame, pose);
  const looks = shotLooksAt(scene, frame);
  const order = drawingOrder(placements.map((placement) => placement.distanceSpx));
  const isOnStage = (index: number) => standings.get(planesOf(scene)[index]!.id)!.root === 'stage';
  const light = lightOfAll(scene, looks, order, isOnStage);
  const before = light && looks.filter ? { ...looks, filter: { ...looks.filter, ...NO_LIGHT } } : looks;
  const planes = order.map((index): PlanePlan => {
    const plane = planesOf(scene)[index]!;
    const { artToFrame, distanceSpx, speed } = placements[index]!;
    const shown = shownAt(plane.content, frame, scene.rate);
    const onStage = standings.get(plane.id)!.root === 'stage';
    const { opacity, blurPx, defocusPx } = appearanceAt(
      scene,
      plane,
      frame,
      distanceSpx,
      onStage ? lens : null,
    );
    const grade = gradeAt(plane, frame);
    const look = lookOf(grade, onStage ? { ...before, distanceSpx, scene } : null);
    const facts = {
      planeId: plane.id,
      shown,
      distanceSpx,
      speed,
      opacity,
      blurPx,
      defocusPx,
      look,
      mode: plane.mode ?? 'paint',
      softEdgePx: grade?.softEdge ?? 0,
      repeat: plane.repeat,
    };
    if (plane.hidden) return { ...facts, state: 'hidden', artToFrame };
    return artToFrame
      ? { ...facts, state: 'drawn', artToFrame }
      : { ...facts, state: 'passed', artToFrame: null };
  });
  const { widthPx, heightPx } = scene.frame;
  const { vignette = 0, glow = 0 } = looks.filter ?? {};
  return { frame, widthPx, heightPx, pose, vignette, glow, light, planes };
}

/** A filter that leaves the light as it is. */
const NO_LIGHT = { brightness: 1, tintStrength: 0 } as const;

/**
 * The filter by itself, where it must be laid over all planes at once: one of them is laid over by light, and none rides
 * on the camera between those that the filter lies over.
 */
function lightOfAll(
  scene: Scene,
  { filter }: ShotLooks,
  order: readonly number[],
  isOnStage: (index: number) => boolean,
): Triple | null {
  if (!filter) return null;
  const shown = order.filter((index) => !planesOf(scene)[index]!.hidden);
  const under = shown.slice(0, shown.findLastIndex(isOnStage) + 1);
  const byLight = under.some((index) => (planesOf(scene)[index]!.mode ?? 'paint') !== 'paint');
  if (!byLight || !under.every(isOnStage)) return null;
  const matrix = gradeMatrix({ ...filter, saturation: 1, tint: unpackColour(filter.tint) });
  if (matrix) return [matrix[0], matrix[4], matrix[8]];
  return filter.vignette > 0 ? [1, 1, 1] : null;
}

/** The grade of a plane, the air before it and the filter of the camera; null for what rides on the camera. */
function lookOf(
  now: GradeNow | null,
  before: (ShotLooks & { readonly distanceSpx: number; readonly scene: Scene }) | null,
): PlaneLook {
  const grade = now && gradeMatrix({ ...now, tint: unpackColour(now.tint) });
  if (!before) return { matrix: grade, air: null, filtered: false };
  const { air, filter, distanceSpx, scene } = before;
  const transmission = air ? transmissionAt(air, distanceSpx, scene.homeDistanceSpx) : 1;
  const throughFilter = filter && gradeMatrix({ ...filter, saturation: 1, tint: unpackColour(filter.tint) });
  const filtered = filter !== null;
  const clearAir = !air || transmission === 1;
  if (clearAir && !(grade && throughFilter)) return { matrix: grade ?? throughFilter, air: null, filtered };
  // Haze lies between the plane and the filter, so the filter comes after it; and what the grade makes brighter than
  // white is white before either, in clear air too: nothing may pop as a plane comes through the home distance.
  const gain: Triple = throughFilter ? [throughFilter[0], throughFilter[4], throughFilter[8]] : [1, 1, 1];
  const colour: Triple = air ? unpackColour(air.colour) : [0, 0, 0];
  return { matrix: grade, air: { transmission, colour, gain }, filtered };
}
