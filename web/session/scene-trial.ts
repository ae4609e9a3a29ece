import type { EditAction } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { Drag, DragPoint } from '../ui/pointer/drag.ts';
import type { BeginTrial } from '../ui/trial.ts';
import type { Gesture } from './gesture.ts';
import type { Session } from './session.ts';

/** A field of a number or a colour whose values are tried on the scene: each trial is one gesture. */
export const sceneTrial =
  <T>(
    session: Session,
    action: EditAction,
    subject: string,
    change: (scene: Scene, value: T) => Scene,
  ): BeginTrial<T> =>
  () => {
    const gesture = session.begin(action, subject);
    return {
      update: (value) => gesture.update((scene) => change(scene, value)),
      keep: () => gesture.keep(),
      drop: () => gesture.drop(),
    };
  };

interface SceneDrag extends Pick<Drag, 'click' | 'drop'> {
  readonly action: EditAction;
  readonly subject: string;
  readonly change: (scene: Scene, to: DragPoint) => Scene;
  /** What goes with it once it is kept. */
  readonly kept?: () => void;
}

/** A drag that changes the scene: the gesture begins when the pointer leaves the slack. */
export function sceneDrag(session: Session, { action, subject, change, kept, click, drop }: SceneDrag): Drag {
  let gesture: Gesture | null = null;
  return {
    move: (to) => {
      gesture ??= session.begin(action, subject, drop);
      gesture.update((scene) => change(scene, to));
    },
    keep: () => {
      gesture?.keep();
      kept?.();
    },
    ...(click ? { click } : {}),
    drop: () => gesture?.drop(),
  };
}
