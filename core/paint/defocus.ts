/**
 * Diameter of the disc to which a thin lens blurs a point at `distanceSpx`, in output px:
 * b = iris·f·|1/s − 1/d| (thin-lens formula of any optics handbook, for distances that are long against the focal
 * length). `irisSpx` is the diameter of the opening, `focalPx` the focal length in output px.
 * 0 with a closed iris, or a focus that is not in front of the camera.
 */
export function defocusPx(
  irisSpx: number,
  focalPx: number,
  focusDistanceSpx: number,
  distanceSpx: number,
): number {
  if (!(irisSpx > 0) || !(focusDistanceSpx > 0) || !(distanceSpx > 0)) return 0;
  return irisSpx * focalPx * Math.abs(1 / focusDistanceSpx - 1 / distanceSpx);
}
