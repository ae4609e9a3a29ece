import { mapBox } from '@keen-ridge/core/geometry';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { Root } from '@keen-ridge/core/stage';
import { repeatsAcross, standingsAt } from '@keen-ridge/core/staging';
import { factsAt } from '@keen-ridge/core/staging/content';
import { framePlan } from '@keen-ridge/core/staging/frame';

export interface StandRow {
  readonly plane: Plane;
  readonly root: Root;
  /** From the datum, whatever the plane rides on. */
  readonly depthSpx: number;
  readonly speed: number;
  /** Painted art on screen now, output px from the frame's left edge; null when nothing of it is in front. */
  readonly onScreen: { readonly left: number; readonly right: number } | null;
  /** The survey has found that it runs out there, and it does now. */
  readonly gapLeft: boolean;
  readonly gapRight: boolean;
  readonly passed: boolean;
}

const SMALLEST_GAP_PX = 0.5;

/** Whether the survey has found that a plane runs out on a side of the frame. */
export type RunsOut = (id: Plane['id'], side: 'left' | 'right') => boolean;
const NOWHERE: RunsOut = () => false;

/** The planes as the Stand lists them: near to far by depth, ties as the list has them. */
export function standRows(scene: Scene, frame: number, runsOut: RunsOut = NOWHERE): StandRow[] {
  const plan = new Map(framePlan(scene, frame).planes.map((plane) => [plane.planeId, plane]));
  const standings = standingsAt(scene, frame);
  return planesOf(scene)
    .map((plane): StandRow => {
      const placed = plan.get(plane.id);
      const { root, depthSpx } = standings.get(plane.id)!;
      const { painted } = factsAt(plane.content, frame, scene.rate);
      const box = placed?.artToFrame && painted ? mapBox(placed.artToFrame, painted) : null;
      const endless = box && repeatsAcross(plane.repeat);
      const inside = (px: number) => px > SMALLEST_GAP_PX;
      return {
        plane,
        root,
        depthSpx,
        speed: placed?.speed ?? 0,
        onScreen: endless
          ? { left: Number.NEGATIVE_INFINITY, right: Number.POSITIVE_INFINITY }
          : box && { left: box.x0, right: box.x1 },
        gapLeft: box !== null && inside(box.x0) && runsOut(plane.id, 'left'),
        gapRight: box !== null && inside(scene.frame.widthPx - box.x1) && runsOut(plane.id, 'right'),
        passed: placed?.state === 'passed',
      };
    })
    .sort((p, q) => p.depthSpx - q.depthSpx);
}
