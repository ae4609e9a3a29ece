import type { CutRecipe } from '@keen-ridge/core/scene';
import { useState } from 'react';

interface Steps {
  readonly past: readonly CutRecipe[];
  readonly now: CutRecipe;
  readonly future: readonly CutRecipe[];
}

/** A recipe with its own steps back and again, while the cut is being made: the shot's history knows only the whole cut. */
export function useRecipe(first: CutRecipe) {
  const [{ past, now, future }, setSteps] = useState<Steps>({ past: [], now: first, future: [] });
  return {
    recipe: now,
    set: (next: CutRecipe) => setSteps({ past: [...past, now], now: next, future: [] }),
    /** The recipe before the last step, which it is now; null where there is none. */
    back: (): CutRecipe | null => {
      const before = past.at(-1);
      if (before) setSteps({ past: past.slice(0, -1), now: before, future: [now, ...future] });
      return before ?? null;
    },
    again: (): CutRecipe | null => {
      const [after, ...rest] = future;
      if (after) setSteps({ past: [...past, now], now: after, future: rest });
      return after ?? null;
    },
  };
}
