import { useMemo, useState } from 'react';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';

/** Docks that try something as soon as they are open: nothing of them is remembered. */
const FLEETING: ReadonlySet<string> = new Set(['spread']);

/** Which dock of a step is open and how wide it is; both are remembered. */
export function useStepDocks(step: 'stage' | 'move' | 'look') {
  const { open: remembered, widthPx } = usePreferences((state) => state.docks[step]);
  const [fleeting, setFleeting] = useState<string | null>(null);
  const open = fleeting ?? remembered;
  return useMemo(() => {
    const set = (part: Partial<{ open: string | null; widthPx: number }>) => {
      const { docks } = usePreferences.getState();
      setPreferences({ docks: { ...docks, [step]: { ...docks[step], ...part } } });
    };
    return {
      open,
      widthPx,
      onOpen: (next: string | null) => {
        const fleets = next !== null && FLEETING.has(next);
        setFleeting(fleets ? next : null);
        if (!fleets) set({ open: next });
      },
      onWidth: (next: number) => set({ widthPx: next }),
    };
  }, [step, open, widthPx]);
}
