import type { Plane, Scene } from '@keen-ridge/core/scene';
import { speedAtDepth } from '@keen-ridge/core/stage';
import { standingAt } from '@keen-ridge/core/staging';
import { nearestDepthColour } from '../../planes/depth-colour.ts';

/** The colour of a plane by its depth, as everywhere. */
export const depthRampColour = (scene: Scene, plane: Plane): string =>
  nearestDepthColour(speedAtDepth(standingAt(scene, plane, 1).depthSpx, scene.homeDistanceSpx));
