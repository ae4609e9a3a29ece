import type { Affine } from '../../geometry/index.ts';

/**
 * A plane's place in glTF's axes (+X right, +Y up, +Z towards the viewer; the stage has +Y down and +Z away): a map of
 * its own px, y up, and how far along +Z it lies.
 */
export interface Planar {
  readonly map: Affine;
  readonly z: number;
}

/** Translation, rotation (quaternion x, y, z, w), scale of a node. */
export interface Pose {
  readonly translation: readonly [number, number, number];
  readonly rotation: readonly [number, number, number, number];
  readonly scale: readonly [number, number, number];
}

/** A map as one node, or as two where it is skewed: a turn within a stretch within a turn. */
export interface NodePoses {
  readonly outer: Pose;
  readonly inner: Pose;
}

export const flippedY = ({ a, b, c, d, e, f }: Affine): Affine => ({ a, b: -b, c: -c, d, e, f: -f });

const aboutZ = (rad: number): Pose['rotation'] => [0, 0, Math.sin(rad / 2), Math.cos(rad / 2)];

export const STILL: Pose = { translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] };

/** How far the axes may be from square, as a sine, and still be told by turn and size alone. */
const SQUARE = 1e-9;

export function isSkewed({ a, b, c, d }: Affine): boolean {
  return Math.abs(a * c + b * d) > SQUARE * Math.hypot(a, b) * Math.hypot(c, d);
}

/**
 * The poses whose product is the map at its height. With `skewed`, by the singular values of its linear part:
 * A = R(α)·diag(s)·R(β).
 */
export function posesOf({ map, z }: Planar, skewed: boolean): NodePoses {
  const { a, b, c, d, e, f } = map;
  const translation = [e, f, z] as const;
  if (!skewed) {
    const along = Math.hypot(a, b);
    const scale = [along, (a * d - b * c) / along, 1] as const;
    return { outer: { translation, rotation: aboutZ(Math.atan2(b, a)), scale }, inner: STILL };
  }
  const [mean, half, cross, turn] = [(a + d) / 2, (a - d) / 2, (b + c) / 2, (b - c) / 2];
  const [q, r] = [Math.hypot(mean, turn), Math.hypot(half, cross)];
  const [sum, difference] = [Math.atan2(turn, mean), Math.atan2(cross, half)];
  return {
    outer: { translation, rotation: aboutZ((sum + difference) / 2), scale: [q + r, q - r, 1] },
    inner: { ...STILL, rotation: aboutZ((sum - difference) / 2) },
  };
}
