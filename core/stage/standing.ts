import { type Affine, compose, IDENTITY, rotation, scaling, translation } from '../geometry/index.ts';

/** Where a plane's art stands on its plane: P = pos + R(rot)·[1 skew; 0 1]·diag(sx, sy)·(a − anchor). */
export interface PlaneTransform {
  readonly xSpx: number;
  readonly ySpx: number;
  readonly scaleX: number;
  readonly scaleY: number;
  readonly rotationDeg: number;
  /** Slide across for one px down, before the turn: 0 upright. Remounting alone makes it, where a turn meets a squash. */
  readonly skew: number;
  readonly anchorXArtPx: number;
  readonly anchorYArtPx: number;
}

export const ROOTS = ['stage', 'camera'] as const;
/** What everything rides on in the end. On the camera it keeps its place and size on screen through any move. */
export type Root = (typeof ROOTS)[number];

/** What a plane rides on, resolved: the root itself, or another plane with all that it rides on. */
export interface Carrier {
  readonly root: Root;
  /** From the datum. */
  readonly depthSpx: number;
  /** Stage px for one px of the carrier's own depth: grows with its size, as everything on it does. */
  readonly depthScale: number;
  /** From px of the carrier to stage px. */
  readonly toStage: Affine;
}

/** A plane as it stands on its carrier: depth and place count from there. */
export interface CarriedPlane {
  readonly depthSpx: number;
  readonly transform: PlaneTransform;
}

/** A plane with everything that it rides on resolved. */
export interface Standing {
  readonly root: Root;
  readonly depthSpx: number;
  /** Art px to stage px. */
  readonly artToStage: Affine;
  readonly carrier: Carrier;
}

export const ON_STAGE: Carrier = { root: 'stage', depthSpx: 0, depthScale: 1, toStage: IDENTITY };
export const ON_CAMERA: Carrier = { ...ON_STAGE, root: 'camera' };

const skewing = (skew: number): Affine => ({ ...IDENTITY, c: skew });

/** The plane's own px (origin in its anchor) to px of its carrier, without the art's anchor. */
function planeToCarrier(t: PlaneTransform): Affine {
  const sized =
    t.skew === 0 ? scaling(t.scaleX, t.scaleY) : compose(skewing(t.skew), scaling(t.scaleX, t.scaleY));
  return compose(translation(t.xSpx, t.ySpx), compose(rotation(t.rotationDeg), sized));
}

/** Art px to px of the plane's carrier. */
export const artToCarrier = (t: PlaneTransform): Affine =>
  compose(planeToCarrier(t), translation(-t.anchorXArtPx, -t.anchorYArtPx));

/** Stands a plane on its carrier; `slideArt` moves its art along its own axes, art px. */
export function standPlane(
  carrier: Carrier,
  { depthSpx, transform }: CarriedPlane,
  slideArt: { readonly x: number; readonly y: number } = STILL,
): Standing {
  const art = artToCarrier(transform);
  const slid = slideArt.x === 0 && slideArt.y === 0 ? art : compose(art, translation(slideArt.x, slideArt.y));
  return {
    root: carrier.root,
    depthSpx: carrier.depthSpx + carrier.depthScale * depthSpx,
    artToStage: carrier.toStage === IDENTITY ? slid : compose(carrier.toStage, slid),
    carrier,
  };
}

const STILL = { x: 0, y: 0 };

/**
 * What rides on a plane counts from its anchor, in its own px, and slides with it: position, turn and size multiply
 * on as in any scene graph; depth grows with the geometric mean of the two sizes.
 */
export function carrierFor(
  carrier: Carrier,
  { depthSpx, transform }: CarriedPlane,
  slideArt: { readonly x: number; readonly y: number } = STILL,
): Carrier {
  return {
    root: carrier.root,
    depthSpx: carrier.depthSpx + carrier.depthScale * depthSpx,
    depthScale: carrier.depthScale * Math.sqrt(Math.abs(transform.scaleX * transform.scaleY)),
    toStage: compose(
      carrier.toStage,
      compose(planeToCarrier(transform), translation(slideArt.x, slideArt.y)),
    ),
  };
}

/** The plane's own depth at which it stands `depthSpx` from the datum. */
export const depthOnCarrier = (carrier: Carrier, depthSpx: number): number =>
  (depthSpx - carrier.depthSpx) / carrier.depthScale;
