import { useSessionState } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';

const WORDS = {
  stale:
    'This shot was changed in another window. What you see here is the older state and is no longer saved.',
  refused: 'The server did not accept an edit, which is dropped. What was saved before it is safe.',
} as const;

/** Stands over a shot that can no longer be saved from this window. */
export function StaleNotice({ onReload }: { onReload: () => void }) {
  const saveState = useSessionState((state) => state.saveState);
  const saveFault = useSessionState((state) => state.saveFault);
  if (saveState !== 'stale' && saveState !== 'refused') return null;
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-fault bg-raised px-4 py-2">
      <span className="font-semibold text-fault">Not saved.</span>
      <span className="flex-1">
        {WORDS[saveState]}
        {saveState === 'refused' && saveFault !== null && ` It said: ${saveFault}`}
      </span>
      <Button tone="strong" onClick={onReload}>
        Reload the shot
      </Button>
    </div>
  );
}
