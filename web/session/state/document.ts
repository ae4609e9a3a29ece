import type { EditAction, HistoryEntry } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { Lost, SaveState } from '../shot-link.ts';

/** The set-up of the shot, what led to it, and how far it is kept. */
export interface DocumentState {
  /** As edited here; the server may still be a few ops behind. */
  readonly scene: Scene;
  /** What is shown while a gesture is under way; nothing of it is kept until it ends. */
  readonly preview: Scene | null;
  readonly undo: readonly HistoryEntry[];
  readonly redo: readonly HistoryEntry[];
  readonly saveState: SaveState;
  /** What the server said, where it has not taken an edit yet. */
  readonly saveFault: string | null;
  /** Edits that could not be kept, until the artist has read of them. */
  readonly lost: readonly Lost[];
}

/** Why something that was asked of the session was not done. */
export type SessionFault =
  /** The scene could not be staged. */
  | { readonly kind: 'unstageable'; readonly why: string }
  /** The scene would hold what no scene may; names the field. */
  | { readonly kind: 'no-scene'; readonly why: string }
  /** The artist has no role that changes anything here. */
  | { readonly kind: 'only-looking' }
  | { readonly kind: 'too-large'; readonly mostMebibytes: number }
  /** Somebody else changed the same while it was being made. */
  | { readonly kind: 'met'; readonly action: EditAction }
  /** What should be undone or redone has been changed by somebody since; null: it is not known by whom. */
  | {
      readonly kind: 'taken-over';
      readonly turn: 'undo' | 'redo';
      readonly entry: HistoryEntry;
      readonly by: string | null;
    };
