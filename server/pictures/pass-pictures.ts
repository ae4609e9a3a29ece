import {
  DEPTH_WHITE,
  depthValue,
  HALF_ALPHA,
  hidingPlanes,
  MOTION_STILL,
  motionValue,
  type Pass,
} from '@keen-ridge/core/export';
import { type Affine, applyAffine } from '@keen-ridge/core/geometry';
import type { Rendered } from '@keen-ridge/core/kernel';
import type { FramePlan, PlanePlan } from '@keen-ridge/core/staging/frame';
import { assertNever } from '@keen-ridge/core/units';
import type { Grey } from './encode-frame.ts';

interface Size {
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Draws a plan on clear ground: its red, premultiplied. */
type Draw = (plan: FramePlan) => Promise<Rendered<'red8'>>;

/** A pass: depth as grey and motion as red and green in 16 bits, mattes as grey in 8. */
export async function passPicture(
  draw: Draw,
  plan: FramePlan,
  pass: Pass,
  size: Size,
): Promise<Rendered<'straight16'> | Grey> {
  switch (pass.kind) {
    case 'depth':
      return { ...size, format: 'grey16', data: await depthOf(draw, plan, pass.farSpx, size) };
    case 'matte':
      return { ...size, format: 'grey8', data: await matteOf(draw, plan, pass, size) };
    case 'motion':
      return { ...size, format: 'straight16', data: await motionOf(draw, plan, pass, size) };
    default:
      return assertNever(pass);
  }
}

/** A plane as a flat white or black shape: haze so thick that nothing of its colours comes through. */
const flat = (plane: PlanePlan, grey: 0 | 1): PlanePlan => ({
  ...plane,
  mode: 'paint',
  look: {
    matrix: null,
    air: { transmission: 0, colour: [grey, grey, grey], gain: [1, 1, 1] },
    filtered: false,
  },
});

/** How much of each px a plane covers, less what black planes before it cover of that: white paint under black paint. */
async function coverage(
  draw: Draw,
  plan: FramePlan,
  plane: PlanePlan,
  before: readonly PlanePlan[] = [],
): Promise<Uint8Array> {
  const planes = [flat(plane, 1), ...before.map((one) => flat(one, 0))];
  return (await draw({ ...plan, planes, glow: 0, vignette: 0, light: null })).data;
}

/** How much of each px the plane covers; of what is seen, less what hides it. */
async function matteOf(
  draw: Draw,
  plan: FramePlan,
  { plane: id, isSeen }: Extract<Pass, { kind: 'matte' }>,
  { widthPx, heightPx }: Size,
): Promise<Uint8Array> {
  const at = plan.planes.findIndex(({ planeId }) => planeId === id);
  const plane = plan.planes[at];
  if (plane?.state !== 'drawn') return new Uint8Array(widthPx * heightPx);
  const nearer = { ...plan, planes: plan.planes.slice(at + 1) };
  // As they are drawn: far to near.
  return coverage(draw, plan, plane, isSeen ? hidingPlanes(nearer).toReversed() : []);
}

/** Nearest first: once all px have their depth, what is behind need not be drawn. */
async function depthOf(
  draw: Draw,
  plan: FramePlan,
  farSpx: number,
  { widthPx, heightPx }: Size,
): Promise<Uint16Array> {
  const depth = new Uint16Array(widthPx * heightPx).fill(DEPTH_WHITE);
  let open = depth.length;
  for (const plane of hidingPlanes(plan)) {
    if (open === 0) break;
    open -= putDepth(depth, await coverage(draw, plan, plane), depthValue(plane.distanceSpx, farSpx));
  }
  return depth;
}

/** The highest bit of each of four bytes: from HALF_ALPHA on. */
const HALVES = 0x80808080;

/** Px that a plane covers, and no nearer one, get its depth. Returns how many. Four px at once where it covers none. */
function putDepth(depth: Uint16Array, covers: Uint8Array, value: number): number {
  const whole = depth.length >> 2;
  const words = new Uint32Array(covers.buffer, covers.byteOffset, whole);
  let put = 0;
  for (let word = 0; word < whole; word++) {
    if ((words[word]! & HALVES) === 0) continue;
    for (let i = 4 * word; i < 4 * word + 4; i++)
      if (covers[i]! >= HALF_ALPHA && depth[i] === DEPTH_WHITE) {
        depth[i] = value;
        put++;
      }
  }
  for (let i = 4 * whole; i < depth.length; i++)
    if (covers[i]! >= HALF_ALPHA && depth[i] === DEPTH_WHITE) {
      depth[i] = value;
      put++;
    }
  return put;
}

/** Red and green: how far the paint at the middle of a px has gone a frame later; blue: whether the plane is there. */
async function motionOf(
  draw: Draw,
  plan: FramePlan,
  { plane: id, toNext }: Extract<Pass, { kind: 'motion' }>,
  size: Size,
): Promise<Uint16Array> {
  const plane = plan.planes.find(({ planeId }) => planeId === id);
  const isDrawn = plane?.state === 'drawn' && toNext !== null;
  const covers = isDrawn ? await coverage(draw, plan, plane) : null;
  return motionPx(covers, toNext, size, plan);
}

function motionPx(
  covers: Uint8Array | null,
  toNext: Affine | null,
  { widthPx, heightPx }: Size,
  frame: Size,
): Uint16Array {
  const [toX, toY] = [widthPx / frame.widthPx, heightPx / frame.heightPx];
  const data = new Uint16Array(4 * widthPx * heightPx);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const px = y * widthPx + x;
      const at = { x: (x + 0.5) / toX, y: (y + 0.5) / toY };
      const isThere = covers !== null && covers[px]! >= HALF_ALPHA;
      const next = toNext !== null && isThere ? applyAffine(toNext, at) : null;
      data[4 * px] = next ? motionValue((next.x - at.x) * toX) : MOTION_STILL;
      data[4 * px + 1] = next ? motionValue((next.y - at.y) * toY) : MOTION_STILL;
      data[4 * px + 2] = next ? DEPTH_WHITE : 0;
      data[4 * px + 3] = DEPTH_WHITE;
    }
  return data;
}
