/** The steps in the order of the work: their routes and names. */
export const STEPS = [
  ['art', 'Art'],
  ['stage', 'Stage'],
  ['move', 'Move'],
  ['look', 'Look'],
  ['survey', 'Survey'],
  ['hand-off', 'Hand-off'],
] as const;
