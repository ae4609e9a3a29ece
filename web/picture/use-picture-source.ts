import type { Scene } from '@keen-ridge/core/scene';
import { useMemo } from 'react';
import { usePreferences } from '../session/choices/preferences.ts';
import { useRestingFrame } from '../session/pace/use-frame.ts';
import { useSessionState, useShownScene } from '../session/use-session.ts';
import { type PictureExtras, pictureScene } from './live/picture-scene.ts';
import { useOtherPictures, usePlaneGhosts } from './other-pictures.tsx';

/** What a picture shows. */
export interface PictureSource {
  /** The scene as it is shown, without what the picture adds. */
  readonly whole: Scene;
  readonly extras: PictureExtras;
  /** With what the picture adds or leaves out, at `frame`. */
  readonly scene: Scene;
  /** While the shot plays the frame where play began, unless other pictures go with this one. */
  readonly frame: number;
  /** Other pictures are asked for with this one. */
  readonly others: boolean;
  readonly playing: boolean;
  /** Every frame is played, however long it takes. */
  readonly exact: boolean;
}

/** The scene of a picture, with ghosts, stand-in and soloed planes. */
export function usePictureSource(): PictureSource {
  const whole = useShownScene();
  const solo = useSessionState((state) => state.solo);
  const onion = useSessionState((state) => state.onion);
  const figure = useSessionState((state) => state.figure);
  const others = useOtherPictures();
  // A frame that plays goes to the renderer by itself, unless other pictures are asked for with it.
  const frame = useRestingFrame(others);
  const figureSize = usePreferences((state) => state.figure);
  const soloChannels = useSessionState((state) => state.soloChannels);
  const playing = useSessionState((state) => state.playing);
  const exact = usePreferences((state) => state.playMode === 'every') && playing;
  const ghosts = usePlaneGhosts(frame, whole.lengthFrames);
  const extras = useMemo(
    () => ({ solo, onion, figure, figureSize, soloChannels, ghosts }),
    [solo, onion, figure, figureSize, soloChannels, ghosts],
  );
  const scene = useMemo(() => pictureScene(whole, frame, extras), [whole, frame, extras]);
  return { whole, extras, scene, frame, others, playing, exact };
}
