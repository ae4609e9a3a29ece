import {
  DEPTH_WHITE,
  depthValue,
  HALF_ALPHA,
  hidingPlanes,
  MOTION_STILL,
  motionValue,
  type Pass,
} from '@keen-ridge/core/export';
import { applyAffine } from '@keen-ridge/core/geometry';
import type { Rendered } from '@keen-ridge/core/kernel';
import type { FramePlan, PlanePlan } from '@keen-ridge/core/staging/frame';
import { assertNever } from '@keen-ridge/core/units';

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Draws a plan on clear ground, 8 bit and straight. */
type Draw = (plan: FramePlan) => Promise<Rendered>;

/** Some of the planes, without the light that lies over all of them. */
const only = (plan: FramePlan, planes: readonly PlanePlan[]): FramePlan => ({
  ...plan,
  planes,
  glow: 0,
  vignette: 0,
  light: null,
});

/** A pass: depth as grey and motion as red and green in 16 bits, mattes as grey in 8. */
export function passPicture(draw: Draw, plan: FramePlan, pass: Pass, size: Size): Promise<Rendered> {
  switch (pass.kind) {
    case 'depth':
      return depthPicture(draw, plan, pass.farSpx, size);
    case 'matte':
      return mattePicture(draw, plan, pass, size);
    case 'motion':
      return motionPicture(draw, plan, pass, size);
    default:
      return assertNever(pass);
  }
}

/** Nearest first: once all px have their depth, what is behind need not be drawn. */
async function depthPicture(
  draw: Draw,
  plan: FramePlan,
  farSpx: number,
  { widthPx, heightPx }: Size,
): Promise<Rendered> {
  const count = widthPx * heightPx;
  const depth = new Uint16Array(count).fill(DEPTH_WHITE);
  const known = new Uint8Array(count);
  let open = count;
  for (const plane of hidingPlanes(plan)) {
    if (open === 0) break;
    const { data } = await draw(only(plan, [plane]));
    const value = depthValue(plane.distanceSpx, farSpx);
    for (let i = 0; i < count; i++) {
      if (known[i] !== 0 || data[4 * i + 3]! < HALF_ALPHA) continue;
      known[i] = 1;
      depth[i] = value;
      open--;
    }
  }
  const data = new Uint16Array(4 * count);
  for (let i = 0; i < count; i++) data.fill(depth[i]!, 4 * i, 4 * i + 3);
  for (let i = 3; i < data.length; i += 4) data[i] = 65_535;
  return { widthPx, heightPx, format: 'straight16', data };
}

/** How much of each px the plane covers; of what is seen, as much as the planes before it let through. */
async function mattePicture(
  draw: Draw,
  plan: FramePlan,
  { plane, isSeen }: Extract<Pass, { kind: 'matte' }>,
  { widthPx, heightPx }: Size,
): Promise<Rendered> {
  const at = plan.planes.findIndex(({ planeId }) => planeId === plane);
  const own = await draw(only(plan, plan.planes.slice(at, at + 1)));
  const before = isSeen ? plan.planes.slice(at + 1).filter((one) => one.mode === 'paint') : [];
  const over = before.length > 0 ? await draw(only(plan, before)) : null;
  const data = new Uint8Array(4 * widthPx * heightPx);
  for (let i = 0; i < data.length; i += 4) {
    const alpha = own.data[i + 3]!;
    const seen = over ? Math.round((alpha * (255 - over.data[i + 3]!)) / 255) : alpha;
    data.fill(seen, i, i + 3);
    data[i + 3] = 255;
  }
  return { widthPx, heightPx, format: 'straight8', data };
}

/** How far the paint at the middle of each px has gone a frame later, where the plane covers half of the px. */
async function motionPicture(
  draw: Draw,
  plan: FramePlan,
  { plane, toNext }: Extract<Pass, { kind: 'motion' }>,
  { widthPx, heightPx }: Size,
): Promise<Rendered> {
  const own = await draw(
    only(
      plan,
      plan.planes.filter(({ planeId }) => planeId === plane),
    ),
  );
  const [toX, toY] = [widthPx / plan.widthPx, heightPx / plan.heightPx];
  const data = new Uint16Array(4 * widthPx * heightPx);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const to = 4 * (y * widthPx + x);
      const isThere = toNext !== null && own.data[to + 3]! >= HALF_ALPHA;
      const at = { x: (x + 0.5) / toX, y: (y + 0.5) / toY };
      const next = isThere ? applyAffine(toNext, at) : at;
      data[to] = isThere ? motionValue((next.x - at.x) * toX) : MOTION_STILL;
      data[to + 1] = isThere ? motionValue((next.y - at.y) * toY) : MOTION_STILL;
      data[to + 2] = isThere ? DEPTH_WHITE : 0;
      data[to + 3] = DEPTH_WHITE;
    }
  return { widthPx, heightPx, format: 'straight16', data };
}
