import { editWords } from './edit-words.ts';
import type { SessionFault } from './state/document.ts';

/** What was not done, and why, in one sentence. */
export function faultWords(fault: SessionFault): string {
  switch (fault.kind) {
    case 'unstageable':
      return `${fault.why}: nothing was changed.`;
    case 'no-scene':
      return `A shot cannot hold that (${fault.why}): nothing was changed.`;
    case 'only-looking':
      return 'You may look at this shot, but not change it. Ask who runs the production.';
    case 'too-large':
      return `This one edit is larger than the ${fault.mostMebibytes} MiB that can be kept at once: nothing was changed. Do it in parts.`;
    case 'met':
      return 'Somebody else has changed the same just now: nothing of yours was changed. Do it again on what is there now.';
    case 'taken-over': {
      const what = editWords(fault.entry);
      return `${fault.turn === 'undo' ? 'Undoing' : 'Redoing'} ${what} is not possible: ${fault.by ?? 'somebody else'} has changed the same since.`;
    }
  }
}
