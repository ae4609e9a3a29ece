import type { Scene } from '../scene/index.ts';
import { differenceBetween } from './difference.ts';
import { applyPatch } from './land.ts';
import type { Patch } from './patch.ts';

/** A scene on its way to a worker: whole once, then only what has changed. */
export type SceneMessage =
  | { readonly kind: 'whole'; readonly scene: Scene }
  | { readonly kind: 'patch'; readonly patch: Patch };

/** Sends one scene after another to a worker that keeps a `SceneMirror`. */
export class SceneFeed {
  private last: Scene | null = null;

  /** What to post for `scene`. Every message must be posted, in order. */
  next(scene: Scene): SceneMessage {
    const { last } = this;
    this.last = scene;
    return last ? { kind: 'patch', patch: differenceBetween(last, scene) } : { kind: 'whole', scene };
  }
}

/**
 * The other end of a `SceneFeed`. Cloning a scene to a worker makes all of its records new; here what has not changed
 * stays the same object from scene to scene, so that memory by plane works on this side too.
 */
export class SceneMirror {
  private scene: Scene | null = null;

  /** Throws where a message was lost. */
  take(message: SceneMessage): Scene {
    if (message.kind === 'whole') {
      this.scene = message.scene;
      return message.scene;
    }
    const landed = this.scene && applyPatch(this.scene, message.patch);
    if (!landed?.ok) throw new Error('A scene came to a worker without the one before it');
    this.scene = landed.value.scene;
    return landed.value.scene;
  }
}
