import type { Scene } from '../../scene/index.ts';
import { channelOf, recordOf } from '../../scene/records/index.ts';
import { cameraPoseAt, distanceToPlane } from '../../staging/index.ts';
import { mapValues } from '../../timing/index.ts';

const withoutKept = (scene: Scene): Scene => ({ ...scene, move: { ...scene.move, keepSize: null } });

/**
 * A zoom that keeps the size of a plane from a distance counts from that plane's new one after an edit, so that the camera
 * sees at `frame` as it did. Where there is no distance any more, the plane being on the camera, the zoom stays as large
 * as it was. A zoom that only keeps a plane from growing smaller has no distance to count from, and may change.
 */
export function withSizeHeld(before: Scene, after: Scene, frame: number): Scene {
  const { keepSize } = after.move;
  if (keepSize?.how !== 'same') return after;
  const pose = cameraPoseAt(withoutKept(after), frame);
  const [was, is] = [before, after].map((scene) => distanceToPlane(scene, keepSize.plane, pose, frame));
  if (was == null && is == null) return after;
  if (is == null) {
    const factor = cameraPoseAt(before, frame).zoom / pose.zoom;
    const zoom = recordOf(mapValues(channelOf(after.camera.zoom), (value) => value * factor));
    return { ...withoutKept(after), camera: { ...after.camera, zoom } };
  }
  const distanceSpx = was == null ? is : (keepSize.distanceSpx * is) / was;
  return distanceSpx === keepSize.distanceSpx
    ? after
    : { ...after, move: { ...after.move, keepSize: { ...keepSize, distanceSpx } } };
}
