import {
  cameraPoseAt,
  type PlaneId,
  type Repeat,
  type Scene,
  type Shown,
  shownAt,
  stageFrameOf,
  standingsAt,
} from '../document/index.ts';
import type { Affine } from '../geometry/index.ts';
import { type CameraPose, drawingOrder, placePlane } from '../stage/index.ts';

export const PLANE_STATES = ['drawn', 'hidden', 'passed'] as const;
/** `hidden` by the artist; `passed` by the camera. */
export type PlaneState = (typeof PLANE_STATES)[number];

interface PlaneFacts {
  readonly planeId: PlaneId;
  readonly shown: Shown;
  readonly distanceSpx: number;
  readonly speed: number;
  readonly opacity: number;
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
  /** In drawing order, far to near. */
  readonly planes: readonly PlanePlan[];
}

/**
 * Resolves a scene at `frame` (from 1; fractions allowed for sub-frame sampling), through the shot's own camera or
 * another `pose` that looks at it.
 */
export function framePlan(scene: Scene, frame: number, pose?: CameraPose): FramePlan {
  if (pose) return planThrough(scene, frame, pose);
  const last = lastPlans.get(scene);
  if (last?.frame === frame) return last;
  const plan = planThrough(scene, frame, cameraPoseAt(scene, frame));
  lastPlans.set(scene, plan);
  return plan;
}

/** The last plan of a scene through its own camera: all that shows a scene asks for the same one. */
const lastPlans = new WeakMap<Scene, FramePlan>();

function planThrough(scene: Scene, frame: number, pose: CameraPose): FramePlan {
  const stage = stageFrameOf(scene);
  const standings = standingsAt(scene, frame);
  const placements = scene.planes.map((plane) => placePlane(stage, pose, standings.get(plane.id)!));
  const order = drawingOrder(placements.map((placement) => placement.distanceSpx));
  const planes = order.map((index): PlanePlan => {
    const plane = scene.planes[index]!;
    const { artToFrame, distanceSpx, speed } = placements[index]!;
    const shown = shownAt(plane.content, frame, scene.rate);
    const { opacity, repeat } = plane;
    const facts = { planeId: plane.id, shown, distanceSpx, speed, opacity, repeat };
    if (plane.hidden) return { ...facts, state: 'hidden', artToFrame };
    return artToFrame
      ? { ...facts, state: 'drawn', artToFrame }
      : { ...facts, state: 'passed', artToFrame: null };
  });
  return { frame, widthPx: scene.frame.widthPx, heightPx: scene.frame.heightPx, pose, planes };
}
