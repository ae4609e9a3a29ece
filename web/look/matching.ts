import { setChannelValue } from '@keen-ridge/core/edits/keys';
import { beforeAir, type MatchingGrade, matchingGrade, packHex, type Triple } from '@keen-ridge/core/paint';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { gradeAt } from '@keen-ridge/core/staging/looks';
import { create } from 'zustand';

/** A colour is being picked in the picture, and what was picked: straight sRGB as the picture shows it. */
export interface Matching {
  readonly picking: 'from' | 'to' | null;
  readonly from: Triple | null;
  readonly to: Triple | null;
}

export const useMatching = create<Matching>(() => ({ picking: null, from: null, to: null }));

/**
 * The scene with the grade that brings one colour of a plane, as it is seen, to another; and how far it is off. Null where
 * the plane is not seen at the frame.
 */
export function matched(
  scene: Scene,
  id: PlaneId,
  { from, to }: { readonly from: Triple; readonly to: Triple },
  change: { readonly frame: number; readonly keying: boolean },
): { readonly scene: Scene; readonly grade: MatchingGrade } | null {
  const plane = planeOf(scene, id);
  const seen = framePlan(scene, change.frame).planes.find(({ planeId }) => planeId === id);
  if (!plane || seen?.state !== 'drawn') return null;
  const { air, matrix } = seen.look;
  const paintOf = (colour: Triple): Triple =>
    air ? beforeAir(colour, air.transmission, air.colour, air.gain) : colour;
  // Its own gains are taken back, so that what comes is a grade of the paint itself.
  const now = gradeAt(plane, change.frame);
  const own = now && matrix ? ([matrix[0], matrix[4], matrix[8]] as const) : ([1, 1, 1] as const);
  const bare = (colour: Triple): Triple =>
    now && now.saturation === 1
      ? (colour.map((v, c) => (own[c]! > 0 ? Math.min(1, v / own[c]!) : v)) as [number, number, number])
      : colour;
  const grade = matchingGrade(bare(paintOf(from)), paintOf(to));
  const values = [
    ['saturation', 1],
    ['brightness', grade.brightness],
    ['tint', packHex(grade.tint)],
    ['tintStrength', grade.tintStrength],
  ] as const;
  const next = values.reduce(
    (changed, [name, value]) => setChannelValue(changed, { on: 'plane', plane: id, name }, value, change),
    scene,
  );
  return { scene: next, grade };
}
