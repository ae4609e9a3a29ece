import type { ArtFault } from '@keen-ridge/core/art';
import { LIMITS } from '@keen-ridge/core/scene';
import { fail } from '@keen-ridge/core/units';

/** All frames of one file together, unpacked. */
const MOST_MOVING_PIXELS = 2_000_000_000;

/** More frames, or more pixels in them, than a plane takes. */
export function movingFault(
  widthPx: number,
  heightPx: number,
  count: number,
): { ok: false; error: ArtFault } | null {
  const { max } = LIMITS.exposures;
  if (count > max)
    return fail({ code: 'too-large', detail: `its ${count} frames are more than the ${max} of a plane` });
  if (widthPx * heightPx * count > MOST_MOVING_PIXELS)
    return fail({
      code: 'too-large',
      detail: `its ${count} frames hold more than 2000 million pixels together`,
    });
  return null;
}
