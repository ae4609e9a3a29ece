/** The depth ramp, near to far. */
const RAMP = ['#7a4424', '#a47634', '#708048', '#3e7c7a', '#5c7aa0', '#9eb0c6'] as const;
const NEAREST_SPEED = 2;
const FARTHEST_SPEED = 1 / 13;

/** Where on the ramp a depth lies, given as speed at home: 0 to the index of its last colour. */
function placeOnRamp(speed: number): number {
  const share = Math.log(NEAREST_SPEED / Math.max(speed, 1e-6)) / Math.log(NEAREST_SPEED / FARTHEST_SPEED);
  return Math.min(1, Math.max(0, share)) * (RAMP.length - 1);
}

/** The colour of the ramp that is nearest: for what cannot mix colours itself. */
export const nearestDepthColour = (speed: number): string => RAMP[Math.round(placeOnRamp(speed))]!;

/** Colour of a depth given as speed at home: the ramp by log distance, mixed in OKLCH by the browser. */
export function depthColour(speed: number): string {
  const at = placeOnRamp(speed);
  const index = Math.min(RAMP.length - 2, Math.floor(at));
  return `color-mix(in oklch, ${RAMP[index + 1]} ${((at - index) * 100).toFixed(1)}%, ${RAMP[index]})`;
}
