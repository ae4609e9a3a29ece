import type { History } from '@keen-ridge/core/contract';
import { type Revision, sceneBefore } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { editWords } from '../session/edit-words.ts';
import { editsWords as say } from '../words/edits.ts';

const KIND_WORDS = { edit: '', undo: say.takenBack, redo: say.madeAgain } as const;

/** What a step did, as a line of the history: `Keying Pan E–W`, `Taken back: depth of Quay`. */
export function stepWords({ kind, entry }: Pick<Revision, 'kind' | 'entry'>): string {
  const words = editWords(entry);
  return KIND_WORDS[kind] === ''
    ? `${words[0]!.toUpperCase()}${words.slice(1)}`
    : `${KIND_WORDS[kind]}${words}`;
}

/** The scene as it was right after a revision; null where the steps do not lead back there. */
export function sceneAfter({ scene, revisions }: History, revision: number): Scene | null {
  return sceneBefore(
    scene,
    revisions.filter((step) => step.revision > revision),
  );
}
