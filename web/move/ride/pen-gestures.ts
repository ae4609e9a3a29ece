import type { PenSample } from '@keen-ridge/core/timing/moves';

/** A gesture as a pen recorded it: seconds, and output px from where it was put down. */
export interface PenGesture {
  readonly name: string;
  readonly samples: readonly PenSample[];
}

/** [seconds, x, y]: a gull that drifts down the wind, lifts, hangs and slides off east; made up by hand, shaky as hands are. */
const DRIFTING_GULL = [
  [0, 0, 0],
  [0.05, 3, 1],
  [0.1, 8, 3],
  [0.16, 16, 4],
  [0.22, 25, 8],
  [0.28, 34, 11],
  [0.34, 45, 17],
  [0.4, 55, 21],
  [0.47, 67, 28],
  [0.54, 78, 32],
  [0.61, 91, 37],
  [0.68, 103, 38],
  [0.75, 116, 40],
  [0.82, 128, 37],
  [0.9, 143, 35],
  [0.98, 156, 28],
  [1.06, 170, 22],
  [1.14, 183, 12],
  [1.22, 197, 4],
  [1.3, 209, -7],
  [1.39, 222, -15],
  [1.48, 233, -26],
  [1.57, 243, -33],
  [1.66, 251, -41],
  [1.76, 259, -45],
  [1.86, 265, -50],
  [1.96, 271, -51],
  [2.06, 276, -53],
  [2.16, 282, -51],
  [2.26, 289, -51],
  [2.37, 298, -47],
  [2.48, 309, -45],
  [2.59, 323, -39],
  [2.7, 338, -36],
  [2.81, 356, -30],
  [2.92, 374, -27],
  [3.03, 394, -22],
  [3.14, 413, -20],
  [3.26, 434, -17],
  [3.38, 454, -17],
  [3.5, 474, -15],
  [3.62, 492, -16],
  [3.74, 508, -15],
  [3.86, 521, -16],
  [4, 533, -15],
] as const;

/** What the simulated pen can replay. */
export const GESTURES: readonly PenGesture[] = [
  {
    name: 'Drifting gull',
    samples: DRIFTING_GULL.map(([seconds, x, y]) => ({ seconds, x, y })),
  },
  {
    name: 'Slow wave',
    samples: Array.from({ length: 49 }, (_, i) => {
      const seconds = i / 12;
      return { seconds, x: 40 * Math.sin(seconds * 1.6), y: 18 * Math.sin(seconds * 3.2) };
    }),
  },
];
