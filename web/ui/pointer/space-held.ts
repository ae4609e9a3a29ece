let held = false;
let used = false;

/** Whether Space is down: with it, a drag pans the view. */
export const spaceIsHeld = (): boolean => held;

/** The press of Space that is under way meant a drag, so its end must not play the shot. */
export const spaceWasUsed = (): void => {
  used = held;
};

/** Notes a press of Space; told apart from its repeats. */
export const pressSpace = (): void => {
  if (!held) used = false;
  held = true;
};

/** Ends a press; true when it meant nothing but itself. */
export function releaseSpace(): boolean {
  const alone = held && !used;
  held = false;
  used = false;
  return alone;
}
