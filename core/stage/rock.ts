import { type CameraPose, focalPx, type StageFrame } from './camera.ts';

export const ROCK_WAYS = ['across', 'down', 'truck', 'orbit'] as const;
/** How the camera sways: E–W, N–S, in and out, or a small circle of the first two with the third at half the pace. */
export type RockWay = (typeof ROCK_WAYS)[number];

export interface Rock {
  readonly way: RockWay;
  /** To either side, as a share of the frame's width on the datum. */
  readonly size: number;
  readonly periodSeconds: number;
}

/** The camera swayed from `pose` after `seconds`: back where it was after every period (an orbit: after two). */
export function rockedPose(frame: StageFrame, pose: CameraPose, rock: Rock, seconds: number): CameraPose {
  const turn = (2 * Math.PI * seconds) / rock.periodSeconds;
  const spx = (rock.size * frame.widthPx * frame.homeDistanceSpx) / focalPx(frame, pose);
  const [sin, cos] = [Math.sin(turn) * spx, Math.cos(turn) * spx];
  switch (rock.way) {
    case 'across':
      return { ...pose, xSpx: pose.xSpx + sin };
    case 'down':
      return { ...pose, ySpx: pose.ySpx + sin };
    case 'truck':
      return { ...pose, zSpx: pose.zSpx + sin };
    case 'orbit':
      return {
        ...pose,
        xSpx: pose.xSpx + sin,
        ySpx: pose.ySpx + (cos - spx) * 0.5,
        zSpx: pose.zSpx + Math.sin(turn / 2) * spx * 0.5,
      };
  }
}
