import type { Affine } from '../../geometry/index.ts';
import { type ColourMatrix, gradeMatrix, type Triple, transmissionAt } from '../../paint/index.ts';
import type { Plane, PlaneId, Repeat, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { type CameraPose, drawingOrder, placePlane } from '../../stage/index.ts';
import { memoLast } from '../../units/index.ts';
import { type Shown, shownAt } from '../content/index.ts';
import { appearanceAt, cameraPoseAt, lensAt, stageFrameOf, standingsAt } from '../index.ts';

export const PLANE_STATES = ['drawn', 'hidden', 'passed'] as const;
/** `hidden` by the artist; `passed` by the camera. */
export type PlaneState = (typeof PLANE_STATES)[number];

/** The share of a plane's own light that comes through the air, 0 to 1, and the colour (`#rrggbb`) of the rest. */
export interface Haze {
  readonly transmission: number;
  readonly colour: string;
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
  const order = drawingOrder(placements.map((placement) => placement.distanceSpx));
  const planes = order.map((index): PlanePlan => {
    const plane = planesOf(scene)[index]!;
    const { artToFrame, distanceSpx, speed } = placements[index]!;
    const shown = shownAt(plane.content, frame, scene.rate);
    const onStage = standings.get(plane.id)!.root === 'stage';
    const { opacity, blurPx, defocusPx } = appearanceAt(
      plane,
      frame,
      distanceSpx,
      stage,
      onStage ? lens : null,
    );
    const look = lookOf(scene, plane, distanceSpx, onStage);
    const facts = {
      planeId: plane.id,
      shown,
      distanceSpx,
      speed,
      opacity,
      blurPx,
      defocusPx,
      look,
      repeat: plane.repeat,
    };
    if (plane.hidden) return { ...facts, state: 'hidden', artToFrame };
    return artToFrame
      ? { ...facts, state: 'drawn', artToFrame }
      : { ...facts, state: 'passed', artToFrame: null };
  });
  const { widthPx, heightPx } = scene.frame;
  const { vignette = 0, glow = 0 } = scene.filter ?? {};
  return { frame, widthPx, heightPx, pose, vignette, glow, planes };
}

/** The grade of a plane, the air before it and the filter of the camera. */
function lookOf(scene: Scene, plane: Plane, distanceSpx: number, onStage: boolean): PlaneLook {
  const grade = plane.grade && gradeMatrix(plane.grade);
  if (!onStage) return { matrix: grade, air: null, filtered: false };
  const { air, filter, homeDistanceSpx } = scene;
  const transmission = air ? transmissionAt(air, distanceSpx, homeDistanceSpx) : 1;
  const throughFilter = filter && gradeMatrix({ ...filter, saturation: 1 });
  const filtered = filter !== null;
  const clearAir = !air || transmission === 1;
  if (clearAir && !(grade && throughFilter)) return { matrix: grade ?? throughFilter, air: null, filtered };
  // Haze lies between the plane and the filter, so the filter comes after it; and what the grade makes brighter than
  // white is white before either, in clear air too: nothing may pop as a plane comes through the home distance.
  const gain: Triple = throughFilter ? [throughFilter[0], throughFilter[4], throughFilter[8]] : [1, 1, 1];
  return { matrix: grade, air: { transmission, colour: air?.colour ?? '#000000', gain }, filtered };
}
