import type { PlaneId, Scene } from '../scene/index.ts';
import { type FramePlan, framePlan, type PlanePlan } from '../staging/frame/index.ts';
import type { CHOSEN_SHOWN } from './what-frames-show.ts';

export interface ChosenPlanes {
  readonly ids: readonly PlaneId[];
  readonly shown: (typeof CHOSEN_SHOWN)[number];
}

/** Opacity that is left of a dimmed plane. */
export const DIMMED = 0.25;

export const isLeftOut = (chosen: ChosenPlanes | null, plane: PlaneId): boolean =>
  chosen?.shown === 'alone' && !chosen.ids.includes(plane);

/**
 * Part of a file name: which planes, and how. Ids are long: eight of their letters and digits tell apart what is asked of
 * one shot.
 */
export function chosenStem({ ids, shown }: ChosenPlanes): string {
  const told = [...ids].sort().join('');
  // FNV-1a, 32 bit: the same planes give the same name.
  let hash = 0x811c9dc5;
  for (const letter of told) hash = Math.imul(hash ^ letter.codePointAt(0)!, 0x01000193);
  return `${shown}-${(hash >>> 0).toString(16).padStart(8, '0')}`;
}

/** The plan of one plane in place, or of all of them. */
export const planOfPlane = (plan: FramePlan, plane: PlaneId | null): FramePlan =>
  plane === null ? plan : { ...plan, planes: plan.planes.filter(({ planeId }) => planeId === plane) };

/** The parts of a hand-off that say what of a frame is drawn. */
export interface PlanWishes {
  readonly pass: string;
  /** Without them planes are as they were painted: no grade, air, blur, focus, soft edge or filter. */
  readonly looks: boolean;
  readonly chosen: ChosenPlanes | null;
}

/** A frame with what is asked of it: of a pass the whole plan, since what is before a plane counts in its matte. */
export function planAsked(scene: Scene, wishes: PlanWishes, frame: number, plane: PlaneId | null): FramePlan {
  const { pass, looks, chosen } = wishes;
  const plan = framePlan(scene, frame);
  if (pass !== 'picture') return plan;
  const kept = planOfPlane(plan, plane).planes.filter(({ planeId }) => !isLeftOut(chosen, planeId));
  const dims = (id: PlaneId) => chosen?.shown === 'dimmed' && chosen.ids.includes(id);
  const shown = kept.map((one) => (dims(one.planeId) ? { ...one, opacity: one.opacity * DIMMED } : one));
  return looks ? { ...plan, planes: shown } : asPainted({ ...plan, planes: shown });
}

/** A plan without looks: what is left is place, opacity and how planes are laid over one another. */
const asPainted = (plan: FramePlan): FramePlan => ({
  ...plan,
  vignette: 0,
  glow: 0,
  light: null,
  planes: plan.planes.map(
    (plane): PlanePlan => ({
      ...plane,
      blurPx: 0,
      defocusPx: 0,
      softEdgePx: 0,
      look: { matrix: null, air: null, filtered: false },
    }),
  ),
});
