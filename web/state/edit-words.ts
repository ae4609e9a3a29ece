import type { HistoryEntry } from '@keen-ridge/core/contract';
import type { EditAction } from '@keen-ridge/core/document';

const WORDS: Readonly<Record<EditAction, string>> = {
  'add-planes': 'adding',
  'delete-planes': 'deleting',
  'rename-plane': 'renaming',
  'hide-planes': 'hiding',
  'show-planes': 'showing',
  'set-depth': 'depth of',
  'set-opacity': 'opacity of',
  'place-plane': 'placing',
  'remount-plane': 'mounting',
  'reorder-plane': 'order of',
  'key-camera': 'keying',
  'shift-camera': 'shifting',
  'move-keys': 'moving keys of',
  'delete-keys': 'deleting keys of',
  'set-ease': 'ease of',
  'set-length': 'length of',
  'set-frame-size': 'frame size of',
  'set-rate': 'rate of',
};

/** What an edit did, to stand behind “Undo” or “Redo”. */
export const editWords = ({ action, subject }: Pick<HistoryEntry, 'action' | 'subject'>): string =>
  `${WORDS[action]} ${subject}`;
