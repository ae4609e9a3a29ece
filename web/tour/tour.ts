import type { EditAction } from '@keen-ridge/core/history';
import { create } from 'zustand';
import type { SessionState } from '../session/session.ts';

/** What the artist does at a stop of the tour, and how it is known to be done. */
export interface Stop {
  readonly title: string;
  readonly words: string;
  /** `before`: as it was when the stop came. */
  readonly done: (now: TourSight, before: TourSight) => boolean;
}

/** What the tour sees. */
export interface TourSight {
  readonly state: Pick<SessionState, 'selection' | 'frame' | 'playing' | 'undo' | 'redo' | 'scene'>;
  /** The step that is open, such as `stage`. */
  readonly step: string;
}

/** Something of one of these kinds has been done since the stop came. */
const did =
  (...actions: readonly EditAction[]) =>
  (now: TourSight, before: TourSight): boolean => {
    const last = now.state.undo.at(-1);
    return last !== undefined && last.id !== before.state.undo.at(-1)?.id && actions.includes(last.action);
  };

export const STOPS: readonly Stop[] = [
  {
    title: 'A painting on a stage',
    words:
      'This is the Stage. On the left stands the Stand, the view down its depth: near at the top, far at the bottom. Click one of the planes, there or in the picture.',
    done: ({ state }) => state.selection.length === 1,
  },
  {
    title: 'Depth',
    words:
      'Drag its bar on the Stand up or down. It comes nearer or goes farther, and the picture stays as it is painted: that is Hold picture.',
    done: did('set-depth'),
  },
  {
    title: 'Nothing is final',
    words: 'Press Ctrl Z. Everything can be taken back, and Escape gives up whatever you are dragging.',
    done: (now, before) => now.state.redo.length > before.state.redo.length,
  },
  { title: 'The move', words: 'Go to Move, at the top of the page.', done: ({ step }) => step === 'move' },
  {
    title: 'Time',
    words:
      'Below lies the timing strip. Press End to go to the last frame. The arrow keys step, Home leads back.',
    done: ({ state }) => state.frame === state.scene.lengthFrames,
  },
  {
    title: 'A key',
    words:
      'Press Escape so that no plane is chosen, then drag in the picture: the camera pans, and is keyed at this frame. Frame 1 stays as it was.',
    done: did('key-camera'),
  },
  {
    title: 'Play',
    words: 'Press Space. The planes slide past one another at their own speeds: that is the depth you see.',
    done: ({ state }) => state.playing,
  },
  {
    title: 'Ease',
    words:
      'Press Space again to stop. In the strip, click the filled curve between two keys of the camera and choose another ease above it.',
    done: did('set-ease'),
  },
  {
    title: 'Out of the shot',
    words: 'Go to Hand-off: frames, films and packages leave from there.',
    done: ({ step }) => step === 'hand-off',
  },
];

/** At which stop the tour is; null: it is not under way. As many as there are: it has ended. */
export const useTour = create<{ readonly stop: number | null }>(() => ({ stop: null }));
export const startTour = (): void => useTour.setState({ stop: 0 });
export const endTour = (): void => useTour.setState({ stop: null });
/** Goes on from a stop; where that is no longer the one, it has been gone on from. */
export const nextStop = (from: number): void => {
  if (useTour.getState().stop === from) useTour.setState({ stop: from + 1 });
};
