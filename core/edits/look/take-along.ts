import { z } from 'zod';
import { BLEND_MODES, type BlendMode, colourSchema, hexOfPacked, packHex } from '../../paint/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { CAMERA_LOOKS, type ChannelRef, isColour, shownValueAt } from '../../staging/index.ts';
import { PLANE_LOOKS } from '../../staging/looks/index.ts';
import { type CameraChange, setChannelValue } from '../keys/index.ts';
import { setBlendMode } from './looks.ts';

const number = z.number().min(-1e9).max(1e9);
const PLANE_KEPT = [...PLANE_LOOKS, 'blur', 'opacity'] as const;

/** A look as it is taken along: the camera's air and filter, or what a plane has of its own; colours by name. */
export const takenLookSchema = z.discriminatedUnion('of', [
  z.strictObject({
    of: z.literal('camera'),
    values: z.strictObject({
      airColour: colourSchema,
      visibility: number,
      brightness: number,
      tint: colourSchema,
      tintStrength: number,
      glow: number,
      vignette: number,
    }),
  }),
  z.strictObject({
    of: z.literal('plane'),
    mode: z.enum(BLEND_MODES),
    values: z.strictObject({
      brightness: number,
      saturation: number,
      tint: colourSchema,
      tintStrength: number,
      softEdge: number,
      blur: number,
      opacity: number,
    }),
  }),
]);
export type TakenLook = z.infer<typeof takenLookSchema>;

function valuesOf(
  scene: Scene,
  names: readonly string[],
  ref: (name: string) => ChannelRef,
  frame: number,
): Record<string, number | string> {
  return Object.fromEntries(
    names.map((name) => {
      const value = shownValueAt(scene, ref(name), frame);
      return [name, isColour(ref(name).name) ? hexOfPacked(value) : value];
    }),
  );
}

/** The look of the camera at a frame, or of a plane; null for a plane that is gone. */
export function lookTakenFrom(scene: Scene, of: 'camera' | PlaneId, frame: number): TakenLook | null {
  if (of === 'camera') {
    const values = valuesOf(scene, CAMERA_LOOKS, (name) => ({ on: 'camera', name }) as ChannelRef, frame);
    return takenLookSchema.parse({ of: 'camera', values });
  }
  const plane = planeOf(scene, of);
  if (!plane) return null;
  const values = valuesOf(
    scene,
    PLANE_KEPT,
    (name) => ({ on: 'plane', plane: of, name }) as ChannelRef,
    frame,
  );
  return takenLookSchema.parse({ of: 'plane', mode: plane.mode ?? 'paint', values });
}

/** Gives the camera, or planes, a look: keyed at the frame, or shifting what there is. What is so already gets no key. */
export function pasteLook(
  scene: Scene,
  look: TakenLook,
  planes: ReadonlySet<PlaneId>,
  change: CameraChange,
): Scene {
  if (look.of === 'camera')
    return withValues(scene, look.values, (name) => ({ on: 'camera', name }) as ChannelRef, change);
  const laid = setBlendMode(scene, planes, look.mode as BlendMode);
  return [...planes].reduce(
    (changed, plane) =>
      withValues(changed, look.values, (name) => ({ on: 'plane', plane, name }) as ChannelRef, change),
    laid,
  );
}

function withValues(
  scene: Scene,
  values: Readonly<Record<string, number | string>>,
  refOf: (name: string) => ChannelRef,
  change: CameraChange,
): Scene {
  return Object.entries(values).reduce((changed, [name, value]) => {
    const ref = refOf(name);
    const goal = typeof value === 'string' ? packHex(value) : value;
    return Math.abs(shownValueAt(changed, ref, change.frame) - goal) < 1e-12
      ? changed
      : setChannelValue(changed, ref, goal, change);
  }, scene);
}
