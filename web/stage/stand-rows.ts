import { factsOf, type Plane, type Scene } from '@keen-ridge/core/document';
import { mapBox } from '@keen-ridge/core/geometry';
import { framePlan } from '@keen-ridge/core/shot';
import { edgesInsideFramePx } from '@keen-ridge/core/survey';

export interface StandRow {
  readonly plane: Plane;
  readonly speed: number;
  /** Painted art on screen now, output px from the frame's left edge; null when nothing of it is in front. */
  readonly onScreen: { readonly left: number; readonly right: number } | null;
  /** A cut edge that stands inside the frame now. */
  readonly gapLeft: boolean;
  readonly gapRight: boolean;
  readonly passed: boolean;
}

/** The planes as the Stand lists them: near to far by depth, ties as the list has them. */
export function standRows(scene: Scene, frame: number): StandRow[] {
  const plan = new Map(framePlan(scene, frame).planes.map((plane) => [plane.planeId, plane]));
  return scene.planes
    .map((plane, index) => ({ plane, index }))
    .sort((p, q) => p.plane.depthSpx - q.plane.depthSpx || p.index - q.index)
    .map(({ plane }) => {
      const placed = plan.get(plane.id);
      const { painted, cutEdges } = factsOf(plane.content);
      const box = placed?.artToFrame && painted ? mapBox(placed.artToFrame, painted) : null;
      const inside = edgesInsideFramePx(scene, plane, frame);
      return {
        plane,
        speed: placed?.speed ?? 0,
        onScreen: box ? { left: box.x0, right: box.x1 } : null,
        gapLeft: cutEdges.left && (inside?.left ?? 0) > 0.5,
        gapRight: cutEdges.right && (inside?.right ?? 0) > 0.5,
        passed: placed?.state === 'passed',
      };
    });
}
