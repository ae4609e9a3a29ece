import type { EditAction } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';

/**
 * One change of the scene while it is being made: shown with every update, kept as one edit or dropped whole. There is
 * one at a time; Escape, a lost pointer, a left page, undo, and an edit of somebody else to the same drop it.
 */
export interface Gesture {
  /** Shows what `change` makes of the scene as the gesture found it; what others do meanwhile stays beneath. */
  update(change: (scene: Scene) => Scene): void;
  /** Keeps what was shown last. */
  keep(): void;
  drop(): void;
}

/** The gesture that is under way, as the session knows it. */
export interface OpenGesture {
  readonly action: EditAction;
  readonly subject: string;
  /** The scene that all its changes are made of. */
  readonly base: Scene;
  /** What was made of it last. */
  readonly made: Scene;
  readonly onDrop: () => void;
}
