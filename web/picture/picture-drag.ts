import type { Point } from '@keen-ridge/core/geometry';
import type { EditAction } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { Gesture } from '../session/gesture.ts';
import type { Session } from '../session/session.ts';
import type { PictureDrag, PicturePoint } from './picture.tsx';

interface Change {
  readonly action: EditAction;
  readonly subject: string;
  /** The scene with what was grasped moved by so many output px. */
  readonly change: (kept: Scene, by: Point, to: PicturePoint) => Scene;
  readonly click?: (at: PicturePoint) => void;
}

/** A drag in the picture that changes the scene, as one gesture. */
export function pictureDrag(
  session: Session,
  from: Point,
  { action, subject, change, click }: Change,
): PictureDrag {
  let gesture: Gesture | null = null;
  return {
    move: (to) => {
      gesture ??= session.begin(action, subject);
      const by = { x: to.at.x - from.x, y: to.at.y - from.y };
      gesture.update((kept) => change(kept, by, to));
    },
    keep: () => gesture?.keep(),
    drop: () => gesture?.drop(),
    ...(click ? { click } : {}),
  };
}
