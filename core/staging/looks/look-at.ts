import {
  type Air,
  type CameraFilter,
  CLEAR_VISIBILITY_SPX,
  type Grade,
  hexOfPacked,
  PLAIN_FILTER,
  PLAIN_GRADE,
  packHex,
} from '../../paint/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { channelOf } from '../../scene/records/index.ts';
import { type Channel, channelValueAt, type Interpolation } from '../../timing/index.ts';
import type { CameraLook } from '../camera-channels.ts';

/** What of a plane's look has keys of its own; blur and opacity are among its moves. */
export const PLANE_LOOKS = ['brightness', 'saturation', 'tint', 'tintStrength', 'softEdge'] as const;
export type PlaneLookChannel = (typeof PLANE_LOOKS)[number];
export const isPlaneLook = (name: string): name is PlaneLookChannel =>
  PLANE_LOOKS.some((look) => look === name);

/** The air of a shot that has none, as it would come in: a dusk far off. */
export const USUAL_AIR_COLOUR = '#9fb4c8';

type Looks = Pick<Scene, 'air' | 'filter' | 'looks'>;

/** How a channel of the looks runs between its keys. */
export const lookInterpolation = (name: CameraLook | PlaneLookChannel): Interpolation =>
  name === 'airColour' || name === 'tint' ? 'colour' : name === 'visibility' ? 'inverse' : 'linear';

/** What a look of the camera is where it has no keys; colours packed. */
export function cameraLookAtRest({ air, filter }: Looks, name: CameraLook): number {
  switch (name) {
    case 'airColour':
      return packHex(air?.colour ?? USUAL_AIR_COLOUR);
    case 'visibility':
      return air?.visibilitySpx ?? CLEAR_VISIBILITY_SPX;
    case 'tint':
      return packHex((filter ?? PLAIN_FILTER).tint);
    default:
      return (filter ?? PLAIN_FILTER)[name];
  }
}

const resting = (value: number): Channel => ({ value, keys: [] });

export function cameraLookChannel(scene: Looks, name: CameraLook): Channel {
  const record = scene.looks?.[name];
  return record ? channelOf(record) : resting(cameraLookAtRest(scene, name));
}

/** A packed colour as it is drawn: to a byte a channel at rest, as fine as it is mixed between keys. */
export interface ShotLooks {
  /** Null where it is clear. */
  readonly air: (Omit<Air, 'colour'> & { readonly colour: number }) | null;
  /** Null where it changes nothing. */
  readonly filter: (Omit<CameraFilter, 'tint'> & { readonly tint: number }) | null;
}

/** The air and the filter at `frame` (may be fractional). */
export function shotLooksAt(scene: Looks, frame: number): ShotLooks {
  const at = (name: CameraLook) => {
    const record = scene.looks?.[name];
    return record
      ? channelValueAt(channelOf(record), frame, lookInterpolation(name))
      : cameraLookAtRest(scene, name);
  };
  const share = (name: 'brightness' | 'tintStrength' | 'glow' | 'vignette', most: number) =>
    Math.min(most, Math.max(0, at(name)));
  const visibilitySpx = scene.air || scene.looks?.visibility ? at('visibility') : CLEAR_VISIBILITY_SPX;
  const filter = {
    brightness: share('brightness', 4),
    tint: at('tint'),
    tintStrength: share('tintStrength', 1),
    glow: share('glow', 1),
    vignette: share('vignette', 1),
  };
  const plain =
    filter.brightness === 1 && filter.tintStrength === 0 && filter.glow === 0 && filter.vignette === 0;
  return {
    air: visibilitySpx < CLEAR_VISIBILITY_SPX ? { colour: at('airColour'), visibilitySpx } : null,
    filter: plain && !scene.filter ? null : filter,
  };
}

/** What a look of a plane is where it has no keys; colours packed. */
export function planeLookAtRest({ grade }: Pick<Plane, 'grade'>, name: PlaneLookChannel): number {
  const now = grade ?? PLAIN_GRADE;
  if (name === 'tint') return packHex(now.tint);
  return name === 'softEdge' ? (now.softEdgePx ?? 0) : now[name];
}

export function planeLookChannel(plane: Pick<Plane, 'grade' | 'moves'>, name: PlaneLookChannel): Channel {
  const record = plane.moves[name];
  return record ? channelOf(record) : resting(planeLookAtRest(plane, name));
}

/** A plane's own look at one frame; its blur is in `appearanceAt`. */
export type GradeNow = Readonly<Record<PlaneLookChannel, number>>;

/** Null where the plane is as it was painted. */
export function gradeAt(plane: Pick<Plane, 'grade' | 'moves'>, frame: number): GradeNow | null {
  const { grade, moves } = plane;
  if (!grade && !PLANE_LOOKS.some((name) => moves[name])) return null;
  const at = (name: PlaneLookChannel) => {
    const record = moves[name];
    return record
      ? channelValueAt(channelOf(record), frame, lookInterpolation(name))
      : planeLookAtRest(plane, name);
  };
  const within = (name: PlaneLookChannel, most: number) => Math.min(most, Math.max(0, at(name)));
  return {
    brightness: within('brightness', 4),
    saturation: within('saturation', 4),
    tint: at('tint'),
    tintStrength: within('tintStrength', 1),
    softEdge: Math.max(0, at('softEdge')),
  };
}

/** A grade as it is stored, of one frame of a plane. */
export const gradeOf = (now: GradeNow, blurPx: number): Grade => ({
  brightness: now.brightness,
  saturation: now.saturation,
  tint: hexOfPacked(now.tint),
  tintStrength: now.tintStrength,
  blurPx,
  ...(now.softEdge > 0 ? { softEdgePx: now.softEdge } : {}),
});
