import type { FramePlan, PlanePlan } from '../staging/frame/index.ts';
import type { Pass } from './passes.ts';

export interface Marked {
  readonly xPx: number;
  readonly yPx: number;
  readonly name: string;
}

/** All that the pixels of a frame follow from, besides the plan. */
export interface Picture {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly format: 'straight8' | 'straight16';
  /** `#rrggbb`, or clear. */
  readonly ground: string;
  /** In place of the picture: its depth or a matte. */
  readonly pass?: Pass | null;
  /** Words burnt in, or none. */
  readonly words: string;
  /** Points marked with their names, px of the frame as it stands in the scene. */
  readonly marks?: readonly Marked[];
  /** Names the program that draws and packs: other ones may give other bytes. */
  readonly program: string;
}

/**
 * Text that is the same for two frames exactly when they are drawn from the same: neither the number of the frame nor
 * the names, ids and distances of planes are in it, nor what is hidden, passed or clear.
 */
export function frameContent(plan: FramePlan, picture: Picture): string {
  const { vignette, glow, light, widthPx, heightPx } = plan;
  return JSON.stringify([
    picture,
    [widthPx, heightPx, vignette, glow, light],
    plan.planes.flatMap(drawnContent),
    // Which plane is which and how far it is tells only in its passes.
    ...(picture.pass ? [plan.planes.map(({ planeId, distanceSpx }) => [planeId, distanceSpx])] : []),
  ]);
}

function drawnContent(plane: PlanePlan): unknown[] {
  if (plane.state !== 'drawn' || plane.opacity <= 0) return [];
  const { artToFrame: m, opacity, blurPx, defocusPx, look, mode, softEdgePx, repeat, shown } = plane;
  const art =
    shown.kind === 'image'
      ? shown.art.id
      : [shown.paths.map(({ path, paint }) => [path, paint]), shown.facts.widthPx, shown.facts.heightPx];
  return [[art, [m.a, m.b, m.c, m.d, m.e, m.f], opacity, blurPx, defocusPx, look, mode, softEdgePx, repeat]];
}
