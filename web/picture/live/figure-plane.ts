import { type Plane, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { standInFigure } from '@keen-ridge/core/shapes';
import { speedAtDepth } from '@keen-ridge/core/stage';
import { standingAt } from '@keen-ridge/core/staging';
import { newPlane } from '@keen-ridge/core/staging/content';
import type { StandInFigure } from '../../session/state/choice.ts';

/** How tall the figure is on the datum, and how many of its heads that is. */
export interface FigureSize {
  readonly heightPx: number;
  readonly heads: number;
}

/** The figure as a plane of its own, in front of the one that it stands on and as far away. Null when that is gone. */
export function figurePlane(
  scene: Scene,
  figure: StandInFigure,
  size: FigureSize,
  frame: number,
): Plane | null {
  const under = planeOf(scene, figure.planeId);
  if (!under) return null;
  const { root, depthSpx } = standingAt(scene, under, frame);
  const { widthPx, heightPx, body, scale } = standInFigure(size.heightPx, size.heads);
  const shape = (id: string, path: string, colour: string) => ({
    id,
    path,
    paint: { kind: 'solid' as const, colour, opacity: 0.85 },
  });
  const plane = newPlane(planeIdSchema.parse('stand-in'), 'Stand-in', {
    kind: 'shapes',
    widthPx,
    heightPx,
    shapes: [shape('scale', scale, '#ffffff'), shape('body', body, '#3a3a3a')],
  });
  const spxPerPx = 1 / speedAtDepth(depthSpx, scene.homeDistanceSpx);
  return {
    ...plane,
    mount: { on: root },
    depthSpx,
    transform: {
      ...plane.transform,
      anchorYArtPx: heightPx,
      xSpx: figure.feet.x * spxPerPx,
      ySpx: figure.feet.y * spxPerPx,
    },
  };
}
