import { SIDES, type Side } from '../image/index.ts';
import type { PlaneId } from '../scene/index.ts';

/** What is known of a plane on every frame of the shot; index 0 is frame 1. */
export interface PlaneRows {
  readonly planeId: PlaneId;
  /** Output px² of it that show, nearer planes taken off. */
  readonly seenPx: Float32Array;
  /** Output px for an art px, the larger of both ways; 0 where it is not in front. */
  readonly ratio: Float32Array;
  /** How far its spot in the middle of the frame has gone since the frame before, output px. */
  readonly slidePx: Float32Array;
  /** Out of focus or blurred by so much, diameter in output px. */
  readonly blurPx: Float32Array;
  /** By side of the art: how far the side stands inside the frame, output px straight across it; under 0 it is spare; NaN where the side does not matter. */
  readonly inside: Readonly<Record<Side, Float32Array>>;
  /** By side of the art: missing paint beyond it that shows, output px². */
  readonly missing: Readonly<Record<Side, Float32Array>>;
  /** By side of the art: how far the frame reaches beyond its paint, art px; under 0 it is spare. */
  readonly shortArtPx: Readonly<Record<Side, Float32Array>>;
  /** By side of the art: which side of the frame it looks to, as an index into `SIDES`. */
  readonly looksTo: Readonly<Record<Side, Uint8Array>>;
  /** 1 where the box round its paint reaches into the frame. */
  readonly inFrame: Uint8Array;
  /** 1 where the camera has passed it. */
  readonly passed: Uint8Array;
}

const bySide = <T>(make: () => T): Record<Side, T> => ({
  left: make(),
  right: make(),
  top: make(),
  bottom: make(),
});

export function emptyRows(planeId: PlaneId, lengthFrames: number): PlaneRows {
  const numbers = () => new Float32Array(lengthFrames);
  return {
    planeId,
    seenPx: numbers(),
    ratio: numbers(),
    slidePx: numbers(),
    blurPx: numbers(),
    inside: bySide(() => numbers().fill(Number.NaN)),
    missing: bySide(numbers),
    shortArtPx: bySide(numbers),
    looksTo: bySide(() => new Uint8Array(lengthFrames)),
    inFrame: new Uint8Array(lengthFrames),
    passed: new Uint8Array(lengthFrames),
  };
}

/** Takes the rows of one frame, by index from 0, over from another survey; what had passed between two frames only on demand. */
export function copyRows(from: PlaneRows, to: PlaneRows, i: number, withSlide: boolean): void {
  to.seenPx[i] = from.seenPx[i]!;
  to.ratio[i] = from.ratio[i]!;
  to.blurPx[i] = from.blurPx[i]!;
  to.inFrame[i] = from.inFrame[i]!;
  to.passed[i] = from.passed[i]!;
  if (withSlide) to.slidePx[i] = from.slidePx[i]!;
  for (const side of SIDES) {
    to.inside[side][i] = from.inside[side][i]!;
    to.missing[side][i] = from.missing[side][i]!;
    to.shortArtPx[side][i] = from.shortArtPx[side][i]!;
    to.looksTo[side][i] = from.looksTo[side][i]!;
  }
}
