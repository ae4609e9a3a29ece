import fc from 'fast-check';
import { setPlaneDepth } from '../edits/depth/index.ts';
import { deleteSelected, easeSelected, moveSelected, setCamera } from '../edits/keys/index.ts';
import {
  addPlanes,
  deletePlanes,
  reorderPlanes,
  setPlaneMount,
  setPlanesHidden,
} from '../edits/planes/index.ts';
import { setMarker } from '../edits/shot/index.ts';
import type { Scene } from '../scene/index.ts';
import { planeOf } from '../scene/records/index.ts';
import { CAMERA_CHANNELS, channelId, stageFault } from '../staging/index.ts';
import { EASE_PRESET_NAMES, EASE_PRESETS } from '../timing/index.ts';
import { testPlane, testPlaneId } from './scenes.ts';

/** Planes that random edits are about. */
export const STEP_PLANES = ['a', 'b', 'c', 'd'].map(testPlaneId);

export type Step = (scene: Scene) => Scene;
const id = fc.constantFrom(...STEP_PLANES);
const channel = fc.constantFrom(...CAMERA_CHANNELS);
const frame = fc.integer({ min: 1, max: 30 });
const value = fc.double({ min: 0.2, max: 50, noNaN: true });
const one = (name: (typeof CAMERA_CHANNELS)[number], at: number) =>
  new Map([[channelId({ on: 'camera', name }), new Set([at])]]);

/** One edit of a scene that has some of `STEP_PLANES`, as artists make them. */
export const randomSteps: fc.Arbitrary<Step> = fc.oneof(
  fc.tuple(channel, value, frame, fc.boolean()).map(
    ([name, v, at, keying]): Step =>
      (s) =>
        setCamera(s, { [name]: v }, { frame: at, keying }),
  ),
  fc.tuple(channel, frame, fc.integer({ min: -5, max: 40 })).map(
    ([name, at, by]): Step =>
      (s) =>
        moveSelected(s, one(name, at), by),
  ),
  fc.tuple(channel, frame).map(
    ([name, at]): Step =>
      (s) =>
        deleteSelected(s, one(name, at)),
  ),
  fc.tuple(channel, frame, fc.constantFrom(...EASE_PRESET_NAMES)).map(
    ([name, at, ease]): Step =>
      (s) =>
        easeSelected(s, one(name, at), EASE_PRESETS[ease]),
  ),
  fc.tuple(id, fc.double({ min: -3000, max: 9000, noNaN: true }), fc.boolean()).map(
    ([p, depthSpx, holdPicture]): Step =>
      (s) =>
        setPlaneDepth(s, p, { depthSpx, atFrame: 9, holdPicture }),
  ),
  fc.tuple(id, fc.boolean()).map(
    ([p, hidden]): Step =>
      (s) =>
        setPlanesHidden(s, new Set([p]), hidden),
  ),
  fc
    .tuple(
      id,
      fc.oneof(
        fc.constantFrom('stage' as const, 'camera' as const).map((on) => ({ on })),
        id,
      ),
    )
    .map(
      ([p, on]): Step =>
        (s) => {
          const goal = typeof on === 'string' ? { on: 'plane' as const, plane: on } : on;
          const mounted = setPlaneMount(s, p, goal, 9);
          return mounted.ok && !stageFault(mounted.value) ? mounted.value : s;
        },
    ),
  fc.tuple(id, fc.option(id)).map(
    ([p, before]): Step =>
      (s) =>
        reorderPlanes(s, new Set([p]), before),
  ),
  fc.tuple(frame, fc.constantFrom('lamp', 'gull')).map(
    ([at, note]): Step =>
      (s) =>
        setMarker(s, at, note),
  ),
  id.map(
    (p): Step =>
      (s) =>
        planeOf(s, p) ? deletePlanes(s, new Set([p])) : addPlanes(s, [testPlane({ id: p })]),
  ),
);
