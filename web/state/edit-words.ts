import type { HistoryEntry } from '@keen-ridge/core/contract';
import type { EditAction } from '@keen-ridge/core/document';

const WORDS: Readonly<Record<EditAction, string>> = {
  'add-planes': 'adding',
  'delete-planes': 'deleting',
  'rename-plane': 'renaming',
  'hide-planes': 'hiding',
  'show-planes': 'showing',
  'set-depth': 'depth of',
  'spread-planes': 'spreading',
  'scale-depths': 'scaling depths of',
  'flatten-depths': 'flattening',
  'reverse-depths': 'reversing',
  'set-opacity': 'opacity of',
  'place-plane': 'placing',
  'flip-planes': 'flipping',
  'align-planes': 'aligning',
  'fit-plane': 'fitting',
  'remount-plane': 'mounting',
  'add-carrier': 'carrier for',
  'set-repeat': 'repeating',
  'set-run': 'run of',
  'run-world': 'running the world,',
  'close-loop': 'closing the loop of',
  'reorder-planes': 'order of',
  'lock-planes': 'locking',
  'unlock-planes': 'unlocking',
  'group-planes': 'grouping',
  'tidy-names': 'tidying names of',
  'set-content': 'changing',
  'new-version': 'new version of',
  'copy-plane': 'copying',
  'cut-plane': 'cutting',
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
