import { type Box, mapBox } from '../geometry/index.ts';
import type { Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { frameOnPlane, homePose, placePlane } from '../stage/index.ts';
import { extentOf } from '../units/index.ts';
import { cameraPoseAt, stageFrameOf } from './camera-at.ts';
import { factsOf } from './content/index.ts';
import { standingsAt } from './standings.ts';

/** Paint that reaches farther than this many frames from the middle does not widen the view. */
const FARTHEST_FRAMES = 12;

/** All that fielding shows, px of the home frame: the painting as it stands at home, and every frame that the move passes. */
export function fieldingBox(scene: Scene): Box {
  const frame = stageFrameOf(scene);
  const home = homePose(frame);
  const { widthPx, heightPx } = frame;
  const standings = standingsAt(scene, 1);
  const painted = planesOf(scene).flatMap((plane): Box[] => {
    const { painted: paint } = factsOf(plane.content);
    const { artToFrame } = placePlane(frame, home, standings.get(plane.id)!);
    return paint && artToFrame && !plane.hidden ? [mapBox(artToFrame, paint)] : [];
  });
  const frames = [1, scene.lengthFrames].flatMap((at) => {
    const corners = frameOnPlane(frame, cameraPoseAt(scene, at), 0) ?? [];
    return corners.map(({ x, y }) => ({
      x0: x + widthPx / 2,
      y0: y + heightPx / 2,
      x1: x + widthPx / 2,
      y1: y + heightPx / 2,
    }));
  });
  const all = [{ x0: 0, y0: 0, x1: widthPx, y1: heightPx }, ...painted, ...frames];
  const far = FARTHEST_FRAMES;
  return {
    x0: Math.max(-far * widthPx, extentOf(all.map((box) => box.x0))[0]),
    y0: Math.max(-far * heightPx, extentOf(all.map((box) => box.y0))[0]),
    x1: Math.min((far + 1) * widthPx, extentOf(all.map((box) => box.x1))[1]),
    y1: Math.min((far + 1) * heightPx, extentOf(all.map((box) => box.y1))[1]),
  };
}
