import type { Repeat, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { type FramePlan, framePlan } from '@keen-ridge/core/staging/frame';

/** One frame's plan as it is printed: planes in drawing order, far to near; `affine` is [a, b, c, d, e, f]. */
export interface PrintedPlan {
  readonly frame: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly planes: readonly {
    readonly name: string;
    readonly affine: readonly number[] | null;
    readonly distanceSpx: number;
    readonly speed: number;
    readonly repeat: Repeat;
    readonly visible: boolean;
  }[];
}

export function printedPlan(scene: Scene, frame: number): PrintedPlan {
  const plan: FramePlan = framePlan(scene, frame);
  const names = new Map(planesOf(scene).map((plane) => [plane.id, plane.name]));
  return {
    frame,
    widthPx: plan.widthPx,
    heightPx: plan.heightPx,
    planes: plan.planes.map(({ planeId, artToFrame: m, distanceSpx, speed, repeat, state }) => ({
      name: names.get(planeId) ?? planeId,
      affine: m && [m.a, m.b, m.c, m.d, m.e, m.f],
      distanceSpx,
      speed,
      repeat,
      visible: state === 'drawn',
    })),
  };
}

/** The same for people: a line a plane. */
export function planLines({ frame, widthPx, heightPx, planes }: PrintedPlan): string {
  const lines = planes.map(({ name, distanceSpx, speed, repeat, visible, affine }) => {
    const at = affine ? affine.map((value) => value.toFixed(4)).join(' ') : 'passed by the camera';
    return `${visible ? ' ' : '-'} ${name.padEnd(28)} ${distanceSpx.toFixed(1).padStart(10)} spx ${(speed * 100).toFixed(1).padStart(7)} %   ${at}${repeat === 'none' ? '' : `   repeats ${repeat}`}`;
  });
  return [`frame ${frame}, ${widthPx} x ${heightPx}, far to near (- is not drawn)`, ...lines].join('\n');
}
