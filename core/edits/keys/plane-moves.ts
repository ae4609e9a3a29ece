import { applyAffine, type Point } from '../../geometry/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { type ChannelRef, shownValueAt } from '../../staging/index.ts';
import { frameToCarrier, withoutRiders } from '../planes/index.ts';
import { type CameraChange, setChannelValue } from './set-values.ts';

/** Slides planes on the frame by a step in output px, by their channels: keyed at the frame, or shifting all of a move. */
export function keyPlanesOnFrame(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  byPx: Point,
  change: CameraChange,
): Scene {
  return [...withoutRiders(scene, ids)].reduce((changed, id) => {
    const plane = planeOf(changed, id);
    const back = plane && frameToCarrier(changed, plane, change.frame);
    if (!back) return changed;
    const step = applyAffine({ ...back, e: 0, f: 0 }, byPx);
    return (['x', 'y'] as const).reduce((next, name) => {
      const ref: ChannelRef = { on: 'plane', plane: id, name };
      const by = step[name];
      return Math.abs(by) < 1e-9
        ? next
        : setChannelValue(next, ref, shownValueAt(next, ref, change.frame) + by, change);
    }, changed);
  }, scene);
}
